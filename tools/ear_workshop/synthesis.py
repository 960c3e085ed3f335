"""Drums and cymbals made from nothing. Every call gives another instrument; `strength` (0 to 1) makes it darker and softer in its attack."""
import numpy as np
from scipy.fft import irfft, next_fast_len
from scipy.signal import lfilter
from .voices import RATE


def log_uniform(rng, low, high):
    return float(np.exp(rng.uniform(np.log(low), np.log(high))))


def decay(samples, seconds):
    """Falls by 60 dB in `seconds`."""
    return np.exp(-6.91 * np.arange(samples) / (RATE * seconds))


def rise(samples, seconds):
    n = min(samples, max(1, int(RATE * seconds)))
    out = np.ones(samples)
    out[:n] = np.sin(np.pi / 2 * np.arange(n) / n) ** 2
    return out


def noise_band(rng, samples, low, high, slope=0.0):
    """Noise between two frequencies with soft edges, `slope` dB an octave; its root mean square is 1."""
    size = next_fast_len(samples, real=True)
    hz = np.fft.rfftfreq(size, 1 / RATE)
    gain = 1 / (1 + (low / np.maximum(hz, 1)) ** 4) / (1 + (hz / high) ** 4) * (np.maximum(hz, 20) / 1000) ** (slope / 6.02)
    x = irfft(gain * (rng.normal(size=len(hz)) + 1j * rng.normal(size=len(hz))), size)[:samples]
    return x / (np.sqrt(np.mean(x ** 2)) + 1e-12)


def modes(rng, samples, hz, ratios, levels, decays, glide=0.0, glide_time=.05):
    t = np.arange(samples) / RATE
    bend = 1 + glide * np.exp(-t / glide_time)
    phase = 2 * np.pi * np.cumsum(bend) / RATE
    out = np.zeros(samples)
    for ratio, level, seconds in zip(ratios, levels, decays):
        if hz * ratio < 18000:
            out += level * np.sin(hz * ratio * phase + rng.uniform(0, 2 * np.pi)) * decay(samples, seconds)
    return out


def metal(rng, samples, low, high, partials, noise, decay_low, decay_high, slope):
    """A plate: many inharmonic partials and noise, whose parts decay each at their own pace, quicker above."""
    size = next_fast_len(samples, real=True)
    hz = np.fft.rfftfreq(size, 1 / RATE)
    spectrum = np.zeros(len(hz), dtype=complex)
    lines = low * (high / low) ** (rng.random(partials) ** rng.uniform(.5, 1))
    at = np.minimum(len(hz) - 2, (lines * size / RATE).astype(int))
    np.add.at(spectrum, at, rng.lognormal(0, .8, partials) * np.exp(2j * np.pi * rng.random(partials)) * np.sqrt(len(hz) / partials))
    spectrum += noise * (rng.normal(size=len(hz)) + 1j * rng.normal(size=len(hz)))
    spectrum *= 1 / (1 + (low / np.maximum(hz, 1)) ** 6) / (1 + (hz / high) ** 8) * (np.maximum(hz, 100) / 3000) ** (slope / 6.02)
    bumps = np.ones(len(hz))
    for _ in range(rng.integers(2, 6)):
        bumps += rng.uniform(-.5, 2) * np.exp(-.5 * (np.log(np.maximum(hz, 1) / log_uniform(rng, low, high)) / rng.uniform(.1, .5)) ** 2)
    spectrum *= np.maximum(.05, bumps)
    edges = np.concatenate([[0], low * (high / low) ** (np.arange(1, 6) / 6), [RATE]])
    out = np.zeros(samples)
    for i in range(6):
        band = np.where((hz >= edges[i]) & (hz < edges[i + 1]), spectrum, 0)
        seconds = decay_low * (decay_high / decay_low) ** (i / 5) * rng.uniform(.7, 1.4)
        out += irfft(band, size)[:samples] * decay(samples, seconds)
    return out / (np.sqrt(np.mean(out[:RATE // 20] ** 2)) + 1e-12)


def darker(x, strength, depth):
    """Soft strokes lose their top: one pole that closes as strength falls."""
    cut = np.clip((400 + 17000 * strength ** .8) * (1 - depth) + 20000 * depth, 200, 20000)
    a = np.exp(-2 * np.pi * cut / RATE)
    return lfilter([1 - a], [1, -a], x)


def kick(rng):
    hz, sweep, long = log_uniform(rng, 38, 85), log_uniform(rng, .3, 5), log_uniform(rng, .15, .9)
    glide, click, body = log_uniform(rng, .006, .05), log_uniform(rng, .02, 1.2), rng.uniform(0, .35)
    top, second, ring = log_uniform(rng, 1200, 9000), rng.uniform(0, .5), log_uniform(rng, 1.4, 2.6)

    def strike(rng, strength):
        n = int(RATE * min(1.2, long * 1.3 + .05))
        x = modes(rng, n, hz, [1, ring], [1, second], [long, long * .5], sweep * (.5 + .5 * strength), glide)
        x *= rise(n, log_uniform(rng, .0008, .004))
        x += click * strength * noise_band(rng, n, 400, top) * decay(n, log_uniform(rng, .01, .04)) * .6
        return x + body * noise_band(rng, n, 50, 400) * decay(n, .08)
    return strike


def snare(rng):
    hz, wires, shell = log_uniform(rng, 140, 330), log_uniform(rng, .3, 2.2), log_uniform(rng, .1, .5)
    long, low, slope = log_uniform(rng, .14, .7), log_uniform(rng, 400, 2500), rng.uniform(-4, 3)
    top, rim, ring = rng.uniform(5000, 15000), rng.uniform(0, .8) * (rng.random() < .4), log_uniform(rng, 450, 1300)
    ratios = np.array([1, 1.59, 2.14, 2.3, 2.65, 3.2]) * rng.uniform(.95, 1.05, 6)
    levels = rng.uniform(.1, 1, 6) / np.arange(1, 7) ** .5

    def strike(rng, strength):
        n = int(RATE * min(1.0, max(long, shell) * 1.2 + .05))
        x = modes(rng, n, hz, ratios, levels, shell * rng.uniform(.5, 1.2, 6), .12 * strength, .02)
        hiss = noise_band(rng, n, low, top, slope) * decay(n, long * (.6 + .4 * strength)) * rise(n, log_uniform(rng, .0005, .004))
        x += wires * hiss * .5 + rim * strength * modes(rng, n, ring, [1, 2.7, 4.1], [1, .4, .2], [.12, .06, .04])
        return x + strength * .5 * noise_band(rng, n, 1500, 12000) * decay(n, .012)
    return strike


def stick(rng):
    hz, long = log_uniform(rng, 380, 1700), log_uniform(rng, .02, .12)
    ratios, levels = np.sort(rng.uniform(1, 5, 5)), rng.uniform(.1, 1, 5)

    def strike(rng, strength):
        n = int(RATE * .3)
        x = modes(rng, n, hz, ratios, levels, long * rng.uniform(.4, 1.1, 5))
        x += rng.uniform(0, .3) * modes(rng, n, rng.uniform(160, 260), [1, 1.6], [1, .5], [.08, .06])
        return x + .6 * strength * noise_band(rng, n, 1000, 12000) * decay(n, .01)
    return strike


def tom(rng, hz):
    long, sweep, skin = log_uniform(rng, .3, 1.7), rng.uniform(.02, .5), rng.uniform(.02, .5)
    ratios = np.array([1, 1.5, 1.59, 2.14, 2.65]) * rng.uniform(.97, 1.03, 5)
    levels = np.array([1, *rng.uniform(.02, .5, 4)])
    top = log_uniform(rng, 1500, 9000)

    def strike(rng, strength):
        n = int(RATE * min(1.5, long * 1.2 + .05))
        x = modes(rng, n, hz, ratios, levels, long * np.array([1, .6, .5, .4, .3]) * rng.uniform(.7, 1.2, 5), sweep * strength, .06)
        x *= rise(n, log_uniform(rng, .0008, .004))
        return x + skin * strength * noise_band(rng, n, 200, top) * decay(n, log_uniform(rng, .015, .06))
    return strike


def hat(rng):
    """The same two cymbals closed, open and by foot."""
    low, high, slope = log_uniform(rng, 300, 3000), rng.uniform(11000, 17500), rng.uniform(1, 6)
    partials, noise = int(log_uniform(rng, 30, 300)), rng.uniform(.2, 1.2)
    tight, wide = log_uniform(rng, .06, .35), log_uniform(rng, .5, 2.2)
    seed = rng.integers(1 << 31)

    def strike(rng, strength, long, attack):
        n = int(RATE * min(2.0, long * 1.1 + .04))
        same = np.random.default_rng(seed + rng.integers(3))
        x = metal(same, n, low, high, partials, noise, long, long * .7, slope) * rise(n, attack)
        return x + strength * .8 * noise_band(rng, n, 2500, 15000) * decay(n, .012)

    def foot(rng, strength):
        n = int(RATE * .25)
        same = np.random.default_rng(seed + 7)
        x = metal(same, n, low * .7, high * .7, partials, noise, tight * .9, tight * .5, slope - 2) * rise(n, log_uniform(rng, .001, .008))
        return x + .4 * noise_band(rng, n, 300, 3000) * decay(n, .03)
    return {"closed": lambda r, s: strike(r, s, tight * r.uniform(.8, 1.3), .0005),
            "open": lambda r, s: strike(r, s, wide * r.uniform(.7, 1.2), log_uniform(r, .0005, .004)), "foot": foot}


def ride(rng):
    """One cymbal struck on its bow and on its bell."""
    low, high = log_uniform(rng, 200, 700), rng.uniform(9000, 16500)
    partials, noise, slope = int(log_uniform(rng, 60, 500)), rng.uniform(.05, .6), rng.uniform(-2.5, 2.5)
    long, wash, ping = log_uniform(rng, 1.2, 6), log_uniform(rng, .06, .5), log_uniform(rng, .6, 2.5)
    tip, tip_long = log_uniform(rng, 2200, 8000), log_uniform(rng, .02, .18)
    sizzle = rng.uniform(.1, .5) * (rng.random() < .15)
    bell_hz, bell_long = log_uniform(rng, 450, 1700), log_uniform(rng, .4, 2.5)
    bell_ratios = np.cumprod(np.concatenate([[1], rng.uniform(1.12, 1.75, 7)]))
    bell_levels, bell_wash = rng.uniform(.15, 1, 8), log_uniform(rng, .02, .25)
    seed = rng.integers(1 << 31)

    def plate(rng, n, attack):
        return metal(np.random.default_rng(seed + rng.integers(3)), n, low, high, partials, noise, long, long * .6, slope) * rise(n, attack)

    def bow(rng, strength):
        n = int(RATE * min(2.5, long))
        x = wash * (.4 + .6 * strength) * plate(rng, n, log_uniform(rng, .003, .03))
        m = int(RATE * .3)
        x[:m] += ping * metal(np.random.default_rng(seed + 5), m, tip * .5, min(16000, tip * 2.5), 60, .5, tip_long * 1.5, tip_long, 0) * .5
        x[:m] += strength * .5 * noise_band(rng, m, 2000, 15000) * decay(m, .008)
        return faded(x + sizzle * noise_band(rng, n, 4000, 14000) * decay(n, long * .5))

    def bell(rng, strength):
        n = int(RATE * min(2.5, bell_long * 1.1))
        x = modes(rng, n, bell_hz, bell_ratios, bell_levels, bell_long * rng.uniform(.4, 1.1, 8))
        beating = modes(rng, n, bell_hz * 1.004, bell_ratios, bell_levels * .4, bell_long * rng.uniform(.4, 1.1, 8))
        x = (x + beating) * .5 + bell_wash * plate(rng, n, .004)
        return x + strength * .6 * noise_band(rng, n, 2500, 15000) * decay(n, .008)
    return {"ride": bow, "bell": bell}


def faded(x):
    """What is cut off before it has died away ends in a fade."""
    n = min(len(x), int(RATE * .25))
    x[-n:] *= np.linspace(1, 0, n)
    return x


def cowbell(rng):
    hz, ratio, long = log_uniform(rng, 400, 1000), rng.uniform(1.35, 1.6), log_uniform(rng, .06, .45)
    more = np.concatenate([[1, ratio], ratio * rng.uniform(1.2, 3.5, 5)])
    levels = np.concatenate([[1, rng.uniform(.4, 1)], rng.uniform(.05, .5, 5)])

    def strike(rng, strength):
        n = int(RATE * min(.8, long * 1.3 + .03))
        x = modes(rng, n, hz, more, levels, long * np.concatenate([[1, 1], rng.uniform(.3, .9, 5)]))
        return x + .5 * strength * noise_band(rng, n, 1500, 9000) * decay(n, .01)
    return strike


def crash(rng):
    """Crash, splash and china: edge, wash, and sometimes a hand that chokes it."""
    small = rng.random() < .2
    low, high = log_uniform(rng, 300, 900) if small else log_uniform(rng, 150, 500), rng.uniform(10000, 17500)
    long = log_uniform(rng, .5, 1.2) if small else log_uniform(rng, 1.2, 6)
    partials, noise, slope = int(log_uniform(rng, 150, 900)), log_uniform(rng, .4, 2.5), rng.uniform(-3, 1.5)
    bloom, choke = log_uniform(rng, .001, .02), rng.uniform(.2, .8) if rng.random() < .05 else 0
    seed = rng.integers(1 << 31)

    def strike(rng, strength):
        n = int(RATE * min(3.0, long * 1.1))
        x = metal(np.random.default_rng(seed + rng.integers(3)), n, low, high, partials, noise, long, long * .5, slope) * rise(n, bloom)
        x += strength * noise_band(rng, n, 300, 10000) * decay(n, .05) * .5 + noise_band(rng, n, 2500, 16000) * decay(n, long * .3) * .4
        if choke:
            cut = int(RATE * choke)
            x[cut:] *= decay(len(x[cut:]), .08)
        return faded(x)
    return strike
