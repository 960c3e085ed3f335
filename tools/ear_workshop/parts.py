"""Makes up what a drummer plays: strokes in seconds, with beats and bar lines. Human: late, early, soft, with swing and drift."""
from dataclasses import dataclass, field
import numpy as np


@dataclass
class Stroke:
    at: float          # seconds
    voice: str
    velocity: float    # 0 to 1
    pitch: float = 0.5  # of toms: 0 the lowest of the kit, 1 the highest


@dataclass
class Part:
    meter: str
    bpm: float               # quarters a minute
    strokes: list = field(default_factory=list)
    beats: list = field(default_factory=list)  # (seconds, begins a bar)


# beats of a bar in quarters, and how likely
METERS = {"4/4": ([1, 1, 1, 1], .62), "3/4": ([1, 1, 1], .07), "6/8": ([1.5, 1.5], .13), "12/8": ([1.5] * 4, .04),
          "7/8": ([1, 1, 1.5], .05), "5/4": ([1] * 5, .04), "2/4": ([1, 1], .05)}

# For learning beats by symbols alone, which cost nothing: what is rare oftener, and other orders of long and short.
ODD_METERS = {"4/4": ([1, 1, 1, 1], .46), "3/4": ([1, 1, 1], .11), "6/8": ([1.5, 1.5], .13), "12/8": ([1.5] * 4, .05),
              "7/8": ([1, 1, 1.5], .07), "7/8(3+2+2)": ([1.5, 1, 1], .03), "5/8": ([1.5, 1], .02), "5/4": ([1] * 5, .07),
              "2/4": ([1, 1], .06)}


class Clock:
    """Quarters to seconds under a tempo that drifts; swing bends the second half of each quarter."""

    def __init__(self, rng, bpm, quarters):
        steps = int(quarters) + 3
        walk = np.cumsum(rng.normal(0, rng.choice([0, .002, .006]), steps))
        wave = rng.uniform(0, .012) * np.sin(np.arange(steps) / rng.uniform(5, 30) + rng.uniform(0, 6))
        factor = np.clip(1 + walk + wave, .85, 1.18)
        if rng.random() < .05:
            factor[rng.integers(4, max(5, steps - 4)):] *= rng.uniform(.9, 1.12)
        self.times = np.concatenate([[0], np.cumsum(60 / (bpm * factor))])

    def at(self, quarter):
        return float(np.interp(quarter, np.arange(len(self.times)), self.times))


class Player:
    """One drummer on one day: habits that hold for a piece."""

    def __init__(self, rng, compound):
        self.rng, self.compound = rng, compound
        self.error = rng.uniform(.001, .009)
        self.shared = .7
        self.late = {v: rng.normal(0, .004) for v in ["kick", "snare", "closed", "ride", "tom", "crash"]}
        self.late["snare"] += rng.choice([0, 0, rng.uniform(-.01, .03)])
        self.late["kick"] += rng.choice([0, 0, rng.uniform(-.01, .02)])
        self.swing = rng.uniform(.55, .7) if not compound and rng.random() < .25 else .5
        self.swing_16 = rng.uniform(.53, .64) if not compound and self.swing == .5 and rng.random() < .15 else .5
        self.power = rng.uniform(.7, 1)
        self.ghosts = rng.choice([0, .08, .2, .4])
        self.toms = rng.integers(2, 5)
        self.ornaments = rng.choice([0, .03, .1])
        self.moment = {}

    def bend(self, quarter):
        whole, part = np.floor(quarter), quarter - np.floor(quarter)
        if self.swing != .5:
            part = part * 2 * self.swing if part < .5 else self.swing + (part - .5) * 2 * (1 - self.swing)
        elif self.swing_16 != .5:
            half, inner = np.floor(part * 2) / 2, (part * 2) % 1
            part = half + (inner * 2 * self.swing_16 if inner < .5 else self.swing_16 + (inner - .5) * 2 * (1 - self.swing_16)) / 2
        return whole + part

    def human(self, quarter, voice):
        shared = self.moment.setdefault(round(quarter * 96), self.rng.normal(0, self.error))
        own = self.rng.normal(0, self.error)
        return self.shared * shared + (1 - self.shared) * own + self.late.get(voice, 0)


def make(rng, seconds, meters=METERS):
    names = list(meters)
    meter = rng.choice(names, p=[meters[n][1] for n in names])
    compound = meter in ("6/8", "12/8")
    beat_bpm = float(np.clip(np.exp(rng.normal(np.log(78 if compound else 112), .3)), 44, 150 if compound else 230))
    bpm = beat_bpm * (1.5 if compound else 1)
    beats = meters[meter][0]
    length = sum(beats)
    clock = Clock(rng, bpm, seconds * bpm / 60 * 1.3)
    player = Player(rng, compound)
    part = Part(meter, bpm)
    if rng.random() < .08:
        return free(rng, part, seconds)
    start = rng.uniform(0, .8)
    pickup = rng.uniform(0, length) if rng.random() < .3 else 0
    bars = int((seconds * bpm / 60) / length) + 2
    section, fill_next = None, False
    left = 0
    for bar in range(bars):
        origin = bar * length
        at_beat = origin
        for i, size in enumerate(beats):
            time = start + clock.at(at_beat)
            if time < seconds:
                part.beats.append((time, i == 0))
            at_beat += size
        if left == 0:
            section, left = Section(rng, player, beats, meter), int(rng.choice([2, 4, 4, 8, 8]))
        left -= 1
        crash = fill_next
        fill_next = rng.random() < (.75 if left == 0 else section.fill_share)
        for quarter, voice, velocity, pitch in section.bar(crash, fill_next):
            if bar == 0 and quarter < pickup:
                continue
            bent = player.bend(origin + quarter)
            time = start + clock.at(bent) + player.human(origin + quarter, voice)
            ornaments(rng, player, part, time, voice, velocity, pitch)
    part.strokes = sorted((s for s in part.strokes if 0.02 < s.at < seconds - .05), key=lambda s: s.at)
    return part


def ornaments(rng, player, part, time, voice, velocity, pitch):
    drum = voice in ("snare", "tom")
    if drum and velocity > .4 and rng.random() < player.ornaments:
        gap = rng.uniform(.016, .045)
        part.strokes.append(Stroke(time - gap, voice, velocity * rng.uniform(.25, .7), pitch))
        if rng.random() < .25:
            part.strokes.append(Stroke(time - gap - rng.uniform(.03, .06), voice, velocity * rng.uniform(.2, .5), pitch))
    part.strokes.append(Stroke(time, voice, float(np.clip(velocity, .03, 1)), pitch))


class Section:
    """Some bars of one groove: a timekeeper of its own, a kick pattern, back-beats, ghosts."""

    def __init__(self, rng, player, beats, meter):
        self.rng, self.player, self.beats = rng, player, beats
        self.length = sum(beats)
        self.compound = player.compound
        self.loud = player.power * rng.uniform(.75, 1)
        self.keeper = rng.choice(["closed", "ride", "open", "crash", "tom", "bell", "cowbell", "none", "foot", "half"],
                                 p=[.44, .24, .05, .05, .03, .05, .03, .05, .02, .04])
        self.keeper_loud = rng.uniform(.5, 1)
        # The rate in strokes a quarter; three of an eighth's beat in compound meters.
        self.rate = rng.choice([2, 4, 1, 3], p=[.55, .2, .15, .1]) if not self.compound else rng.choice([2, 4], p=[.8, .2])
        if player.swing > .5 and self.rate == 4:
            self.rate = 2
        self.accents = rng.choice(["beat", "off", "none", "random"])
        self.jazz = player.swing > .58 and rng.random() < .7 and not self.compound
        self.snare = rng.choice(["snare", "stick", "none"], p=[.82, .12, .06])
        self.foot = rng.random() < (.55 if self.keeper in ("ride", "bell", "crash", "tom", "none", "cowbell") else .0)
        self.fill_share = rng.choice([0, .1, .25])
        self.open_at = [q for q in self.grid(2) if rng.random() < .08] if self.keeper == "closed" else []
        self.double = rng.random() < .05
        self.kicks = self.kick_pattern()
        self.backbeats = self.backbeat_pattern(meter)

    def grid(self, rate):
        step = 1 / rate if not self.compound else .5 if rate <= 2 else .25
        return [i * step for i in range(int(round(self.length / step)))]

    def beat_starts(self):
        return list(np.concatenate([[0], np.cumsum(self.beats)[:-1]]))

    def kick_pattern(self):
        rng = self.rng
        dense = rng.choice([.06, .14, .28])
        sixteenths = .35 if self.player.swing == .5 else 0
        hits = [0.0] if rng.random() < .9 else []
        for q in self.grid(4):
            on_eighth = abs(q * 2 - round(q * 2)) < 1e-6
            if q > 0 and rng.random() < dense * (1 if on_eighth else sixteenths) * 1.6:
                hits.append(q)
        if rng.random() < .12:
            hits = [float(b) for b in self.beat_starts()]
        return hits

    def backbeat_pattern(self, meter):
        rng, starts = self.rng, self.beat_starts()
        if meter == "4/4":
            return [[1, 3], [1, 3], [1, 3], [1, 3], [2], [1, 3.5], [1.5, 3], [0, 1, 2, 3]][rng.integers(8)]
        if meter == "6/8":
            return [1.5]
        if meter == "12/8":
            return [1.5, 4.5]
        return [float(s) for s in starts[1:] if rng.random() < .7] or [float(starts[-1])]

    def bar(self, crash, fill):
        """(quarter, voice, velocity, pitch) of one bar."""
        rng, out = self.rng, []
        fill_from = self.length
        if fill:
            fill_from = self.length - min(self.length,
                rng.choice([.5, 1, 1, 2, 2, 4])) if not self.compound else self.length - rng.choice([1.5, self.length])
        self.keep(out, fill_from, crash)
        for q in self.kicks:
            if q < fill_from and rng.random() > .08:
                out.append((q, "kick", self.loud * rng.uniform(.6, 1), 0))
        if self.double and not self.compound:
            out += [(q, "kick", self.loud * rng.uniform(.5, .8), 0) for q in self.grid(4) if q < fill_from and q not in self.kicks]
        elif rng.random() < .12:
            q = rng.choice(self.grid(4))
            out.append((q, "kick", self.loud * rng.uniform(.4, .9), 0))
        struck = set(self.backbeats)
        if self.snare != "none":
            out += [(q, self.snare, self.loud * rng.uniform(.75, 1), 0) for q in self.backbeats if q < fill_from and rng.random() > .05]
        if self.player.ghosts and self.snare != "stick":
            grid = self.grid(4) if self.player.swing == .5 and not self.compound else self.grid(3 if not self.compound else 4)
            out += [(q, "snare", rng.uniform(.16, .45), 0) for q in grid
                    if q not in struck and q < fill_from and rng.random() < self.player.ghosts]
        if self.foot:
            feet = [b for i, b in enumerate(self.beat_starts()) if i % 2 == 1] if rng.random() < .8 else self.beat_starts()
            out += [(float(q), "foot", rng.uniform(.4, .9), 0) for q in feet if q < fill_from]
        if fill:
            self.fill(out, fill_from)
        return out

    def keep(self, out, until, crash):
        rng = self.rng
        if crash and rng.random() < .8:
            out.append((0.0, "crash", rng.uniform(.6, 1), 0))
        if self.keeper == "none":
            return
        grid = [0, 1, 1.5, 2, 3, 3.5] if self.jazz and self.length == 4 else self.grid(self.rate)
        for q in grid:
            if q >= until or (q == 0 and crash and rng.random() < .7) or rng.random() < .03:
                continue
            on_beat = any(abs(q - b) < 1e-6 for b in self.beat_starts())
            accent = {"beat": 1 if on_beat else .7, "off": .7 if on_beat else 1, "none": .85, "random": rng.uniform(.6, 1)}[self.accents]
            voice = self.keeper
            if voice == "closed" and any(abs(q - o) < 1e-6 for o in self.open_at):
                voice = "open"
            if voice == "half":
                voice = "open"
            if voice == "ride" and rng.random() < .04:
                voice = "bell"
            out.append((float(q), voice, self.keeper_loud * accent * rng.uniform(.75, 1), .1))

    def fill(self, out, begin):
        rng = self.rng
        q, drum = begin, self.player.toms
        rate = int(rng.choice([2, 3, 4, 4, 4, 6, 8])) if not self.compound else int(rng.choice([2, 4]))
        while q < self.length - 1e-6:
            if rng.random() < .35:
                drum = max(0, drum - 1)
            elif rng.random() < .12:
                drum = self.player.toms
            roll = rng.random()
            velocity = self.loud * rng.uniform(.45, 1)
            if roll < .08:
                pass
            elif roll < .16:
                out.append((float(q), "kick", velocity, 0))
            elif drum >= self.player.toms:
                out.append((float(q), "snare", velocity, 0))
            else:
                out.append((float(q), "tom", velocity, drum / max(1, self.player.toms - 1)))
                if rng.random() < .06:
                    out.append((float(q), "kick", velocity, 0))
            if rng.random() < .04:
                out.append((float(q), "crash", rng.uniform(.4, 1), 0))
            if rng.random() < .15 and abs(q - round(q)) < 1e-6:
                rate = int(rng.choice([2, 3, 4, 6, 8])) if not self.compound else rate
            q += 1 / rate


def free(rng, part, seconds):
    """No groove at all: strokes of every voice, at any time, at any loudness."""
    part.meter, part.bpm = "free", 0
    voices = ["kick", "snare", "stick", "closed", "open", "foot", "ride", "bell", "cowbell", "crash", "tom"]
    weights = rng.dirichlet(np.array([3, 4, 1, 4, 2, 2, 4, 2, 1.5, 2, 4]) * .6)
    time, mean = 0.1, rng.uniform(.08, .35)
    while time < seconds - .1:
        for voice in rng.choice(voices, size=rng.choice([1, 1, 1, 2, 2, 3]), replace=False, p=(weights + 1e-6) / (weights + 1e-6).sum()):
            part.strokes.append(Stroke(time + rng.uniform(0, .008), voice, rng.uniform(.2, 1), rng.uniform(0, 1)))
        time += max(.03, rng.exponential(mean))
    part.strokes.sort(key=lambda s: s.at)
    return part
