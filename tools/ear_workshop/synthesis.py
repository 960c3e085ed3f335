"""Drums and cymbals made from nothing. Every call gives another instrument; `strength` (0 to 1) makes it darker and its attack softer."""
import numpy as np
from scipy.fft import irfft, next_fast_len, rfft
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


# Where the nine bands of a plate lie, Hz.
CENTRES = np.array([60, 150, 350, 800, 1700, 3000, 5000, 8500, 14000.0])


def falling(samples, early, late, share):
    """Two slopes: a quick one, and what is left of it, `share` dB down, that falls slowly; seconds for 60 dB."""
    rest, step = 10 ** (share / 20), 32
    at = np.arange(0, samples + step, step)
    curve = (1 - rest) * np.exp(-6.91 * at / (RATE * early)) + rest * np.exp(-6.91 * at / (RATE * late))
    return np.interp(np.arange(samples), at, curve)


def metal(rng, samples, levels, early, late, share, partials, noise, bloom=0.0):
    """A plate: inharmonic partials and noise. `levels`: dB at the nine CENTRES; each band falls at its own pace and, with `bloom`
    (seconds), the upper ones rise after the stroke as the plate passes its energy up."""
    size = next_fast_len(samples, real=True)
    hz = np.fft.rfftfreq(size, 1 / RATE)
    lines = 90 * (17000 / 90) ** (rng.random(partials) ** rng.uniform(.5, 1))
    at = np.minimum(len(hz) - 2, (lines * size / RATE).astype(int))
    spectrum = np.zeros(len(hz), dtype=complex)
    density = np.interp(np.log(lines), np.log(CENTRES), np.histogram(np.log(lines), bins=9)[0] + 1.0)
    np.add.at(spectrum, at, rng.lognormal(0, .8, partials) * np.exp(2j * np.pi * rng.random(partials)) * np.sqrt(len(hz) / 9 / density))
    spectrum += noise * (rng.normal(size=len(hz)) + 1j * rng.normal(size=len(hz)))
    bumps = np.zeros(len(hz))
    for _ in range(rng.integers(2, 7)):
        middle = log_uniform(rng, 200, 15000)
        bumps += rng.normal(0, 5) * np.exp(-.5 * (np.log(np.maximum(hz, 1) / middle) / rng.uniform(.05, .4)) ** 2)
    curve = np.interp(np.log(np.maximum(hz, 20)), np.log(CENTRES), levels + 0.0) + bumps
    spectrum *= 10 ** (curve / 20) / (1 + (25 / np.maximum(hz, 1)) ** 6)
    edges = np.concatenate([[0], np.sqrt(CENTRES[:-1] * CENTRES[1:]), [RATE]])
    out = np.zeros(samples)
    for i in range(9):
        band = np.where((hz >= edges[i]) & (hz < edges[i + 1]), spectrum, 0)
        pace = rng.uniform(.75, 1.5) * (.6 + .4 * min(1, i / 3))
        part = irfft(band.astype(np.complex64), size)[:samples] * falling(samples, early * pace, late * pace, share)
        if bloom and i >= 3:
            part *= rise(samples, bloom * rng.uniform(.6, 1.6)) * .7 + .3
        out += part
    return out / (np.sqrt(np.mean(out[:RATE // 20] ** 2)) + 1e-12)


def reshaped(rng, x):
    """The same stroke on another instrument: each of nine bands louder or softer, and dying away faster or slower."""
    size = next_fast_len(len(x), real=True)
    spectrum, hz = rfft(x.astype(np.float32), size), np.fft.rfftfreq(size, 1 / RATE)
    edges = np.concatenate([[0], np.sqrt(CENTRES[:-1] * CENTRES[1:]), [RATE]])
    levels, pace = shape(rng, np.zeros(9), 4, 4), rng.normal(0, .3)
    at, out = np.arange(len(x)) / RATE, np.zeros(len(x))
    for i in range(9):
        part = irfft(np.where((hz >= edges[i]) & (hz < edges[i + 1]), spectrum, 0), size)[:len(x)]
        power = part ** 2
        # Of what falls by 60 dB in T the middle of the energy lies at T / 13.8.
        falls = 13.8 * float(power @ at) / (float(power.sum()) + 1e-12) + .02
        faster = np.exp(np.clip(pace + rng.normal(0, .25), -.6, 1)) - 1
        out += 10 ** (levels[i] / 20) * part * np.minimum(10, np.exp(-6.91 * faster / falls * at))
    return out


def shape(rng, mean, spread, tilt=5.0):
    """Levels about a mean: each band for itself, and the whole brighter or darker."""
    lean = rng.normal(0, tilt) * np.linspace(-1, 1, 9) ** 3 + rng.normal(0, tilt * .6) * np.linspace(-1, 1, 9)
    return np.array(mean) + rng.normal(0, spread, 9) + lean


def darker(x, strength, depth):
    """Soft strokes lose their top: one pole that closes as strength falls."""
    cut = np.clip((400 + 17000 * strength ** .8) * (1 - depth) + 20000 * depth, 200, 20000)
    a = np.exp(-2 * np.pi * cut / RATE)
    return lfilter([1 - a], [1, -a], x)


def kick(rng):
    hz, sweep, long = log_uniform(rng, 38, 90), log_uniform(rng, .2, 5), log_uniform(rng, .2, .9)
    glide, click, body = log_uniform(rng, .006, .05), log_uniform(rng, .02, 1.2), log_uniform(rng, .03, .6)
    skin, tail = log_uniform(rng, .01, .3), log_uniform(rng, .1, .6)
    top, second, ring = log_uniform(rng, 1200, 9000), rng.uniform(0, .5), log_uniform(rng, 1.4, 2.6)

    def strike(rng, strength):
        n = int(RATE * min(1.2, long * 1.3 + .05))
        x = modes(rng, n, hz, [1, ring], [1, second], [long, long * .5], sweep * (.5 + .5 * strength), glide)
        x *= rise(n, log_uniform(rng, .0008, .004))
        x += click * strength * noise_band(rng, n, 400, top) * decay(n, log_uniform(rng, .01, .04)) * .6
        x += skin * strength * noise_band(rng, n, 200, top) * falling(n, .04, tail, -8)
        return x + body * noise_band(rng, n, 50, 400) * falling(n, .08, tail, -6)
    return strike


def snare(rng):
    hz, wires, shell = log_uniform(rng, 130, 330), log_uniform(rng, .15, 1.6), log_uniform(rng, .2, 1.2)
    long, low, slope = log_uniform(rng, .12, .6), log_uniform(rng, 250, 2200), rng.uniform(-7, 2)
    tail, share, snap = log_uniform(rng, .3, 1.4), rng.uniform(-16, -3), log_uniform(rng, .05, .6)
    top, rim, ring = log_uniform(rng, 3500, 15000), rng.uniform(0, .8) * (rng.random() < .4), log_uniform(rng, 450, 1300)
    ratios = np.array([1, 1.59, 2.14, 2.3, 2.65, 3.2]) * rng.uniform(.95, 1.05, 6)
    levels = rng.uniform(.1, 1, 6) / np.arange(1, 7) ** .5

    def strike(rng, strength):
        n = int(RATE * min(1.2, max(long, shell, tail) * 1.2 + .05))
        x = modes(rng, n, hz, ratios, levels, shell * rng.uniform(.4, 1.2, 6), .12 * strength, .02)
        hiss = noise_band(rng, n, low, top, slope) * falling(n, long * (.6 + .4 * strength), tail, share)
        hiss = hiss * rise(n, log_uniform(rng, .0005, .006))
        x += wires * hiss * .5 + rim * strength * modes(rng, n, ring, [1, 2.7, 4.1], [1, .4, .2], [.12, .06, .04])
        return faded(x + strength * snap * noise_band(rng, n, 1000, top) * decay(n, .015))
    return strike


def stick(rng):
    hz, long, tail = log_uniform(rng, 380, 1700), log_uniform(rng, .02, .16), log_uniform(rng, .1, .5)
    ratios, levels = np.sort(rng.uniform(1, 5, 5)), rng.uniform(.1, 1, 5)

    def strike(rng, strength):
        n = int(RATE * .3)
        x = modes(rng, n, hz, ratios, levels, long * rng.uniform(.4, 1.1, 5))
        x += rng.uniform(0, .3) * modes(rng, n, rng.uniform(160, 260), [1, 1.6], [1, .5], [.08, .06])
        return faded(x + .6 * strength * noise_band(rng, n, 500, 12000, rng.uniform(-4, 0)) * falling(n, .015, tail, rng.uniform(-20, -10)))
    return strike


def tom(rng, hz):
    long, sweep, skin = log_uniform(rng, .5, 3), rng.uniform(.02, .5), log_uniform(rng, .08, 1)
    ratios = np.array([1, 1.5, 1.59, 2.14, 2.65]) * rng.uniform(.97, 1.03, 5)
    levels = np.array([1, *rng.uniform(.02, .5, 4)])
    tail, share = log_uniform(rng, .15, .9), rng.uniform(-14, -3)
    top, slope = log_uniform(rng, 1500, 9000), rng.uniform(-5, 1)

    def strike(rng, strength):
        n = int(RATE * min(1.8, long * 1.2 + .05))
        x = modes(rng, n, hz, ratios, levels, long * np.array([1, .6, .5, .4, .3]) * rng.uniform(.7, 1.2, 5), sweep * strength, .06)
        x *= rise(n, log_uniform(rng, .0008, .004))
        return faded(x + skin * strength * noise_band(rng, n, 150, top, slope) * falling(n, .04, tail, share))
    return strike


def hat(rng):
    """The same two cymbals closed, open and by foot: a chick of some hundred hertz, and hiss up to the top."""
    pair, seed = rng.normal(0, 3, 9), rng.integers(1 << 31)
    partials, noise = int(log_uniform(rng, 30, 500)), log_uniform(rng, .15, 1.5)
    closed = shape(rng, [-30, -25, -20, -11, -19, -17, -9, -4, -7], 4) + pair
    opened = shape(rng, [-40, -34, -22, -14, -21, -23, -15, -13, -18], 4) + pair
    stepped = shape(rng, [-26, -17, -13, -8, -20, -20, -14, -13, -20], 4) + pair
    tight, wide, step = log_uniform(rng, .2, .8), log_uniform(rng, 1, 4), log_uniform(rng, .15, .6)
    early, tail = log_uniform(rng, .5, 2.5), rng.uniform(-12, -2)

    bloom = log_uniform(rng, .001, .03)

    def same():
        return np.random.default_rng(seed + int(rng.integers(3)))

    def struck(rng, strength, levels, quick, slow, share, attack):
        n = int(RATE * min(2.5, slow * 1.1 + .05))
        x = metal(same(), n, levels, quick, slow, share, partials, noise, bloom) * rise(n, attack)
        return faded(x + strength * rng.uniform(0, .5) * noise_band(rng, n, 1500, 15000) * decay(n, .012))
    return {"closed": lambda r, s: struck(r, s, closed, tight * r.uniform(.8, 1.3), tight * r.uniform(1.5, 3), r.uniform(-28, -12), .0006),
            "open": lambda r, s: struck(r, s, opened, early, wide * r.uniform(.8, 1.2), tail, log_uniform(r, .0006, .006)),
            "foot": lambda r, s: struck(r, s, stepped, step * r.uniform(.8, 1.2), step * 2, r.uniform(-28, -10),
                log_uniform(r, .001, .012))}


def ride(rng):
    """One cymbal struck on its bow and on its bell: the stick, short and broad, over a wash that goes on."""
    pair, seed = rng.normal(0, 3, 9), rng.integers(1 << 31)
    partials, noise = int(log_uniform(rng, 40, 500)), log_uniform(rng, .05, 1)
    bright = rng.normal(0, 7)
    plate = shape(rng, [-42, -42, -26, -18, -26, -22, -13, -11, -24], 4.5) + pair + np.array([0] * 6 + [bright] * 3)
    tip = shape(rng, [-28, -27, -23, -14, -23, -21, -14, -11, -14], 4.5)
    long, quick, share = log_uniform(rng, 2, 8), log_uniform(rng, .3, 2), rng.uniform(-8, -1)
    wash, tip_long = log_uniform(rng, .25, 2), log_uniform(rng, .04, .3)
    sizzle = rng.uniform(.1, .5) * (rng.random() < .15)
    bell_levels = shape(rng, [-40, -38, -28, -19, -24, -22, -15, -19, -29], 4) + pair
    bell_hz, bell_long = log_uniform(rng, 600, 3200), log_uniform(rng, .6, 4)
    bell_ratios = np.cumprod(np.concatenate([[1], rng.uniform(1.12, 1.75, 7)]))
    bell_strengths, bell_wash = rng.uniform(.15, 1, 8), log_uniform(rng, .1, .7)

    def at(rng):
        return np.random.default_rng(seed + int(rng.integers(3)))

    def bow(rng, strength):
        n = int(RATE * min(2.5, long))
        x = wash * (.4 + .6 * strength) * metal(at(rng), n, plate, quick, long, share, partials, noise, .01)
        m = int(RATE * .4)
        x[:m] += metal(np.random.default_rng(seed + 5), m, tip, tip_long, tip_long * 2, -15, 80, .7) * (.3 + .7 * strength)
        return faded(x + sizzle * noise_band(rng, n, 4000, 14000) * decay(n, long * .5))

    def bell(rng, strength):
        n = int(RATE * min(2.5, bell_long * 1.1))
        x = modes(rng, n, bell_hz, bell_ratios, bell_strengths, bell_long * rng.uniform(.4, 1.1, 8))
        x = (x + modes(rng, n, bell_hz * 1.004, bell_ratios, bell_strengths * .4, bell_long * rng.uniform(.4, 1.1, 8))) * .5
        x = x / (np.sqrt(np.mean(x[:RATE // 20] ** 2)) + 1e-12)
        x += bell_wash * metal(at(rng), n, bell_levels, quick, bell_long, share, partials, noise)
        m = int(RATE * .3)
        x[:m] += strength * .5 * metal(np.random.default_rng(seed + 6), m, tip, tip_long * .5, tip_long, -15, 60, .7)
        return faded(x)
    return {"ride": bow, "bell": bell}


def thin(rng):
    """Hats, ride and crash without a body: a few partials and hiss between two frequencies, nothing below, dying away at one pace."""
    low, high = log_uniform(rng, 1800, 6500), log_uniform(rng, 9000, 18000)
    lines, hiss, click = int(log_uniform(rng, 5, 70)), log_uniform(rng, .05, 3), log_uniform(rng, .03, .8)
    seconds = {"closed": log_uniform(rng, .03, .3), "open": log_uniform(rng, .35, 1.8), "foot": log_uniform(rng, .04, .25),
               "ride": log_uniform(rng, .6, 4), "crash": log_uniform(rng, .7, 4)}
    lowest = {"closed": low, "open": low * rng.uniform(.8, 1), "foot": low * rng.uniform(.4, 1), "ride": low * rng.uniform(.12, .8),
              "crash": low * rng.uniform(.08, .6)}
    chick, ping, seed = rng.uniform(0, .5), rng.uniform(0, .6), rng.integers(1 << 31)

    def struck(voice):
        def strike(rng, strength):
            n, same = int(RATE * min(2.5, seconds[voice] * 1.2 + .05)), np.random.default_rng([seed, len(voice)])
            place = np.sort(same.random(lines))
            x = modes(same, n, lowest[voice], (high / lowest[voice]) ** place, same.uniform(.4, 1.4, lines) / lines ** .5,
                      seconds[voice] * (1.15 - .7 * place) * same.uniform(.7, 1.3, lines))
            x += hiss * noise_band(rng, n, lowest[voice], high) * decay(n, seconds[voice] * rng.uniform(.5, 1.1))
            x *= rise(n, log_uniform(rng, .01, .04) if voice == "crash" else .0006)
            x += strength * click * noise_band(rng, n, 2000, 12000) * decay(n, .006)
            if voice == "foot":
                x += chick * noise_band(rng, n, 600, 2800) * decay(n, .03)
            if voice == "ride":
                x += ping * strength * modes(same, n, log_uniform(same, 1500, 5000), [1, 1.39], [1, .7], [.6, .4])
            return faded(x)
        return strike
    return {voice: struck(voice) for voice in seconds}


def faded(x):
    """What is cut off before it has died away ends in a fade."""
    n = min(len(x), int(RATE * .25))
    x[-n:] *= np.linspace(1, 0, n)
    return x


def cowbell(rng):
    hz, ratio, long = log_uniform(rng, 400, 1100), rng.uniform(1.35, 1.6), log_uniform(rng, .08, .6)
    more = np.concatenate([[1, ratio], ratio * rng.uniform(1.2, 8, 9)])
    strengths = np.concatenate([[1, rng.uniform(.4, 1)], rng.uniform(.05, .6, 9)])
    levels, knock = shape(rng, [-38, -38, -26, -16, -20, -17, -17, -25, -33], 4), log_uniform(rng, .1, .9)

    def strike(rng, strength):
        n = int(RATE * min(.9, long * 1.3 + .05))
        x = modes(rng, n, hz, more, strengths, long * np.concatenate([[1, 1], rng.uniform(.2, .9, 9)]))
        x = x / (np.sqrt(np.mean(x[:RATE // 20] ** 2)) + 1e-12)
        return faded(x + knock * (.4 + .6 * strength) * metal(rng, n, levels, long * .4, long, -14, 80, .7))
    return strike


def crash(rng):
    """Crash, splash and china: edge and wash whose top comes a moment after the stroke, and sometimes a hand that chokes it."""
    small = rng.random() < .2
    levels = shape(rng, [-42, -40, -28, -19, -22, -21, -13, -16, -29], 4)
    long = log_uniform(rng, .7, 1.6) if small else log_uniform(rng, 1.5, 6)
    quick, share = log_uniform(rng, .6, 4), rng.uniform(-10, -1)
    partials, noise = int(log_uniform(rng, 150, 900)), log_uniform(rng, .4, 2.5)
    bloom, choke = log_uniform(rng, .01, .09), rng.uniform(.2, .8) if rng.random() < .05 else 0
    edge, knock = shape(rng, [-36, -36, -26, -16, -20, -22, -20, -22, -30], 4), log_uniform(rng, .08, .5)
    seed = rng.integers(1 << 31)

    def strike(rng, strength):
        n = int(RATE * min(3.0, long * 1.1))
        x = metal(np.random.default_rng(seed + int(rng.integers(3))), n, levels, quick, long, share, partials, noise, bloom)
        m = int(RATE * .3)
        x[:m] += strength * knock * metal(np.random.default_rng(seed + 5), m, edge, .08, .25, -14, 80, .8)
        if choke:
            cut = int(RATE * choke)
            x[cut:] *= decay(len(x[cut:]), .08)
        return faded(x)
    return strike
