"""Recordings with an idea planted among look-alikes, played on kits that nothing was trained on, and how well a running application finds it."""
import json
import os
import numpy as np
import soundfile
from . import band, kits, parts, rooms
from .asking import ask
from .measure_set import CODES, SIXTEENTHS
from .voices import RATE

KINDS = ["drums", "drums", "band", "old"]
LENGTHS = {"half a bar": 8, "a bar": 16, "two bars": 32}
BARS, PLANTED, ALIKE, LEAD = 48, 8, 8, .5


def idea(rng, sixteenths):
    """{sixteenth: drums} of kick and snare, dense enough to be known again."""
    out = {0: {str(rng.choice(["kick", "snare"]))}}
    for q in range(1, sixteenths):
        if rng.random() < (.6 if q % 2 == 0 else .3):
            out[q] = {str(rng.choice(["kick", "snare", "snare"]))}
    while len(out) < 4:
        out[int(rng.integers(1, sixteenths))] = {"snare"}
    return out


def alike(rng, strokes, sixteenths):
    """The same with two or three strokes elsewhere."""
    out = dict(strokes)
    for _ in range(int(rng.integers(2, 4))):
        if rng.random() < .5 and len(out) > 3:
            del out[list(out)[rng.integers(len(out))]]
        else:
            q = int(rng.integers(sixteenths))
            out[q] = {"snare" if out.get(q) == {"kick"} else "kick"}
    return out


def recording(rng, sixteenths):
    """(text of the idea, part, seconds of the planted places, bar lines)."""
    bpm, error = float(rng.uniform(76, 150)), float(rng.uniform(.002, .007))
    strokes = idea(rng, sixteenths)
    lines = LEAD + np.arange(BARS + 1) * 240 / bpm * (1 + .002 * np.sin(np.arange(BARS + 1) / 7))
    size = max(1, sixteenths // 16)
    free = [b for b in range(1, BARS - size) if b % size == 0]
    chosen = rng.permutation(free)[:PLANTED + ALIKE]
    groove = parts.Section(rng, parts.Player(rng, False), [1] * 4, "4/4")
    part, places, busy = parts.Part("4/4", bpm), [], []

    def at(bar, sixteenth):
        bar, sixteenth = bar + sixteenth // 16, sixteenth % 16
        return float(lines[bar] + (lines[bar + 1] - lines[bar]) * sixteenth / 16)
    for i, bar in enumerate(chosen):
        begin = 8 if sixteenths == 8 and rng.random() < .5 else 0
        here = strokes if i < PLANTED else alike(rng, strokes, sixteenths)
        if i < PLANTED:
            places.append(at(int(bar), begin))
        busy.append((at(int(bar), begin) - .03, at(int(bar), begin + sixteenths) - .03) if bar + size < BARS
            else (at(int(bar), begin) - .03, 1e9))
        for q, drums in here.items():
            for drum in drums:
                part.strokes.append(parts.Stroke(at(int(bar), begin + q) + float(rng.normal(0, error)), drum, float(rng.uniform(.65, .95))))
    for bar in range(BARS):
        part.beats += [(at(bar, 4 * beat), beat == 0) for beat in range(4)]
        for quarter, voice, velocity, pitch in groove.bar(False, bar % 8 == 7):
            time = float(lines[bar] + (lines[bar + 1] - lines[bar]) * quarter / 4) + float(rng.normal(0, error))
            if voice in ("kick", "snare", "stick", "tom") and any(a <= time < b for a, b in busy):
                continue
            part.strokes.append(parts.Stroke(time, voice, float(velocity), pitch))
    part.strokes.sort(key=lambda s: s.at)
    text = ""
    for drum in ("snare", "kick"):
        bars = [[SIXTEENTHS[(q + (8 if sixteenths == 8 else 0)) % 16] for q in sorted(strokes) if drum in strokes[q] and q // 16 == bar]
                for bar in range(size)]
        if any(bars):
            text += f"{CODES[drum]}: {' | '.join(' '.join(b) for b in bars)}\n"
    return text, part, sorted(places), [float(t) for t in lines]


def make(folder, count):
    os.makedirs(folder, exist_ok=True)
    names, lengths = list(kits.VALIDATION), list(LENGTHS)
    for number in range(count):
        rng = np.random.default_rng([number, 9])
        kind, length = KINDS[number % len(KINDS)], lengths[number // len(KINDS) % len(lengths)]
        text, part, places, lines = recording(rng, LENGTHS[length])
        seconds = lines[-1] + 1
        drums, _ = kits.render(rng, part, kits.validation_kit(rng, names[number % len(names)]), seconds)
        sound = rooms.reverb(rng, rooms.equalise(rng, drums / (np.sqrt(np.mean(drums ** 2)) + 1e-9), 3), False)
        if kind != "drums":
            sound = sound / np.sqrt(np.mean(sound ** 2)) + band.play(rng, part, seconds) * 10 ** (rng.uniform(-10, -3) / 20)
        if kind == "old":
            sound = rooms.band_limit(rooms.compress(rng, sound), 80, 6500)
            sound = sound + np.sqrt(np.mean(sound ** 2)) * .02 * rng.normal(size=len(sound))
        name = os.path.join(folder, f"recording-{number + 1:03}")
        soundfile.write(name + ".wav", sound / np.abs(sound).max() * .8, RATE, subtype="PCM_16")
        with open(name + ".json", "w") as file:
            json.dump({"kind": kind, "length": length, "text": text, "places": places, "lines": lines}, file, separators=(",", ":"))


def found(address, truth, wav, with_bars):
    """Seconds of what the application finds, the best first."""
    fields = {"idea": json.dumps({"text": truth["text"]})}
    if with_bars:
        lines = truth["lines"]
        fields |= {"tempo": f"{240 * (len(lines) - 1) / (lines[-1] - lines[0]):.2f}", "meter": "4/4",
                   "marks": json.dumps([{"bar": i + 1, "at": t} for i, t in enumerate(lines[:-1])])}
    return [p["at"] for p in ask(address, "/api/sound/find", fields, wav)["places"]]


def score_of(folder, address):
    """By kind of sound and length of the idea: precision at the number planted, recall at twice that, at 50 and at 100, average precision."""
    rows = {}
    for name in sorted(n for n in os.listdir(folder) if n.endswith(".json")):
        with open(os.path.join(folder, name)) as file:
            truth = json.load(file)
        for bars in (True, False):
            true, right = list(truth["places"]), []
            for at in found(address, truth, os.path.join(folder, name[:-5] + ".wav"), bars):
                near = next((t for t in true if abs(t - at) < .1), None)
                right.append(near is not None)
                if near is not None:
                    true.remove(near)
            n = len(truth["places"])
            precise = sum(sum(right[:i + 1]) / (i + 1) for i, r in enumerate(right) if r) / n
            told = [sum(right[:k]) for k in (n, 2 * n, 50, 100)] + [n, precise]
            for key in (truth["kind"], truth["length"]):
                rows.setdefault((key, bars), []).append(told)
    for (key, bars), told in sorted(rows.items(), key=lambda r: (not r[0][1], r[0][0])):
        at_n, at_2n, fifty, hundred, n, precise = np.sum(told, axis=0)
        print(f"{key}{'' if bars else ', bars not known'}, {len(told)} recordings: precision at n {at_n / n:.2f}, recall at 2n {at_2n / n:.2f}, "
              f"at 50 {fifty / n:.2f}, at 100 {hundred / n:.2f}, average precision {precise / len(told):.2f}", flush=True)
