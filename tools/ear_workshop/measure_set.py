"""Passages with known lateness, played on kits that nothing was trained on, and how well a running application measures them."""
import json
import os
import numpy as np
import soundfile
from . import band, bank, kits, parts, rooms
from .asking import ask
from .voices import RATE

KINDS = ["drums", "drums", "band", "old"]
CODES = {"closed": "HH", "ride": "RD", "kick": "BD", "snare": "SN"}
BARS, LEAD = 4, .7
SIXTEENTHS = ["1", "1e", "1&", "1a", "2", "2e", "2&", "2a", "3", "3e", "3&", "3a", "4", "4e", "4&", "4a"]


def passage(rng):
    """(count lines, `at`, part, truth): eighths of a timekeeper, a kick, back-beats; late by voice, one stroke late by itself, swing,
    bars at tempos of their own, a stroke that is written and not played and one that is played and not written, flams."""
    keeper = str(rng.choice(["closed", "ride"], p=[.7, .3]))
    bpm = float(rng.uniform(72, 168))
    swing = float(rng.uniform(1.25, 2)) if rng.random() < .3 else 1.0
    error = float(rng.uniform(.001, .004))
    late = {keeper: 0.0, "snare": float(rng.uniform(-.008, .022)), "kick": float(rng.uniform(-.012, .012))}
    tempos = bpm * np.exp(np.cumsum(rng.normal(0, .012, BARS)))
    lines = LEAD + np.concatenate([[0], np.cumsum(240 / tempos)])
    flams = rng.random() < .3
    kick = [0] + [q for q in range(1, 16) if q % 2 == 0 and rng.random() < .3 or q % 2 and swing == 1 and rng.random() < .08]
    strokes = []  # bar, sixteenth, voice, written, played, odd, flam
    for bar in range(BARS):
        strokes += [[bar, q, keeper, True, True, 0.0, 0.0] for q in range(0, 16, 2)]
        strokes += [[bar, q, "kick", True, True, 0.0, 0.0] for q in kick]
        strokes += [[bar, q, "snare", True, True, 0.0, (float(rng.uniform(.022, .045)) if flams and rng.random() < .5 else 0.0)]
            for q in (4, 12)]
    if rng.random() < .5:
        odd = [s for s in strokes if s[2] != keeper][rng.integers(sum(s[2] != keeper for s in strokes))]
        odd[5] = float(rng.uniform(.035, .055))
    if rng.random() < .35:
        gone = [s for s in strokes if s[2] == "kick" and s[1] and not s[5]]
        if gone:
            gone[rng.integers(len(gone))][4] = False
        free = [(b, q) for b in range(BARS) for q in (6, 10, 14) if not any(s[0] == b and s[1] == q and s[2] == "snare" for s in strokes)]
        bar, q = free[rng.integers(len(free))]
        strokes.append([bar, q, "snare", False, True, 0.0, 0.0])
    part = parts.Part("4/4", bpm)
    truth = {"strokes": [], "missing": [], "extra": [], "odd": [], "late": {CODES[v]: 1000 * x for v, x in late.items()},
             "bars": [float(t) for t in tempos], "swing": swing, "error": 1000 * error, "keeper": CODES[keeper]}
    for bar, q, voice, written, played, odd, flam in sorted(strokes, key=lambda s: (s[0], s[1])):
        tick = bar * 4 * 960 + q * 240
        if not played:
            truth["missing"].append((q, bar, CODES[voice]))
            continue
        beat, inner = divmod(q, 4)
        share = swing / (1 + swing)
        place = beat + (inner / 2 * share if inner <= 2 else share + (inner - 2) / 2 * (1 - share))
        own = late[voice] + float(rng.normal(0, error)) + odd
        at = float(lines[bar] + place / 4 * (lines[bar + 1] - lines[bar])) + own
        part.strokes.append(parts.Stroke(at, voice, float(rng.uniform(.7, .95)), .5))
        if flam:
            part.strokes.append(parts.Stroke(at - flam, voice, .35, .5))
        if written:
            truth["strokes"].append({"place": (bar, q), "voice": CODES[voice], "at": at, "offset": 1000 * own, "flam": 1000 * flam})
            if odd:
                truth["odd"].append((bar, q, CODES[voice]))
        else:
            truth["extra"].append(at)
    part.strokes.sort(key=lambda s: s.at)
    for bar in range(BARS):
        for beat in range(4):
            part.beats.append((float(lines[bar] + beat / 4 * (lines[bar + 1] - lines[bar])), beat == 0))
    text = f"tempo {bpm * rng.uniform(.982, 1.018):.1f}\n"
    for voice in (keeper, "snare", "kick"):
        line = []
        for bar in range(BARS):
            line.append(" ".join(SIXTEENTHS[s[1]] + ("f" if s[6] else "") for s in strokes if s[0] == bar and s[2] == voice and s[3]))
        text += f"{CODES[voice]}: {' | '.join(line)}\n"
    return text, float(lines[0] + rng.uniform(-.018, .018)), part, truth, float(lines[-1]) + 1


def make(folder, count, by="kits"):
    """`by`: kits, or the bank."""
    os.makedirs(folder, exist_ok=True)
    names = list(kits.VALIDATION)
    for number in range(count):
        rng = np.random.default_rng([number, 5 if by == "kits" else 6])
        kind = KINDS[number % len(KINDS)]
        text, at, part, truth, seconds = passage(rng)
        if by == "bank":
            sound = bank.played(bank.drums(part.strokes) + (bank.accompany(rng, part.beats) if kind == "band" else []), seconds)
        else:
            drums, _ = kits.render(rng, part, kits.validation_kit(rng, names[number % len(names)]), seconds)
            sound = rooms.reverb(rng, rooms.equalise(rng, drums / (np.sqrt(np.mean(drums ** 2)) + 1e-9), 3), False)
            if kind != "drums":
                sound = sound / np.sqrt(np.mean(sound ** 2)) + band.play(rng, part, seconds) * 10 ** (rng.uniform(-10, -3) / 20)
        if kind == "old":
            sound = rooms.band_limit(rooms.compress(rng, sound), 80, 6500)
            sound = sound + np.sqrt(np.mean(sound ** 2)) * .02 * rng.normal(size=len(sound))
        name = os.path.join(folder, f"passage-{number + 1:03}")
        soundfile.write(name + ".wav", sound / np.abs(sound).max() * .8, RATE, subtype="PCM_16")
        with open(name + ".json", "w") as file:
            json.dump({"kind": kind, "text": text, "at": at, **truth}, file, separators=(",", ":"))


def place(tick):
    """(bar, sixteenth) of a tick; the application's quarter is told by the first whole one that comes."""
    return tick // (4 * QUARTER), round(tick % (4 * QUARTER) * 4 / QUARTER)


QUARTER = 10080


def score_of(folder, address):
    """By kind of sound: errors of single strokes and of means, whether intervals cover, odd strokes, swing, bar tempos, what is missing and
    what is too much, flams."""
    rows = {}
    for name in sorted(n for n in os.listdir(folder) if n.endswith(".json")):
        with open(os.path.join(folder, name)) as file:
            truth = json.load(file)
        heard = ask(address, "/api/sound/measure", {"text": truth["text"], "at": truth["at"]}, os.path.join(folder, name[:-5] + ".wav"))
        row = rows.setdefault(truth["kind"], {k: [] for k in ("alone", "under", "mean", "cover", "odd", "false odd", "swing",
            "swing unseen",
                                                              "bars", "missing", "false missing", "extra", "false extra", "flam", "flam unseen", "lost")})
        true = {(tuple(s["place"]), s["voice"]): s for s in truth["strokes"]}
        odd = {tuple(o) for o in truth["odd"]}
        for stroke in heard["strokes"]:
            own = true.get((place(stroke["tick"]), stroke["voice"]))
            if own is None:
                continue
            others = [s for s in truth["strokes"] if s is not own and abs(s["at"] - own["at"]) < .05]
            row["under" if others else "alone"].append(1000 * (stroke["at"] - own["at"]))
            if own["flam"]:
                row["flam unseen"].append(stroke.get("flamMs") is None)
                if stroke.get("flamMs") is not None:
                    row["flam"].append(stroke["flamMs"] - own["flam"])
        row["lost"].append(len(true) - len(heard["strokes"]) + sum((place(s["tick"]), s["voice"]) not in true for s in heard["strokes"]))
        keeper = truth["keeper"]
        for voice in heard["voices"]:
            if voice["voice"] == keeper or heard["timekeeper"] != keeper:
                continue
            played = [s["offset"] for s in truth["strokes"] if s["voice"] == voice["voice"] and (*s["place"], s["voice"]) not in odd]
            kept = np.mean([s["offset"] for s in truth["strokes"] if s["voice"] == keeper])
            row["mean"].append(voice["meanMs"] - (np.mean(played) - kept))
            if voice["low"] is not None:
                row["cover"].append(voice["low"] <= truth["late"][voice["voice"]] <= voice["high"])
        named = {(*place(o["tick"]), o["voice"]) for o in heard["odd"]}
        row["odd"] += [o in named for o in odd]
        row["false odd"].append(len(named - odd))
        if truth["swing"] > 1 or heard["swing"]:
            row["swing unseen"].append(heard["swing"] is None)
            if heard["swing"]:
                row["swing"].append(heard["swing"]["ratio"] - truth["swing"])
        row["bars"] += [100 * (b["bpm"] / t - 1) for b, t in zip(heard["bars"], truth["bars"])]
        missing = {(b, q, v) for q, b, v in (tuple(m) for m in truth["missing"])}
        found = {(*place(m["tick"]), m["voice"]) for m in heard["missing"]}
        row["missing"] += [m in found for m in missing]
        row["false missing"].append(len(found - missing))
        extra = [e["at"] for e in heard["extra"]]
        row["extra"] += [any(abs(e - at) < .03 for at in extra) for e in truth["extra"]]
        row["false extra"].append(sum(not any(abs(e - at) < .03 for e in truth["extra"]) for at in extra))
    for kind, row in rows.items():
        def middle(key):
            return f"{np.median(np.abs(row[key])):.2f} (95 % under {np.percentile(np.abs(row[key]), 95):.1f})" if row[key] else "-"

        def share(key):
            return f"{sum(row[key])} of {len(row[key])}"
        print(f"--- {kind}, {len(row['lost'])} passages\nstrokes alone, ms off: {middle('alone')}; under another: {middle('under')}; "
              f"means: {middle('mean')}, at most {max(map(abs, row['mean'])):.1f}; intervals cover {share('cover')}\n"
              f"odd named {share('odd')}, others named {sum(row['false odd'])}; swing off {middle('swing')}, not told {share('swing unseen')}; "
              f"bar tempos, % off: {middle('bars')}\n"
              f"missing named {share('missing')}, others {sum(row['false missing'])}; extra named {share('extra')}, others {sum(row['false extra'])}; "
              f"flams off {middle('flam')}, not heard {share('flam unseen')}", flush=True)
