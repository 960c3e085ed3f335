"""What the network sees of a sound: 72 bands every 10 ms. The same in C#: src/InnerCadence.Core/Hearing/EarFeatures.cs.

Low bands first: 24 triangular logarithmic bands of 30 to 520 Hz from the sound decimated by 16 (Hann, 256 samples), then 48 triangular mel
bands of 100 Hz to 17 kHz (Hann, 1024 samples). A triangle is at least a bin wide on each side and sums to 1; windows are scaled by
2 / sum. Powers are divided by the window of sound's loudness, the 99th percentile over frames of the frame's greatest band."""
import numpy as np
from scipy.signal import oaconvolve
from .voices import HOP, RATE

BANDS = 72
LONG, SHORT, DECIMATION, TAPS = 256, 1024, 16, 255


def hann(size):
    return (0.5 - 0.5 * np.cos(2 * np.pi * np.arange(size) / size)).astype(np.float64)


def triangles(edges_hz, bin_hz, bins):
    """bands x bins: each triangle rises from the centre before it and falls to the one after it."""
    centres = edges_hz / bin_hz
    weights = np.zeros((len(centres) - 2, bins))
    at = np.arange(bins)
    for band in range(len(centres) - 2):
        centre = centres[band + 1]
        rise, fall = max(1.0, centre - centres[band]), max(1.0, centres[band + 2] - centre)
        weights[band] = np.maximum(0, np.minimum(1 - (centre - at) / rise, 1 - (at - centre) / fall))
        weights[band] /= weights[band].sum()
    return weights


def mel(hz):
    return 2595 * np.log10(1 + np.asarray(hz) / 700)


LOW_EDGES = 30 * (520 / 30) ** (np.arange(26) / 25)
HIGH_EDGES = 700 * (10 ** ((mel(100) + (mel(17000) - mel(100)) * np.arange(50) / 49) / 2595) - 1)
LOW_WEIGHTS = triangles(LOW_EDGES, RATE / DECIMATION / LONG, LONG // 2 + 1)
HIGH_WEIGHTS = triangles(HIGH_EDGES, RATE / SHORT, SHORT // 2 + 1)


def lowpass():
    """Windowed sinc: 900 Hz at 44.1 kHz, of sum 1."""
    n = np.arange(TAPS) - TAPS // 2
    taps = np.sinc(2 * 900 / RATE * n) * (0.5 - 0.5 * np.cos(2 * np.pi * (np.arange(TAPS) + 1) / (TAPS + 1)))
    return taps / taps.sum()


def frames(sound, size, centres):
    padded = np.concatenate([np.zeros(size), sound, np.zeros(2 * size)])
    return padded[(centres + size // 2)[:, None] + np.arange(size)[None, :]]


def high_bands(sound, starts):
    """frames x 48: the mel bands of windows that begin at these samples."""
    window = hann(SHORT) * 2 / hann(SHORT).sum()
    return np.abs(np.fft.rfft(sound[starts[:, None] + np.arange(SHORT)[None, :]] * window)) ** 2 @ HIGH_WEIGHTS.T


def powers(sound):
    """frames x 72, before any normalising. Frame k is centred at sample 441 k."""
    count = len(sound) // HOP + 1
    slow = oaconvolve(sound, lowpass(), "same")[::DECIMATION] if len(sound) >= TAPS else np.zeros(1)
    centres = np.arange(count) * HOP
    out = np.empty((count, BANDS))
    window = hann(LONG) * 2 / hann(LONG).sum()
    spectrum = np.abs(np.fft.rfft(frames(slow, LONG, (centres + DECIMATION // 2) // DECIMATION) * window)) ** 2
    out[:, :24] = spectrum @ LOW_WEIGHTS.T
    window = hann(SHORT) * 2 / hann(SHORT).sum()
    for start in range(0, count, 2000):
        spectrum = np.abs(np.fft.rfft(frames(sound, SHORT, centres[start:start + 2000]) * window)) ** 2
        out[start:start + 2000, 24:] = spectrum @ HIGH_WEIGHTS.T
    return out


def loudness(power):
    """The power that counts as full: the element at floor(0.99 n) of the frames' greatest bands in order."""
    greatest = np.sort(power.max(axis=1))
    return max(1e-9, greatest[min(len(greatest) - 1, int(0.99 * len(greatest)))])


def features(sound):
    """frames x 72, float32: log10(p + 1e-7) / 7 + 1."""
    power = powers(np.asarray(sound, dtype=np.float64))
    return (np.log10(power / loudness(power) + 1e-7) / 7 + 1).astype(np.float32)


def together(one, other, decibels):
    """Features of two sounds at once, the second so much louder: powers add, and the whole is as loud as any other."""
    power = 10 ** (7 * (one.astype(np.float32) - 1)) + 10 ** (decibels / 10) * 10 ** (7 * (other[:len(one)] - 1))
    return (np.log10(power / loudness(power) + 1e-7) / 7 + 1).astype(np.float32)


def echoed(one, frames, decibels, repeats):
    """Features of a sound with echoes of itself: each so many frames (not whole ones) after the last and so much softer."""
    power = 10 ** (7 * (one.astype(np.float32) - 1))
    out = power.copy()
    for repeat in range(1, repeats + 1):
        whole, rest = divmod(frames * repeat, 1)
        for later, share in ((int(whole), 1 - rest), (int(whole) + 1, rest)):
            out[later:] += share * 10 ** (decibels * repeat / 10) * power[:-later]
    return (np.log10(out / loudness(out) + 1e-7) / 7 + 1).astype(np.float32)


def test_vector():
    """A sound that any language makes alike, and some frames of its features, for the tests of the application."""
    state, sound = 12345, np.zeros(3 * RATE)
    for i in range(len(sound)):
        state = (1664525 * state + 1013904223) % (1 << 32)
        t = (i % 15000) / RATE
        sound[i] = (state / (1 << 31) - 1) * np.exp(-t * 40) * .5
        sound[i] += np.sin(2 * np.pi * 60 * i / RATE) * np.exp(-t * 8) * .4 * (i // 15000 % 2)
    made = features(sound)
    return {"frames": [{"frame": f, "bands": [round(float(v), 6) for v in made[f]]} for f in (0, 1, 2, 33, 34, 35, 101, 102, 150, 255, 298,
        299, 300)]}
