"""The room, the desk and the years between: equaliser, echoes, reverb, compression, saturation, narrow bands, noise, lossy coding."""
import os
import subprocess
import tempfile
import numpy as np
import soundfile
from scipy.signal import butter, lfilter, oaconvolve, sosfilt
from . import synthesis
from .voices import RATE


def equalise(rng, x, depth):
    """A smooth curve of at most `depth` dB."""
    points = np.linspace(np.log(30), np.log(18000), 7)
    taps = 1024
    hz = np.fft.rfftfreq(taps, 1 / RATE)
    gain = 10 ** (np.interp(np.log(np.maximum(hz, 30)), points, rng.uniform(-depth, depth, 7)) / 20)
    response = np.roll(np.fft.irfft(gain), taps // 2) * np.hanning(taps)
    return oaconvolve(x, response)[taps // 2:taps // 2 + len(x)]


def reverb(rng, x, slap):
    """Early reflections, a tail that darkens, and now and then an echo as loud as a soft stroke."""
    tail = synthesis.log_uniform(rng, .15, 2.2)
    n = int(RATE * min(2.0, tail))
    response = synthesis.noise_band(rng, n, 80, synthesis.log_uniform(rng, 1500, 12000)) * synthesis.decay(n, tail)
    response = response * synthesis.rise(n, rng.uniform(.002, .03))
    response /= np.sqrt(np.sum(response ** 2))
    early = np.zeros(n + RATE // 2)
    early[:n] = response * 10 ** (rng.uniform(-28, -8) / 20)
    for _ in range(rng.integers(0, 12)):
        early[int(RATE * synthesis.log_uniform(rng, .001, .07))] += rng.choice([-1, 1]) * 10 ** (rng.uniform(-24, -6) / 20)
    if slap:
        gap, level = rng.uniform(.06, .3), 10 ** (rng.uniform(-20, -6) / 20)
        for repeat in range(1, 2 + rng.integers(0, 3)):
            at = int(RATE * gap * repeat)
            if at < len(early):
                early[at] += level ** repeat
    early[0] += 1
    return oaconvolve(x, early)[:len(x)]


def slap(rng, x):
    """An echo off a wall, and what of it comes back once more."""
    gap, level, out = int(RATE * rng.uniform(.08, .25)), 10 ** (rng.uniform(-12, -6) / 20), x.copy()
    for repeat in (1, 2):
        out[gap * repeat:] += level ** repeat * x[:-gap * repeat]
    return out


def telephone(x):
    return band_limit(band_limit(x, 300, 3400), 300, 3400)


def compress(rng, x):
    block = 64
    size = len(x) // block
    power = np.mean(x[:size * block].reshape(size, block) ** 2, axis=1)
    fast, slow = np.exp(-block / RATE / .004), np.exp(-block / RATE / rng.uniform(.04, .25))
    follow = np.maximum(lfilter([1 - fast], [1, -fast], power), lfilter([1 - slow], [1, -slow], power))
    level = 10 * np.log10(follow + 1e-9)
    threshold = np.percentile(level, rng.uniform(50, 90))
    reduction = -np.maximum(0, level - threshold) * rng.uniform(.3, .85)
    return x * 10 ** (np.interp(np.arange(len(x)), np.arange(size) * block, reduction) / 20)


def band_limit(x, low, high):
    if low:
        x = sosfilt(butter(2, low, "high", fs=RATE, output="sos"), x)
    return sosfilt(butter(4, high, "low", fs=RATE, output="sos"), x) if high else x


def coded(x, kbit):
    """Through a lossy coder and back, at the same place."""
    with tempfile.TemporaryDirectory() as folder:
        plain, lossy, back = (os.path.join(folder, f) for f in ("a.wav", "b.mp3", "c.wav"))
        soundfile.write(plain, np.clip(x / (np.abs(x).max() + 1e-9) * .9, -1, 1), RATE)
        quiet = ["ffmpeg", "-nostdin", "-v", "error", "-y"]
        subprocess.run(quiet + ["-i", plain, "-b:a", f"{kbit}k", lossy], check=True)
        subprocess.run(quiet + ["-i", lossy, "-ar", str(RATE), back], check=True)
        y, _ = soundfile.read(back, dtype="float64")
    y = np.concatenate([y, np.zeros(max(0, len(x) - len(y)))])[:len(x)]
    return y * (np.abs(x).max() + 1e-9) / .9


def age(rng, x):
    """An old or a poor record."""
    telephone = rng.random() < .2
    low = rng.uniform(200, 350) if telephone else rng.choice([0, rng.uniform(40, 180)])
    x = band_limit(x, low, rng.uniform(3000, 4200) if telephone else synthesis.log_uniform(rng, 3500, 13000))
    loud = np.sqrt(np.mean(x ** 2))
    x = x + loud * 10 ** (rng.uniform(-45, -18) / 20) * synthesis.noise_band(rng, len(x), 60, rng.uniform(3000, 12000), rng.uniform(-4, 1))
    if rng.random() < .3:
        hum = sum(np.sin(2 * np.pi * 50 * k * np.arange(len(x)) / RATE + rng.uniform(0, 6)) / k for k in (1, 2, 3, 5))
        x = x + loud * 10 ** (rng.uniform(-40, -22) / 20) * hum
    if rng.random() < .4:
        for at in rng.integers(0, len(x) - 200, rng.integers(5, 150)):
            x[at:at + 60] += loud * rng.uniform(.2, 3) * rng.choice([-1, 1]) * synthesis.decay(60, .002)
    return x


def record(rng, drums, band):
    """Drums and, it may be, a band become a recording."""
    loud = np.sqrt(np.mean(drums ** 2)) + 1e-9
    x = equalise(rng, drums / loud, rng.uniform(0, 7))
    if rng.random() < .75:
        x = reverb(rng, x, rng.random() < .18)
    if rng.random() < .4:
        x = compress(rng, x)
    if band is not None:
        x = x / (np.sqrt(np.mean(x ** 2)) + 1e-9) + equalise(rng, band, 5) * 10 ** (rng.uniform(-16, 2) / 20)
    if rng.random() < .35:
        x = compress(rng, x)
    if rng.random() < .3:
        drive = rng.uniform(.3, 3) / (np.abs(x).max() + 1e-9) * 2
        x = np.tanh(x * drive) / drive
    if rng.random() < .25:
        x = age(rng, x)
    elif rng.random() < .5:
        x = x + 10 ** (rng.uniform(-70, -45) / 20) * rng.normal(size=len(x))
    if rng.random() < .1:
        x = coded(x, int(rng.choice([32, 48, 64, 96])))
    return x
