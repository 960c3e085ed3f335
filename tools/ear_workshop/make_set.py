"""Clips to test on, with their truth: kits and a sound bank that no training or validation uses, grooves that are count lines can say.

A clip is a FLAC file and a JSON beside it: strokes with seconds, voice and loudness; beats; meter and tempo; what kind of sound it is."""
import json
import os
import urllib.request
import numpy as np
import soundfile
from . import band, kits, parts, rooms, score
from .voices import FAMILIES, FAMILY_OF, RATE

# Of the validation kits, those that thresholds were not chosen on are these: see pieces.py.
KINDS = ["drums", "drums", "band", "old"]


def clip(number, seconds):
    """(sound, truth): four kinds of sound in turn."""
    rng = np.random.default_rng([number, 3])
    kind = KINDS[number % len(KINDS)]
    while True:
        part = parts.make(rng, seconds)
        if part.beats:
            break
    names = list(kits.VALIDATION)
    kit = kits.validation_kit(rng, names[number % len(names)])
    drums, struck = kits.render(rng, part, kit, seconds)
    drums = drums / (np.sqrt(np.mean(drums ** 2)) + 1e-9)
    sound = rooms.reverb(rng, rooms.equalise(rng, drums, 3), False)
    if kind != "drums":
        sound = sound / np.sqrt(np.mean(sound ** 2)) + band.play(rng, part, seconds) * 10 ** (rng.uniform(-10, -3) / 20)
    if kind == "old":
        sound = rooms.band_limit(rooms.compress(rng, sound), 80, 6500)
        sound = sound + np.sqrt(np.mean(sound ** 2)) * .02 * rng.normal(size=len(sound))
    truth = {"kind": kind, "meter": str(part.meter), "bpm": round(part.bpm, 3),
             "strokes": [{"at": round(at, 4), "voice": voice, "loudness": round(velocity, 3)} for at, voice, velocity, *_ in struck],
             "beats": [{"at": round(at, 4), "bar": bool(bar)} for at, bar in part.beats]}
    return sound / np.abs(sound).max() * .8, truth


def make(folder, count):
    os.makedirs(folder, exist_ok=True)
    for number in range(count):
        seconds = 8 + 7 * ((number * 5) % count) / max(1, count - 1)
        sound, truth = clip(number, seconds)
        name = os.path.join(folder, f"clip-{number + 1:02}")
        soundfile.write(name + ".flac", sound, RATE, subtype="PCM_16")
        with open(name + ".json", "w") as file:
            json.dump(truth, file, separators=(",", ":"))


def score_of(folder, address):
    """Sends each clip to /api/sound/onsets of a running application, and prints how much of it is right."""
    counts = {name: np.zeros(3) for name in FAMILIES + ["onset 50", "onset 25", "ghost"]}
    tempo = bars = clips = 0
    for name in sorted(n for n in os.listdir(folder) if n.endswith(".json")):
        with open(os.path.join(folder, name)) as file:
            truth = json.load(file)
        sound, _ = soundfile.read(os.path.join(folder, name[:-5] + ".flac"))
        wav = os.path.join(folder, "sent.wav")
        soundfile.write(wav, sound, RATE, subtype="PCM_16")
        with open(wav, "rb") as file:
            request = urllib.request.Request(address + "/api/sound/onsets", file.read(), {"Content-Type": "audio/wav"})
        heard = json.load(urllib.request.urlopen(request))
        os.remove(wav)
        clips += 1
        for family in FAMILIES:
            found = [o["at"] for o in heard["onsets"] if o["family"] == family]
            true = sorted(s["at"] for s in truth["strokes"] if FAMILY_OF[s["voice"]] == family)
            counts[family] += (score.matched(found, true, .05), len(found), len(true))
        found, true = score.merged([o["at"] for o in heard["onsets"]]), score.merged([s["at"] for s in truth["strokes"]])
        counts["onset 50"] += (score.matched(found, true, .05), len(found), len(true))
        counts["onset 25"] += (score.matched(found, true, .025), len(found), len(true))
        snares = [o["at"] for o in heard["onsets"] if o["family"] == "snare"]
        ghosts = [s["at"] for s in truth["strokes"] if s["voice"] == "snare" and s["loudness"] < .45]
        counts["ghost"] += (score.matched(snares, ghosts, .05), len(ghosts), len(ghosts))
        felt = truth["bpm"] / (1.5 if truth["meter"] in ("6/8", "12/8") else 1)
        tempo += bool(heard["tempo"]) and abs(heard["tempo"][0]["bpm"] / felt - 1) < .04
        lines = [b["at"] for b in truth["beats"] if b["bar"]]
        told = [b["at"] for b in heard["beats"] if b["bar"]]
        bars += score.f_measure(score.matched(told, lines, .07), len(told), len(lines)) > .8
    for name, (hits, found, true) in counts.items():
        print(f"{name:9} F {score.f_measure(hits, found, true):.3f}  precision {hits / max(1, found):.3f}  recall {hits / max(1, true):.3f}  of {int(true)}")
    families = sum(counts[f] for f in FAMILIES)
    print(f"family F {score.f_measure(*families):.3f}   tempo {tempo} of {clips}   bar lines {bars} of {clips}")
