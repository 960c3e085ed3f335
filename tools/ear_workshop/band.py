"""Music to play with: bass, chords and a lead on the drummer's clock, made of single cycles read at their pitch."""
import numpy as np
from . import synthesis
from .voices import RATE

TABLE = 2048


def cycle(rng, kind):
    """One period of a sound whose overtones fall as `kind` says."""
    harmonics = int(rng.integers(2, 30))
    n = np.arange(1, harmonics + 1)
    levels = {"soft": 1 / n ** 2.2, "saw": 1 / n, "square": (n % 2) / n, "reed": rng.uniform(.1, 1, harmonics) / n ** .7}[kind]
    phase = 2 * np.pi * np.arange(TABLE) / TABLE
    out = sum(level * np.sin(k * phase + rng.uniform(0, 6)) for k, level in zip(n, levels))
    return out / (np.abs(out).max() + 1e-9)


def note(rng, table, hz, seconds, attack, fall, vibrato):
    n = int(seconds * RATE)
    t = np.arange(n) / RATE
    phase = hz * t + vibrato * hz * .004 * np.sin(2 * np.pi * 5.5 * t + rng.uniform(0, 6))
    x = table[(phase * TABLE).astype(int) % TABLE]
    release = np.minimum(1, np.arange(n)[::-1] / (RATE * .02))
    return x * synthesis.rise(n, attack) * np.exp(-t / fall) * release


def play(rng, part, seconds):
    """The band alone, of about unit loudness."""
    out = np.zeros(int(seconds * RATE) + RATE)
    beats = [b for b, _ in part.beats] or list(np.arange(0, seconds, rng.uniform(.4, .8)))
    if len(beats) < 3:
        return out[:int(seconds * RATE)]
    scale = np.array([0, 2, 3, 5, 7, 9, 10]) if rng.random() < .5 else np.array([0, 2, 4, 5, 7, 9, 11])
    root = rng.integers(28, 40)

    def hz(step):
        return 440 * 2 ** ((root + 12 * (step // 7) + scale[step % 7] - 69) / 12)

    def add(at, x, level):
        begin = int(at * RATE)
        if 0 <= begin < len(out):
            x = x[:len(out) - begin]
            out[begin:begin + len(x)] += level * x

    kicks = [s.at for s in part.strokes if s.voice == "kick"]
    bass, chords, lead = rng.random() < .85, rng.random() < .75, rng.random() < .6
    tables = {who: cycle(rng, rng.choice(["soft", "saw", "square", "reed"])) for who in ("bass", "chords", "lead")}
    fall = {who: synthesis.log_uniform(rng, .12, 3) for who in tables}
    attack = {"bass": synthesis.log_uniform(rng, .002, .02), "chords": synthesis.log_uniform(rng, .001, .15),
        "lead": synthesis.log_uniform(rng, .004, .08)}
    level = {"bass": rng.uniform(.4, 1.2), "chords": rng.uniform(.1, .4), "lead": rng.uniform(.15, .6)}
    walking = rng.random()
    degree = 0
    pick = rng.random() < .4
    for i, (begin, end) in enumerate(zip(beats, beats[1:] + [beats[-1] + beats[-1] - beats[-2]])):
        span = end - begin
        if i % 4 == 0:
            degree = int(rng.integers(0, 7))
        if bass:
            ats = [begin, begin + span / 2] if walking < .4 else [begin] if walking < .7 else [k for k in kicks
                if begin - .03 <= k < end - .03]
            for at in ats:
                length = span * rng.uniform(.3, 1.1)
                add(at + rng.normal(0, .006), note(rng, tables["bass"], hz(degree + rng.choice([0, 0, 2, 4, 7])), max(.05, length),
                    attack["bass"], fall["bass"], 0), level["bass"])
                if pick:
                    add(at, synthesis.noise_band(rng, 600, 700, 4000) * synthesis.decay(600, .01), level["bass"] * .1)
        if chords and (i % 4 == 0 or rng.random() < .35):
            at = begin + span * rng.choice([0, 0, .5])
            for step in (7, 9, 11, 14):
                add(at + rng.normal(0, .008), note(rng, tables["chords"], hz(degree + step), span * rng.uniform(.4, 4), attack["chords"],
                    fall["chords"], 0), level["chords"])
        if lead:
            for _ in range(rng.integers(0, 4)):
                add(begin + span * rng.choice([0, .25, .5, .75]) + rng.normal(0, .015),
                    note(rng, tables["lead"], hz(degree + int(rng.integers(12, 24))), span * rng.uniform(.2, 1.5), attack["lead"],
                        fall["lead"], 1), level["lead"])
    out = out[:int(seconds * RATE)]
    if rng.random() < .3:
        drive = rng.uniform(1, 6)
        out = np.tanh(out * drive) / drive ** .5
    if rng.random() < .15:
        # A voice or a shaker that is none of the drums.
        out += rng.uniform(.02, .15) * synthesis.noise_band(rng, len(out), 2000, 9000) * np.interp(
            np.arange(len(out)), np.linspace(0, len(out), 60), rng.uniform(0, 1, 60) ** 3)
    return out / (np.sqrt(np.mean(out ** 2)) + 1e-9)


def keys(rng, part, seconds, chords=True):
    """A bass that holds its notes and struck chords that ring, without `chords` every other time the bass alone: what lies dense and loud
    below 1 kHz, so that of a drum there little but its stick is heard. Of about unit loudness."""
    out = np.zeros(int(seconds * RATE) + 4 * RATE)
    beats = [b for b, _ in part.beats] or list(np.arange(0, seconds, rng.uniform(.4, .8)))
    ends = beats[1:] + [beats[-1] + .5]
    tilt = {"bass": rng.uniform(.8, 2), "chords": rng.uniform(.9, 2.2)}
    fall = {"bass": synthesis.log_uniform(rng, .5, 4), "chords": synthesis.log_uniform(rng, .4, 3)}
    level = {"bass": rng.uniform(.3, 1.2), "chords": rng.uniform(.1, .5) * (chords or rng.random() < .5)}

    def struck(who, hz, length):
        n = np.arange(1, int(rng.integers(6, 40)) + 1)
        n = n[n * hz < 9000]
        phase = 2 * np.pi * np.arange(TABLE) / TABLE
        table = sum(k ** -tilt[who] * rng.uniform(.3, 1) * np.sin(k * phase + rng.uniform(0, 6)) for k in n)
        return level[who] * note(rng, table / (np.abs(table).max() + 1e-9), hz, length, rng.uniform(.001, .008), fall[who], 0)

    def add(at, x):
        begin = int(at * RATE)
        if begin >= 0:
            x = x[:len(out) - begin]
            out[begin:begin + len(x)] += x
    every, held = int(rng.choice([1, 2, 2, 4])), rng.uniform(.8, 1.6)
    root = int(rng.integers(48, 64))
    for i, (begin, end) in enumerate(zip(beats, ends)):
        if i % 4 == 0:
            chord = root + int(rng.integers(-5, 6)) + np.array([0, 3 + rng.integers(0, 2), 7, 12, 16][:rng.integers(3, 6)])
        add(begin + rng.normal(0, .005), struck("bass", 440 * 2 ** ((int(rng.choice([33, 36, 38, 40, 43])) - 69) / 12), end - begin))
        if i % every == 0 and level["chords"]:
            for pitch in chord:
                add(begin + rng.normal(0, .005), struck("chords", 440 * 2 ** ((pitch - 69) / 12), (end - begin) * every * held))
    out = out[:int(seconds * RATE)]
    return out / (np.sqrt(np.mean(out ** 2)) + 1e-9)
