"""The beat: a second, small network that reads what the ear heard, 50 frames a second, 15 s each way, and says where beats and bars are.

It is trained on made-up parts alone, with strokes that are dropped, confused, weakened and added: no sound is needed."""
from concurrent.futures import ProcessPoolExecutor
from functools import partial
import numpy as np
import torch
from torch import nn
from torch.nn import functional
from . import parts
from .descent import descend
from .network import Residual
from .voices import FAMILIES, FAMILY_OF

RATE, MADE, LONGEST, SHORTEST, BATCH = 50, 36, 30, 8, 8

# Tempos that are told apart, in beats a minute: a quarter of an octave from one to the next.
TEMPOS = 40 * 2 ** (np.arange(11) / 4)


class Pulse(nn.Module):
    """batch x frames x 7 strengths to batch x frames x 2 (beat, bar line), 0 to 1. While it is trained it says the tempo too, one of the
    TEMPOS, at every frame: what it must know for that helps the beat. What is far off is looked at in moments of 80 ms."""

    EVERY = 4

    def __init__(self, width=64):
        super().__init__()
        self.into = nn.Sequential(nn.Conv1d(7, width, 5, padding=2, bias=False), nn.BatchNorm1d(width), nn.ReLU())
        self.time = nn.Sequential(*[Residual(width, d, .05) for d in (1, 2, 4, 8, 16, 32, 64, 128, 256)])
        self.far = nn.Sequential(*[Residual(width, d, .05) for d in (1, 2, 4, 8, 16, 32, 64)])
        self.tell = nn.Conv1d(width, width, 1)
        self.out = nn.Conv1d(width, 2 + len(TEMPOS), 1)
        nn.init.zeros_(self.tell.weight)
        nn.init.zeros_(self.tell.bias)

    def logits(self, x):
        near = self.time(self.into(x.transpose(1, 2)))
        far = self.tell(self.far(functional.max_pool1d(near, self.EVERY, ceil_mode=True)))
        far = far.unsqueeze(3).expand(-1, -1, -1, self.EVERY).flatten(2)[:, :, :near.shape[2]]
        return self.out(near + far).transpose(1, 2)

    def forward(self, x):
        return torch.sigmoid(self.logits(x)[..., :2])


def strengths(activations, velocities):
    """What the network reads, from the ear's 100 frames a second: strength x (0.3 + 0.7 velocity), the greater of two frames.
    frames x 7 each."""
    x = activations * (.3 + .7 * velocities)
    x = x[:len(x) // 2 * 2]
    return np.maximum(x[0::2], x[1::2])


def heard(rng, at, family, velocity, frames):
    """Strokes (seconds, number of the family, 0 to 1) as a poor ear would hear them: 100 frames a second x 7, and velocities."""
    out, loud = np.zeros((frames, 7), np.float32), np.zeros((frames, 7), np.float32)
    drop, soft_drop = rng.uniform(0, .25, 7) * (rng.random(7) < .5), rng.uniform(0, .8)
    if rng.random() < .15:
        drop[rng.integers(7)] = rng.uniform(.5, 1)
    confuse = rng.uniform(0, .2) if rng.random() < .4 else 0
    velocity_error, false = rng.uniform(.03, .2), rng.uniform(0, 1.5) if rng.random() < .4 else 0
    kept = ~((rng.random(len(at)) < drop[family]) | ((velocity < .35) & (rng.random(len(at)) < soft_drop)))
    wrong = rng.poisson(false * frames / 100)
    at = np.concatenate([at[kept], rng.uniform(0, frames / 100, wrong)])
    family = np.concatenate([family[kept], rng.integers(0, 7, wrong)])
    velocity = np.concatenate([velocity[kept], rng.uniform(.1, .7, wrong)])
    family = np.where(rng.random(len(at)) < confuse, rng.integers(0, 7, len(at)), family)
    height = np.where(rng.random(len(at)) < .3, rng.uniform(.5, 1, len(at)), rng.uniform(.85, 1, len(at)))
    loudness = np.clip(velocity + rng.normal(0, velocity_error, len(at)), .05, 1)
    for step in range(-1, 4):
        frame = (at * 100).astype(int) + step
        value = height * np.clip(1.5 - np.abs(frame - 100 * at), 0, 1)
        there = (frame >= 0) & (frame < frames) & (value > 0)
        cell = frame[there], family[there]
        before = out[cell]
        np.maximum.at(out, cell, value[there])
        grew = value[there] > before
        loud[cell[0][grew], cell[1][grew]] = loudness[there][grew]
    return out, loud


def made(number, seed):
    """A part as (strokes' seconds, families, velocities, beats' seconds, whether they begin a bar)."""
    rng = np.random.default_rng([number, seed, 21])
    while not (part := parts.make(rng, MADE, parts.ODD_METERS)).beats or len(part.beats) < 4:
        pass
    return (np.array([s.at for s in part.strokes]), np.array([FAMILIES.index(FAMILY_OF[s.voice]) for s in part.strokes], int),
            np.array([s.velocity for s in part.strokes]), np.array([b[0] for b in part.beats]), np.array([b[1] for b in part.beats]))


def example(rng, part, seconds):
    """Some seconds of a part, a little faster or slower than it was made: what is heard of it, beats and bar lines, and its tempos."""
    at, family, velocity, beats, bars = part
    stretch = rng.uniform(.92, 1.08)
    begin = rng.uniform(0, MADE * stretch - seconds)
    at, beats = at * stretch - begin, beats * stretch - begin
    here = (at >= 0) & (at < seconds - .03)
    x = strengths(*heard(rng, at[here], family[here], velocity[here], seconds * 100))
    y = np.zeros((seconds * RATE, 2 + len(TEMPOS)), np.float32)
    for step in range(-1, 3):
        frame = np.floor(beats * RATE).astype(int) + step
        value = np.clip(1 - np.abs(frame + .5 - RATE * beats) / 1.5, 0, 1)
        there = (frame >= 0) & (frame < len(y))
        np.maximum.at(y[:, 0], frame[there], value[there])
        np.maximum.at(y[:, 1], frame[there], (value * bars)[there])
    middle, bpm = (beats[1:] + beats[:-1]) / 2, 60 / np.diff(beats)
    place = np.clip(4 * np.log2(np.interp((np.arange(len(y)) + .5) / RATE, middle, bpm) / TEMPOS[0]), 0, len(TEMPOS) - 1.001)
    low = place.astype(int)
    y[np.arange(len(y)), 2 + low] = 1 - (place - low)
    y[np.arange(len(y)), 3 + low] = place - low
    return x, y


def loss_of(logits, y):
    strikes = functional.binary_cross_entropy_with_logits(logits[..., :2], y[..., :2], reduction="none") * (1 + 3 * y[..., :2])
    tempo = -(functional.log_softmax(logits[..., 2:], dim=2) * y[..., 2:]).sum(dim=2)
    return (strikes * torch.tensor([1.0, 2.0])).mean() + .1 * tempo.mean()


def train(out, rounds, count=8000, seed=1, threads=1):
    """rounds: [(steps, rate)], see descent.py."""
    with ProcessPoolExecutor() as pool:
        known = list(pool.map(partial(made, seed=seed), range(count), chunksize=50))
    torch.manual_seed(seed)
    torch.set_num_threads(threads)
    rng, model = np.random.default_rng(seed), Pulse()

    def loss_of_next(_):
        seconds = int(rng.integers(SHORTEST, LONGEST + 1))
        x, y = (torch.from_numpy(np.stack(p)) for p in zip(*(example(rng, known[rng.integers(count)], seconds) for _ in range(BATCH))))
        return loss_of(model.logits(x), y)
    descend("pulse", model, Pulse(), loss_of_next, rng, rounds, out)
