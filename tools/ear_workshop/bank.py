"""Pieces played by a General MIDI bank that nothing is trained on: what the thresholds are chosen on, beside the hard kits.

Only the bank's copyleft sounds are heard here; nothing of them is in the weights. Needs Debian's fluidsynth and timgm6mb-soundfont."""
import json
import os
import struct
import subprocess
import tempfile
import numpy as np
import soundfile
from . import echo, features, parts, rooms
from .voices import RATE

BANK = "/usr/share/sounds/sf2/TimGM6mb.sf2"
SECONDS, TICKS = 20, 960  # ticks a second
NOTES = {"kick": 36, "snare": 38, "stick": 37, "closed": 42, "foot": 44, "open": 46, "ride": 51, "bell": 53, "cowbell": 56, "crash": 49}
TOMS = [41, 45, 48, 50]
NOTE_ON, NOTE_OFF, PROGRAM, DRUMS = 0x90, 0x80, 0xC0, 9


def midi_file(events):
    """The bytes of a one-track file. events: [(seconds, bytes)]."""
    track, last = bytearray(), 0
    for seconds, message in sorted(events):
        delta = max(0, int(round(seconds * TICKS)) - last)
        last += delta
        length = [delta & 127]
        while delta := delta >> 7:
            length.append((delta & 127) | 128)
        track += bytes(reversed(length)) + message
    track += b"\x00\xff\x2f\x00"
    tempo = b"\x00\xff\x51\x03" + (500_000).to_bytes(3, "big")
    return b"MThd" + struct.pack(">IHHH", 6, 0, 1, TICKS // 2) + b"MTrk" + struct.pack(">I", len(track) + len(tempo)) + tempo + bytes(track)


def velocity(stroke):
    soft = stroke.voice == "snare" and stroke.velocity <= .3
    return .2 + .5 * stroke.velocity if soft else .25 + .75 * stroke.velocity


def accompany(rng, beats):
    """A bass note a beat and a chord every other, for the listener to be disturbed by."""
    out = [(0, bytes([PROGRAM, 33])), (0, bytes([PROGRAM | 1, 0]))]
    for i, ((begin, _), (end, _)) in enumerate(zip(beats, beats[1:])):
        bass = int(rng.choice([33, 36, 38, 40, 43]))
        out += [(begin, bytes([NOTE_ON, bass, 100])), (end - .02, bytes([NOTE_OFF, bass, 0]))]
        if i % 2 == 0:
            for note in (57, 60, 64):
                out += [(begin, bytes([NOTE_ON | 1, note, 80])), (end + .3, bytes([NOTE_OFF | 1, note, 0]))]
    return out


def drums(strokes):
    """The events of a part's strokes."""
    out = []
    for stroke in strokes:
        note = NOTES.get(stroke.voice) or TOMS[round(stroke.pitch * 3)]
        out += [(stroke.at, bytes([NOTE_ON | DRUMS, note, int(velocity(stroke) * 127)])),
            (stroke.at + .1, bytes([NOTE_OFF | DRUMS, note, 0]))]
    return out


def played(events, seconds):
    """The bank's sound of events, one channel."""
    with tempfile.TemporaryDirectory() as folder:
        score, wav = os.path.join(folder, "piece.mid"), os.path.join(folder, "piece.wav")
        with open(score, "wb") as file:
            file.write(midi_file(events))
        subprocess.run(["fluidsynth", "-ni", "-g", "0.5", "-r", str(RATE), "-F", wav, BANK, score], check=True, capture_output=True)
        sound, _ = soundfile.read(wav, always_2d=True)
    return sound.mean(axis=1)[:int(seconds * RATE)]


def make(seed):
    """(sound, truth) of one piece; every other has a band."""
    rng = np.random.default_rng([seed, 9])
    while not (part := parts.make(rng, SECONDS)).beats:
        pass
    with_band = seed % 2 == 1
    sound = played(drums(part.strokes) + (accompany(rng, part.beats) if with_band else []), SECONDS)
    strokes = [(round(s.at * TICKS) / TICKS, s.voice, velocity(s), 100.0, True) for s in part.strokes]
    return sound, {"strokes": strokes, "beats": part.beats, "bpm": part.bpm, "meter": str(part.meter), "band": with_band}


# What a piece may have gone through.
THROUGH = {"bank": lambda rng, x: x, "coded": lambda rng, x: rooms.coded(x, 48), "telephone": lambda rng, x: rooms.telephone(x),
           "slap": rooms.slap}


def make_all(folder, count):
    os.makedirs(folder, exist_ok=True)
    for seed in range(count):
        paths = {kind: os.path.join(folder, f"{kind}-{seed:05}.npz") for kind in THROUGH}
        if all(map(os.path.exists, paths.values())):
            continue
        sound, truth = make(seed)
        for kind, path in paths.items():
            heard = THROUGH[kind](np.random.default_rng([seed, 3]), sound)
            np.savez(path + ".part.npz", features=features.features(echo.without(heard)).astype(np.float16), truth=json.dumps(truth))
            os.replace(path + ".part.npz", path)
