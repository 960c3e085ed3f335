"""Echoes of a whole sound, off a wall or of a tape, found and taken out: the same in C#, EchoSearch and EchoFilter."""
import numpy as np
from scipy.signal import resample_poly
from .voices import RATE

THINNING, PIECE = 4, 1 << 15
SLOW = RATE / THINNING
SHORTEST, LONGEST, BEYOND = .05, .35, 1.4
LOWEST, HIGHEST, ABOUT, TONE = 800, 5000, 30, 3
LEAST, MOST, OVER_USUAL, AFTER_MULTIPLES, IN_HALF = .135, .7, 40, .6, .6
REPEATS, BESIDE, RIDGE = 3, 1, 1e-3
HANN = np.hanning(PIECE + 1)[:PIECE]


def flattened(x):
    """The spectrum of two pieces, half of one apart, each bin against the mean about it."""
    def power(piece):
        return np.abs(np.fft.rfft(np.pad(piece, (0, PIECE - len(piece))) * HANN)) ** 2
    powers = power(x[:PIECE]) + power(x[PIECE // 2:PIECE // 2 + PIECE])
    half = int(ABOUT * PIECE / SLOW) // 2
    sums = np.cumsum(np.pad(powers, (half + 1, half), mode="edge"))
    mean = (sums[2 * half + 1:] - sums[:-2 * half - 1]) / (2 * half + 1)
    hz = np.arange(len(powers)) * SLOW / PIECE
    counts = (hz >= LOWEST) & (hz < HIGHEST) & (mean > 1e-8 * powers.max())
    return np.where(counts, np.minimum(powers / np.maximum(mean, 1e-30), TONE), 0)


def likeness(flat):
    by_window = np.fft.irfft(np.abs(np.fft.rfft(HANN)) ** 2)
    alike = np.fft.irfft(flat)
    return (alike / max(alike[0], 1e-30) / np.maximum(by_window / by_window[0], .05))[:PIECE // 2 + 1]


def delay_in(x):
    """In samples, right within some; None where there is no echo."""
    slow = resample_poly(x, 1, THINNING)
    if len(slow) < PIECE:
        return None
    halves = np.zeros((2, PIECE // 2 + 1))
    for begin in range(0, len(slow) - PIECE // 2, PIECE):
        halves[int(2 * begin >= len(slow))] += flattened(slow[begin:])
    alike = likeness(halves.sum(axis=0))
    first, last = int(SHORTEST * SLOW), int(LONGEST * SLOW)
    delay = first + int(np.argmax(alike[first:last]))
    usual = np.median(np.abs(alike[first:last]))
    multiples = max(alike[k * delay - k:k * delay + k + 1].max() for k in range(2, int(BEYOND * SLOW / delay) + 1))
    there = LEAST <= alike[delay] <= MOST and alike[delay] >= OVER_USUAL * usual and multiples <= AFTER_MULTIPLES * alike[delay]
    in_both = all(likeness(half)[delay - 1:delay + 2].max() >= LEAST * IN_HALF for half in halves)
    return delay * THINNING if there and in_both else None


def without(x, most=2):
    """The sound without its echoes."""
    for _ in range(most):
        near = delay_in(x)
        if near is None:
            break
        steps, known = np.diff(x), {}

        def alike(lag):
            lag = abs(lag)
            if lag not in known:
                known[lag] = float(np.dot(steps[lag:], steps[:len(steps) - lag]))
            return known[lag]
        delay = max(range(near - 8, near + 9), key=alike)
        lags = [times * delay + beside for times in range(1, REPEATS + 1) for beside in range(-BESIDE, BESIDE + 1)]
        between = np.array([[alike(a - b) for b in lags] for a in lags]) + RIDGE * alike(0) * np.eye(len(lags))
        shares = np.linalg.solve(between, [alike(lag) for lag in lags])
        clean = x.copy()
        for lag, share in zip(lags, shares):
            clean[lag:] -= share * x[:-lag]
        x = clean
    return x
