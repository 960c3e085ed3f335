"""Pieces of 30 seconds: a part, a kit, a band in half of them, a room. Kept as features with their truth, one file a piece.

A piece depends on its number alone, and what is there already is not made again: a run that was stopped goes on."""
import functools
import json
import os
from concurrent.futures import ProcessPoolExecutor
import numpy as np
from . import band, echo, features, kits, parts, rooms

SECONDS = 30

# Bands from these numbers on ring below 1 kHz, and hold a bass there, every other of them nothing else.
RINGING, HOLDING = 240, 420


def make(seed, kind="training"):
    """(sound, truth) of one piece. Training seeds are even, those of validation odd."""
    rng = np.random.default_rng([seed, 1 if kind == "training" else 2])
    part = parts.make(rng, SECONDS)
    names = list(kits.VALIDATION)
    kit = kits.training_kit(rng, {s.voice for s in part.strokes}) if kind == "training" \
        else kits.validation_kit(rng, names[seed % len(names)])
    drums, struck = kits.render(rng, part, kit, SECONDS)
    with_band = rng.random() < .5
    sound = rooms.record(rng, drums, band.play(rng, part, SECONDS) if with_band else None)
    truth = {"strokes": struck, "beats": part.beats, "bpm": part.bpm, "meter": str(part.meter), "band": with_band}
    return sound, truth


def keep(folder, seed, kind):
    path = os.path.join(folder, f"{kind}-{seed:05}.npz")
    if os.path.exists(path):
        return
    sound, truth = make(seed, kind)
    np.savez(path + ".part.npz", features=features.features(echo.without(sound)).astype(np.float16), truth=json.dumps(truth))
    os.replace(path + ".part.npz", path)


def keep_band(folder, seed, _):
    """A band by itself, which any piece without one may be given."""
    path = os.path.join(folder, f"band-{seed:05}.npz")
    if os.path.exists(path):
        return
    rng = np.random.default_rng([seed, 11])
    play = band.play if seed < RINGING else band.keys if seed < HOLDING else functools.partial(band.keys, chords=False)
    while not (sound := play(rng, parts.make(rng, SECONDS), SECONDS)).any():
        pass
    sound = rooms.reverb(rng, rooms.equalise(rng, sound, 7), False)
    np.savez(path + ".part.npz", features=features.features(sound).astype(np.float16), truth="{}")
    os.replace(path + ".part.npz", path)


def make_all(folder, count, kind, workers):
    os.makedirs(folder, exist_ok=True)
    with ProcessPoolExecutor(workers) as pool:
        make_one = keep_band if kind == "band" else keep
        for done, _ in enumerate(pool.map(make_one, [folder] * count, range(count), [kind] * count, chunksize=4), 1):
            if done % 20 == 0:
                print(f"{kind}: {done} of {count}", flush=True)


def load(folder, kind, most=None, skip=0):
    """[(features, truth)] of what is there, in the order of their numbers, the first `skip` left out."""
    names = sorted(n for n in os.listdir(folder) if n.startswith(kind) and not n.endswith(".part.npz"))[skip:most]
    out = []
    for name in names:
        with np.load(os.path.join(folder, name)) as file:
            out.append((file["features"], json.loads(str(file["truth"]))))
    return out
