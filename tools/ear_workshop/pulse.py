"""The beat: a second, small network that reads what the ear heard, 50 frames a second, 10 s each way, and says where beats and bars are.

It is trained on made-up parts alone, with strokes that are dropped, confused, weakened and added: no sound is needed."""
import numpy as np
import torch
from torch import nn
from torch.nn import functional
from . import parts
from .descent import descend
from .network import Residual
from .voices import FAMILIES, FAMILY_OF

RATE, SECONDS, BATCH = 50, 30, 8


class Pulse(nn.Module):
    """batch x frames x 7 strengths to batch x frames x 2 (beat, bar line), 0 to 1."""

    def __init__(self, width=56):
        super().__init__()
        self.into = nn.Sequential(nn.Conv1d(7, width, 5, padding=2, bias=False), nn.BatchNorm1d(width), nn.ReLU())
        self.time = nn.Sequential(*[Residual(width, d) for d in (1, 2, 4, 8, 16, 32, 64, 128, 256)])
        self.out = nn.Conv1d(width, 2, 1)

    def logits(self, x):
        return self.out(self.time(self.into(x.transpose(1, 2)))).transpose(1, 2)

    def forward(self, x):
        return torch.sigmoid(self.logits(x))


def strengths(activations, velocities):
    """What the network reads, from the ear's 100 frames a second: strength x (0.3 + 0.7 velocity), the greater of two frames.
    frames x 7 each."""
    x = activations * (.3 + .7 * velocities)
    x = x[:len(x) // 2 * 2]
    return np.maximum(x[0::2], x[1::2])


def heard(rng, part, frames):
    """A part as a poor ear would hear it: 100 frames a second x 7, and velocities."""
    out, loud = np.zeros((frames, 7), np.float32), np.zeros((frames, 7), np.float32)
    drop, soft_drop = rng.uniform(0, .25, 7) * (rng.random(7) < .5), rng.uniform(0, .8)
    if rng.random() < .15:
        drop[rng.integers(7)] = rng.uniform(.5, 1)
    confuse = rng.uniform(0, .2) if rng.random() < .4 else 0
    velocity_error, false = rng.uniform(.03, .2), rng.uniform(0, 1.5) if rng.random() < .4 else 0
    strokes = [(s.at, FAMILIES.index(FAMILY_OF[s.voice]), s.velocity) for s in part.strokes]
    strokes += [(rng.uniform(0, frames / 100), rng.integers(7), rng.uniform(.1, .7)) for _ in range(rng.poisson(false * frames / 100))]
    for at, family, velocity in strokes:
        if rng.random() < drop[family] or (velocity < .35 and rng.random() < soft_drop):
            continue
        if rng.random() < confuse:
            family = rng.integers(7)
        height = rng.uniform(.5, 1) if rng.random() < .3 else rng.uniform(.85, 1)
        loudness = np.clip(velocity + rng.normal(0, velocity_error), .05, 1)
        for frame in range(max(0, int(at * 100) - 1), min(frames, int(at * 100) + 4)):
            value = height * max(0, min(1, 1.5 - abs(frame - 100 * at)))
            if value > out[frame, family]:
                out[frame, family], loud[frame, family] = value, loudness
    return out, loud


def example(rng):
    while True:
        part = parts.make(rng, SECONDS)
        if part.beats:
            break
    x = strengths(*heard(rng, part, SECONDS * 100))
    y = np.zeros((SECONDS * RATE, 2), np.float32)
    for at, bar in part.beats:
        for frame in range(max(0, int(at * RATE) - 1), min(len(y), int(at * RATE) + 3)):
            value = max(0, 1 - abs(frame + .5 - RATE * at) / 1.5)
            y[frame, 0] = max(y[frame, 0], value)
            y[frame, 1] = max(y[frame, 1], value * bar)
    return x, y


def train(out, steps, seed=1, threads=1):
    torch.manual_seed(seed)
    torch.set_num_threads(threads)
    rng, model = np.random.default_rng(seed), Pulse()

    def loss_of_next(_):
        x, y = (torch.from_numpy(np.stack(p)) for p in zip(*(example(rng) for _ in range(BATCH))))
        per = functional.binary_cross_entropy_with_logits(model.logits(x), y, reduction="none") * (1 + 3 * y)
        return (per * torch.tensor([1.0, 2.0])).mean()
    descend("pulse", model, Pulse(), loss_of_next, rng, steps, out)
