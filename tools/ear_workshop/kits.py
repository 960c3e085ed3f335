"""A kit for a piece: per voice a set of strokes, soft to hard, as sounds that begin at their label.

Sampled kits that a model may be trained on: public domain, CC0 and CC-BY (see SOURCES). Copyleft kits are for validation and tests."""
import functools
import glob
import os
import re
import xml.etree.ElementTree as Xml
import numpy as np
import soundfile
from scipy.signal import resample_poly
from . import features, rooms, synthesis
from .voices import RATE

DRUMKITS = "/usr/share/hydrogen/data/drumkits"
SAMPLES = "/usr/share/sonic-pi/samples"
UNPACKED = os.path.join(os.environ.get("EAR_DATA", "/var/tmp/inner-cadence-ear"), "exadrums/usr/share/exadrums")

# Which instrument of a kit is what, by its number in the kit.
TRAINING = {
    "rumpf_kit_z01_h2": {"kick": [0, 5, 7, 9], "stick": [1], "snare": [2, 4], "closed": [6], "foot": [8], "open": [10], "tom": [11, 12, 14],
                         "crash": [13], "ride": [15, 16], "bell": [17], "cowbell": [20]},
    "Audiophob": {"kick": [0], "snare": [2, 4], "closed": [6], "open": [10], "tom": [5, 7, 9], "ride": [12], "crash": [13]},
}
SINGLE = {
    "kick": ["bd_808", "bd_ada", "bd_fat", "bd_gas", "bd_haus", "bd_klub", "bd_pure", "bd_tek", "bd_zome", "bd_zum", "drum_bass_hard",
             "drum_bass_soft", "drum_heavy_kick", "elec_soft_kick", "elec_hollow_kick"],
    "snare": ["drum_snare_hard", "drum_snare_soft", "elec_hi_snare", "elec_lo_snare", "elec_mid_snare", "elec_snare", "elec_filt_snare",
              "sn_dolf", "sn_dub", "sn_zome"],
    "closed": ["drum_cymbal_closed"], "foot": ["drum_cymbal_pedal"], "open": ["drum_cymbal_open"],
    "crash": ["drum_cymbal_hard", "drum_splash_hard", "drum_splash_soft"], "ride": ["drum_cymbal_soft"], "cowbell": ["drum_cowbell"],
    "tom": ["drum_tom_lo_hard", "drum_tom_lo_soft", "drum_tom_mid_hard", "drum_tom_mid_soft", "drum_tom_hi_hard", "drum_tom_hi_soft"],
}
# Of Debian's exadrums (BSD), which tools/ear install unpacks: its metals are like no others'.
MODULE = {"kick": ["BD_Acou_01"], "snare": ["Snr_Acou_01"], "closed": ["HiHat"], "ride": ["RideEdge"], "bell": ["RideBell"],
          "crash": ["Crash_High"], "tom": ["Tom01", "Tom03"]}
VALIDATION = {
    "ColomboAcousticDrumkit": {"kick": [0], "stick": [10], "snare": [1, 11, 12], "closed": [5], "open": [6], "tom": [2, 3, 4], "crash": [8],
                               "ride": [7], "bell": [17]},
    "BJA_Pacific": {"kick": [0], "snare": [1, 12], "closed": [2], "open": [3], "tom": [5, 4], "crash": [6, 7], "bell": [8], "ride": [9]},
    "Millo-Drums_v.1": {"kick": [0], "stick": [1], "snare": [2, 4], "closed": [6], "foot": [8], "open": [10], "tom": [5, 7, 9],
                        "crash": [13, 15], "ride": [12, 14], "cowbell": [11]},
    "Millo_MultiLayered2": {"kick": [0], "stick": [1], "snare": [2, 4], "closed": [6], "foot": [8], "open": [10], "tom": [5, 7],
                            "crash": [13], "ride": [12]},
    "Millo_MultiLayered3": {"kick": [0], "stick": [1], "snare": [4], "closed": [6], "foot": [8], "open": [10], "tom": [5, 7, 9],
                            "crash": [13], "ride": [12], "cowbell": [11]},
}


def label_cut(x):
    """Cut so that 10 % of the first peak stands at the first sample: the peak of the first 12 ms that rise over a fifth of the whole."""
    size = np.abs(x)
    top = size.max()
    if top < 1e-6:
        return x
    begin = int(np.argmax(size > .2 * top))
    peak = size[max(0, begin - 88):begin + 530].max()
    first = max(0, begin - 660)
    over = np.argmax(size[first:] >= .1 * peak) + first
    return x[over:]


def mono(path, most=3.5):
    x, rate = soundfile.read(path, dtype="float64", always_2d=True)
    x = x[:int(rate * most)].mean(axis=1)
    if rate != RATE:
        x = resample_poly(x, RATE // 300, rate // 300) if rate % 300 == 0 else np.interp(
            np.arange(int(len(x) * RATE / rate)) * rate / RATE, np.arange(len(x)), x)
    return label_cut(x)


@functools.lru_cache(maxsize=None)
def sampled(name):
    """voice -> instruments; an instrument is a list of sounds, soft to hard."""
    table = TRAINING.get(name) or VALIDATION[name]
    folder = os.path.join(DRUMKITS, name)
    with open(os.path.join(folder, "drumkit.xml"), errors="replace") as file:
        root = Xml.fromstring(re.sub(r'\sxmlns(:\w+)?="[^"]*"|\sxsi:\w+="[^"]*"', "", file.read()))
    by_number = {}
    for instrument in root.iter("instrument"):
        layers = [(float(layer.findtext("min") or 0), layer.findtext("filename")) for layer in instrument.iter("layer")]
        layers = sorted(layers) or [(0, instrument.findtext("filename"))]
        by_number[int(instrument.findtext("id"))] = [os.path.join(folder, f) for _, f in layers if f]
    return {voice: [[mono(f) for f in by_number[n]] for n in numbers] for voice, numbers in table.items()}


@functools.lru_cache(maxsize=None)
def singles():
    return {voice: [[mono(os.path.join(SAMPLES, f + ".flac"))] for f in files] for voice, files in SINGLE.items()}


@functools.lru_cache(maxsize=None)
def module():
    return {voice: [[mono(os.path.join(UNPACKED, f + ".wav"))] for f in files] for voice, files in MODULE.items()}


METALS = ("ride", "crash", "open", "closed", "bell")


def blended(rng, instruments, voice):
    """One instrument, or for what is of metal now and then two at different pitches as one: no two cymbals are alike."""
    one = instruments[rng.integers(len(instruments))]
    if voice not in METALS or rng.random() > .4:
        return one
    other = instruments[rng.integers(len(instruments))]
    ratio, share = float(np.exp(rng.normal(0, .3))), rng.uniform(.3, 1)
    second = [pitched(other[i * len(other) // len(one)], ratio) for i in range(len(one))]

    def added(a, b):
        a, b = a / (np.abs(a).max() + 1e-9), b / (np.abs(b).max() + 1e-9)
        long = max(len(a), len(b))
        return np.pad(a, (0, long - len(a))) + share * np.pad(b, (0, long - len(b)))
    return [added(a, b) for a, b in zip(one, second)]


def pitched(x, ratio):
    n = max(8, int(len(x) / ratio))
    return np.interp(np.arange(n) * ratio, np.arange(len(x)), x, right=0)


def main_hz(x):
    """The strongest frequency between 45 and 420 Hz."""
    part = x[:RATE // 2] * np.hanning(2 * len(x[:RATE // 2]))[len(x[:RATE // 2]):]
    spectrum = np.abs(np.fft.rfft(part, 1 << 16))
    low, high = int(45 * (1 << 16) / RATE), int(420 * (1 << 16) / RATE)
    return (low + int(np.argmax(spectrum[low:high]))) * RATE / (1 << 16)


class Voice:
    """One drum or cymbal: `layers` of (strength, variants). What is struck softly is darker, a little different each time."""

    def __init__(self, rng, layers, gain, depth, hz=0.0):
        self.layers, self.gain, self.depth, self.hz = layers, gain, depth, hz
        self.power = rng.uniform(.9, 1.8)

    def sound(self, rng, velocity):
        nearest = min(range(len(self.layers)), key=lambda i: abs(self.layers[i][0] - velocity) + rng.uniform(0, .15))
        _, variants = self.layers[nearest]
        x = variants[rng.integers(len(variants))]
        return x, self.gain * velocity ** self.power * rng.uniform(.92, 1.08)


def normalised(x):
    return x / (np.sqrt(np.mean(x[:RATE // 10] ** 2)) + 1e-9)


# Root mean square of the first 100 ms of a full stroke, in dB, and how far it may lie from it.
LEVELS = {"kick": (0, 5), "snare": (0, 5), "stick": (-6, 5), "closed": (-9, 6), "open": (-7, 6), "foot": (-12, 6), "ride": (-9, 6),
          "bell": (-7, 6), "cowbell": (-6, 6), "crash": (-2, 5), "tom": (-1, 5)}


def from_synthesis(rng, strike, voice, hz=0.0):
    depth = rng.uniform(.2, .9)
    layers = []
    for strength in (.2, .55, 1.0):
        variants = [normalised(label_cut(synthesis.darker(strike(rng, strength), strength, depth))) for _ in range(2)]
        layers.append((strength, variants))
    return Voice(rng, layers, gain(rng, voice), depth, hz)


def from_samples(rng, instrument, voice, vary=True):
    ratio = float(np.exp(rng.normal(0, .22 if voice in METALS else .15))) if vary else 1.0
    depth = rng.uniform(.2, .95)
    shorten = rng.random() < .35 and vary
    seconds, curve, other = synthesis.log_uniform(rng, .3, 2), rng.integers(1 << 31), rng.random() < .7 and vary
    layers = []
    for i, sample in enumerate(instrument):
        x = pitched(sample, ratio)
        if vary:
            x = rooms.equalise(np.random.default_rng(curve), x, 5)
        if other:
            x = synthesis.reshaped(np.random.default_rng(curve + 1), x)
        if shorten:
            x = x * synthesis.decay(len(x), seconds)
        strengths = [.2, .55, 1.0] if len(instrument) == 1 else [(i + .5) / len(instrument)]
        for strength in strengths:
            dark = synthesis.darker(x, strength, depth) if len(instrument) == 1 else x
            layers.append((strength, [normalised(label_cut(dark))]))
    return Voice(rng, layers, gain(rng, voice), depth, main_hz(layers[-1][1][0]) if voice == "tom" else 0)


def gain(rng, voice):
    level, spread = LEVELS[voice]
    return 10 ** ((level + rng.normal(0, spread * .6)) / 20)


def training_kit(rng, voices):
    """voice -> Voice (tom -> several, low to high) of those that are played, each sampled or synthesised; the metals of every fourth kit
    thin."""
    pools, likely = [sampled("rumpf_kit_z01_h2"), sampled("Audiophob"), singles(), module()], [.35, .2, .2, .25]
    # Metals are of our own making more often than drums: few free samples of them exist, and no two cymbals are alike.
    share = {"kick": .4, "snare": .4, "tom": .4, "stick": .5, "closed": .45, "open": .5, "foot": .5, "ride": .5, "bell": .5,
             "cowbell": .6, "crash": .5}
    hats, plate, crash = synthesis.hat(rng), synthesis.ride(rng), synthesis.crash(rng)
    if rng.random() < .25:
        share |= {"closed": 1, "open": 1, "foot": 1, "ride": 1, "crash": 1}
        metals = synthesis.thin(rng)
        hats, plate, crash = {v: metals[v] for v in hats}, plate | {"ride": metals["ride"]}, metals["crash"]
    makers = {"kick": lambda: synthesis.kick(rng), "snare": lambda: synthesis.snare(rng), "stick": lambda: synthesis.stick(rng),
              **{v: (lambda v=v: hats[v]) for v in hats}, **{v: (lambda v=v: plate[v]) for v in plate},
              "cowbell": lambda: synthesis.cowbell(rng), "crash": lambda: crash}
    kit = {}
    for voice, make in ((v, m) for v, m in makers.items() if v in voices):
        others = pools[rng.choice(4, p=likely)].get(voice) or pools[0].get(voice)
        if others and rng.random() > share[voice]:
            kit[voice] = from_samples(rng, blended(rng, others, voice), voice)
        else:
            kit[voice] = from_synthesis(rng, make(), voice)
    if "tom" not in voices:
        return kit
    count = rng.integers(2, 5)
    if rng.random() < share["tom"]:
        top = synthesis.log_uniform(rng, 130, 330)
        kit["tom"] = [from_synthesis(rng, synthesis.tom(rng, hz), "tom", hz)
            for hz in top / rng.uniform(1.15, 1.5) ** np.arange(count)[::-1]]
    else:
        others = pools[rng.choice(4, p=likely)]["tom"]
        kit["tom"] = sorted((from_samples(rng, others[rng.integers(len(others))], "tom") for _ in range(count)), key=lambda v: v.hz)
    return kit


def validation_kit(rng, name):
    pool = sampled(name)
    kit = {voice: from_samples(rng, instruments[rng.integers(len(instruments))], voice, vary=False)
           for voice, instruments in pool.items() if voice != "tom"}
    kit["tom"] = sorted((from_samples(rng, i, "tom", vary=False) for i in pool["tom"]), key=lambda v: v.hz)
    return kit


SUBSTITUTES = {"foot": "closed", "cowbell": "bell", "bell": "cowbell", "stick": "snare"}


def playable(kit, voice):
    """The voice itself, or the nearest that the kit has; the label goes with it."""
    return voice if voice in kit else SUBSTITUTES[voice] if SUBSTITUTES.get(voice) in kit else None


def render(rng, part, kit, seconds):
    """The drums alone, and the strokes as struck: (at, voice, velocity, hz of a tom, whether it can be told)."""
    out = np.zeros(int(seconds * RATE) + 4 * RATE)
    struck, sounds, hat_end = [], [], None
    for stroke in part.strokes:
        voice = playable(kit, stroke.voice)
        if voice is None:
            continue
        instrument = kit["tom"][round(stroke.pitch * (len(kit["tom"]) - 1))] if voice == "tom" else kit[voice]
        x, level = instrument.sound(rng, stroke.velocity)
        at = int(round(stroke.at * RATE))
        x = x[:len(out) - at]
        if voice in ("open", "closed", "foot"):
            if hat_end is not None and hat_end[0] + 400 < at:
                begin, sound, gained = hat_end
                rest = sound[at - begin:] if at - begin < len(sound) else sound[:0]
                if len(rest):
                    out[at:at + len(rest)] -= gained * rest * (1 - synthesis.decay(len(rest), .06))
            hat_end = (at, x, level)
        out[at:at + len(x)] += level * x
        struck.append((at / RATE, voice, stroke.velocity, instrument.hz))
        sounds.append((at, level * x[:features.SHORT]))
    full = features.loudness(features.high_bands(out, np.arange(0, len(out) - features.SHORT, features.HOP)))
    return out[:int(seconds * RATE)], [(*stroke, audible(out, at, sound, full)) for stroke, (at, sound) in zip(struck, sounds)]


def audible(out, at, sound, full):
    """Whether a stroke can be told at all: in some band that is not silent, a seventh of what sounds in its first 23 ms is its own."""
    own = features.high_bands(np.pad(sound, (0, features.SHORT - len(sound))), np.zeros(1, int))[0]
    whole = features.high_bands(out[at:at + features.SHORT], np.zeros(1, int))[0]
    return bool(np.any((own > .15 * whole) & (own > 1e-5 * full)))
