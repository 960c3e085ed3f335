"""Trains the ear. Steps are counted, not seconds; the state is kept every five minutes and a run goes on from it."""
import os
import time
import numpy as np
import torch
from torch.nn import functional
from . import pieces
from .network import Ear
from .voices import FAMILIES, FAMILY, FAMILY_OF, KIND, KINDS, OUTPUTS, PULSE, TOM_PITCH, VELOCITY, tom_pitch

CROP, BATCH = 600, 8
WEIGHT = torch.tensor([{"ride": 1.3, "tom": 1.3, "crash": 1.5, "bell": 1.5}.get(f, 1.0) for f in FAMILIES])


def targets(truth, frames):
    """frames x outputs, and twice frames x 7: where a family is struck, which is where its kind and its velocity are asked, and where
    it is asked for at all: not at a stroke that nobody could tell."""
    out, struck = np.zeros((frames, len(OUTPUTS)), np.float32), np.zeros((frames, len(FAMILIES)), bool)
    asked = np.ones((frames, len(FAMILIES)), bool)

    def mark(column, at, height=1.0):
        for frame in range(max(0, int(at * 100) - 1), min(frames, int(at * 100) + 4)):
            out[frame, column] = max(out[frame, column], height * max(0, min(1, 1.5 - abs(frame - 100 * at))))
    for at, voice, velocity, hz, _ in (s for s in truth["strokes"] if not s[4]):
        asked[max(0, int(at * 100) - 2):int(at * 100) + 5, FAMILIES.index(FAMILY_OF[voice])] = False
    for at, voice, velocity, hz, _ in (s for s in truth["strokes"] if s[4]):
        family = FAMILIES.index(FAMILY_OF[voice])
        asked[max(0, int(at * 100) - 2):int(at * 100) + 5, family] = True
        mark(FAMILY.start + family, at)
        begin, end = max(0, int(at * 100)), min(frames, int(at * 100) + 2)
        struck[begin:end, family] = True
        out[begin:end, VELOCITY.start + family] = velocity
        for i, kind in enumerate(KINDS):
            if FAMILY_OF[kind] == FAMILY_OF[voice]:
                out[begin:end, KIND.start + i] = float(kind == voice)
        if voice == "tom":
            out[begin:end, TOM_PITCH] = tom_pitch(hz)
    for at, bar in truth["beats"]:
        mark(PULSE.start, at)
        if bar:
            mark(PULSE.start + 1, at)
    return out, struck, asked


class Clips:
    """Crops of pieces, varied each time they are drawn."""

    def __init__(self, folder, kind, seed, most=None):
        self.rng, self.folder, self.kind, self.most = np.random.default_rng(seed), folder, kind, most
        self.all = []
        self.more()

    def more(self):
        """Takes in what was made since: pieces may still be under way while the training runs."""
        for x, t in pieces.load(self.folder, self.kind, self.most, skip=len(self.all)):
            self.all.append((x, x.astype(np.float32).mean(axis=0), *(v.astype(np.float16 if i == 0 else bool) for i, v in enumerate(targets(t, len(x)))), bool(t["beats"])))

    def draw(self):
        rng, batch = self.rng, []
        for _ in range(BATCH):
            x, mean, y, struck, asked, beats = self.all[rng.integers(len(self.all))]
            at = rng.integers(len(x) - CROP)
            clip = np.concatenate([x[at:at + CROP].astype(np.float32), mean[None]])
            clip = self.vary(clip)
            batch.append((clip[:-1], clip[-1:], y[at:at + CROP].astype(np.float32), struck[at:at + CROP], asked[at:at + CROP], beats))
        return tuple(torch.from_numpy(np.stack(part)) for part in zip(*batch))

    def vary(self, clip):
        rng = self.rng
        shift = rng.integers(-1, 2)
        if shift:
            clip = np.concatenate([np.roll(clip[:, :24], shift, 1), np.roll(clip[:, 24:], shift, 1)], axis=1)
        curve = np.interp(np.arange(72), np.linspace(0, 71, 6), rng.normal(0, 3, 6)) + rng.normal(0, 1.5)
        clip = clip + (curve / 70).astype(np.float32)
        if rng.random() < .1:
            begin = rng.integers(40, 70)
            clip[:, begin:] -= (np.arange(72 - begin) * rng.uniform(.01, .08)).astype(np.float32)
        if rng.random() < .3:
            clip = np.maximum(clip, (rng.uniform(0, .3) + np.interp(np.arange(72), [0, 71], rng.uniform(-.1, .1, 2))).astype(np.float32))
        return np.clip(clip, 0, None)


def loss_of(logits, y, struck, asked, beats):
    families = y[..., FAMILY]
    per = functional.binary_cross_entropy_with_logits(logits[..., FAMILY], families, reduction="none") * (1 + 2 * families)
    loss = (per * WEIGHT * asked).mean()
    pulse = functional.binary_cross_entropy_with_logits(logits[..., PULSE], y[..., PULSE], reduction="none") * (1 + 2 * y[..., PULSE])
    loss = loss + .1 * 2 / 7 * (pulse * beats[:, None, None]).mean()
    there = struck.float()
    off = (torch.sigmoid(logits[..., VELOCITY]) - y[..., VELOCITY]).abs()
    loss = loss + .15 * (off * there).sum() / there.sum().clamp(min=1) * .3
    for i, kind in enumerate(KINDS):
        mask = there[..., FAMILIES.index(FAMILY_OF[kind])]
        wrong = functional.binary_cross_entropy_with_logits(logits[..., KIND.start + i], y[..., KIND.start + i], reduction="none")
        loss = loss + .01 * (wrong * mask).sum() / mask.sum().clamp(min=1)
    toms = there[..., FAMILIES.index("tom")]
    off = (torch.sigmoid(logits[..., TOM_PITCH]) - y[..., TOM_PITCH]).abs()
    return loss + .02 * (off * toms).sum() / toms.sum().clamp(min=1)


def train(folder, out, steps, seed=1, threads=2, most=None):
    torch.manual_seed(seed)
    torch.set_num_threads(threads)
    clips = Clips(folder, "training", seed, most)
    print(f"{len(clips.all)} pieces", flush=True)
    model, mean = Ear(), Ear()
    mean.load_state_dict(model.state_dict())
    optimizer = torch.optim.AdamW(model.parameters(), lr=2.5e-3, weight_decay=1e-2)
    state, begin = out + ".state", 0
    if os.path.exists(state):
        kept = torch.load(state)
        model.load_state_dict(kept["model"])
        mean.load_state_dict(kept["mean"])
        optimizer.load_state_dict(kept["optimizer"])
        clips.rng.bit_generator.state = kept["rng"]
        begin = kept["step"]
    saved, running = time.time(), 0.0
    for step in range(begin, steps):
        rate = 2.5e-3 * min(1, (step + 1) / 300) * .5 * (1 + np.cos(np.pi * step / steps))
        for group in optimizer.param_groups:
            group["lr"] = rate
        x, piece_mean, y, struck, asked, beats = clips.draw()
        model.train()
        loss = loss_of(model.logits(x, piece_mean), y, struck, asked, beats.float())
        optimizer.zero_grad()
        loss.backward()
        torch.nn.utils.clip_grad_norm_(model.parameters(), 2)
        optimizer.step()
        keep = min(.998, (step + 1) / (step + 10))
        with torch.no_grad():
            for kept, new in zip(mean.state_dict().values(), model.state_dict().values()):
                kept.copy_(kept * keep + new * (1 - keep) if kept.dtype.is_floating_point else new)
        running = .99 * running + .01 * float(loss)
        if (step + 1) % 500 == 0:
            clips.more()
        if (step + 1) % 200 == 0:
            print(f"{len(clips.all)} pieces, step {step + 1} of {steps}: loss {running / (1 - .99 ** min(step + 1, 2000)):.4f}", flush=True)
        if time.time() - saved > 300 or step + 1 == steps:
            torch.save({"model": model.state_dict(), "mean": mean.state_dict(), "optimizer": optimizer.state_dict(),
                        "rng": clips.rng.bit_generator.state, "step": step + 1}, state + ".new")
            os.replace(state + ".new", state)
            saved = time.time()
    torch.save(mean.state_dict(), out)
