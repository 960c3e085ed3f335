"""Trains the ear."""
import numpy as np
import torch
from torch.nn import functional
from . import features, pieces
from .descent import descend
from .network import Ear
from .voices import FAMILIES, FAMILY, FAMILY_OF, KIND, KINDS, ONSET, OUTPUTS, TOM_PITCH, VELOCITY, tom_pitch

CROP, BATCH = 1200, 4

# Numbers of 16 bits where the processor multiplies them: a third faster, and no worse.
with open("/proc/cpuinfo") as facts:
    HALF = "amx_bf16" in facts.read()
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
        mark(ONSET, at)
        begin, end = max(0, int(at * 100)), min(frames, int(at * 100) + 2)
        struck[begin:end, family] = True
        out[begin:end, VELOCITY.start + family] = velocity
        for i, kind in enumerate(KINDS):
            if FAMILY_OF[kind] == FAMILY_OF[voice]:
                out[begin:end, KIND.start + i] = float(kind == voice)
        if voice == "tom":
            out[begin:end, TOM_PITCH] = tom_pitch(hz)
    return out, struck, asked


class Clips:
    """Crops of pieces, varied each time they are drawn."""

    def __init__(self, folder, rng, most=None):
        self.rng, self.folder, self.most, self.all = rng, folder, most, []
        self.bands = [x.astype(np.float32) for x, _ in pieces.load(folder, "band")]
        self.more()

    def more(self):
        """Takes in what was made since: pieces may still be under way while the training runs."""
        for x, t in pieces.load(self.folder, "training", self.most, skip=len(self.all)):
            y, struck, asked = targets(t, len(x))
            self.all.append((x, x.astype(np.float32).mean(axis=0), y.astype(np.float16), struck, asked, t["band"]))

    def draw(self):
        rng, batch = self.rng, []
        for _ in range(BATCH):
            x, mean, y, struck, asked, band = self.all[rng.integers(len(self.all))]
            if rng.random() < .08:
                x = features.echoed(x, rng.uniform(6, 32), rng.uniform(-20, -4), rng.integers(1, 4))
                mean = x.mean(axis=0)
            if self.bands and not band and rng.random() < .6:
                x = features.together(x, self.bands[rng.integers(len(self.bands))], rng.uniform(-16, 12))
                mean = x.mean(axis=0)
            at = rng.integers(len(x) - CROP)
            clip = self.vary(np.concatenate([x[at:at + CROP].astype(np.float32), mean[None]]))
            batch.append((clip[:-1], clip[-1:], y[at:at + CROP].astype(np.float32), struck[at:at + CROP], asked[at:at + CROP]))
        return tuple(torch.from_numpy(np.stack(part)) for part in zip(*batch))

    def vary(self, clip):
        rng = self.rng
        shift = rng.integers(-1, 2)
        if shift:
            clip = np.concatenate([np.roll(clip[:, :24], shift, 1), np.roll(clip[:, 24:], shift, 1)], axis=1)
        curve = np.interp(np.arange(72), np.linspace(0, 71, 6), rng.normal(0, 4, 6)) + rng.normal(0, 1.5)
        clip = clip + (curve / 70).astype(np.float32)
        if rng.random() < .1:
            begin = rng.integers(40, 70)
            clip[:, begin:] -= (np.arange(72 - begin) * rng.uniform(.01, .08)).astype(np.float32)
        if rng.random() < .3:
            clip = np.maximum(clip, (rng.uniform(0, .3) + np.interp(np.arange(72), [0, 71], rng.uniform(-.1, .1, 2))).astype(np.float32))
        return np.clip(clip, 0, None)


def loss_of(logits, y, struck, asked):
    def strengths(columns):
        return functional.binary_cross_entropy_with_logits(logits[..., columns], y[..., columns], reduction="none") \
            * (1 + 2 * y[..., columns])
    loss = (strengths(FAMILY) * WEIGHT * asked).mean() + .2 * strengths(ONSET).mean()
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


def train(folder, out, rounds, seed=1, threads=2, most=None):
    """rounds: [(steps, rate)], see descent.py."""
    torch.manual_seed(seed)
    torch.set_num_threads(threads)
    rng = np.random.default_rng(seed)
    clips, model = Clips(folder, rng, most), Ear()
    print(f"{len(clips.all)} pieces, {len(clips.bands)} bands", flush=True)

    def loss_of_next(step):
        if step % 500 == 499:
            clips.more()
        x, mean, y, struck, asked = clips.draw()
        with torch.autocast("cpu", dtype=torch.bfloat16, enabled=HALF):
            logits = model.logits(x, mean)
        return loss_of(logits.float(), y, struck, asked)
    descend("ear", model, Ear(), loss_of_next, rng, rounds, out)
