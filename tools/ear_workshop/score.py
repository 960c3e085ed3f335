"""Peaks of activations, and how many of them are right."""
import numpy as np
from .voices import FAMILIES, FAMILY, FAMILY_OF, ONSET, VELOCITY


def peaks(column, threshold):
    """(seconds, height) of local maxima at or over the threshold; a peak's time leans to its higher neighbour."""
    left = np.concatenate([[0], column[:-1]])
    right = np.concatenate([column[1:], [0]])
    at = np.flatnonzero((column >= threshold) & (column >= left) & (column > right))
    return [((i + (right[i] - left[i]) / (2 * column[i])) / 100, float(column[i])) for i in at]


def strokes(activations, thresholds, onset):
    """Of each family the times of its strokes, ascending; the same in C#: HeardStrokes. Where anything is struck and no family is over its
    threshold, the one that comes nearest is taken."""
    found = [[t for t, _ in peaks(activations[:, FAMILY.start + i], threshold)] for i, threshold in enumerate(thresholds)]
    clear = np.array(sorted(t for times in found for t in times) or [-9.0])
    for at, _ in peaks(activations[:, ONSET], onset):
        if np.abs(clear - at).min() > .03:
            frame = int(round(at * 100))
            near = activations[max(0, frame - 1):frame + 2, FAMILY].max(axis=0)
            found[int(np.argmax(near / thresholds))].append(at)
    bow_or_bell(activations, thresholds, found)
    return [sorted(times) for times in found]


def bow_or_bell(activations, thresholds, found):
    """A ride is struck on its bow or on its bell: of both within 30 ms the one stands that is clearly surer. Cowbells are not told from
    bells here."""
    ride, bell = FAMILIES.index("ride"), FAMILIES.index("bell")

    def sure(at, family):
        frame = int(round(at * 100))
        return activations[max(0, frame - 1):frame + 2, FAMILY.start + family].max() / thresholds[family]

    def stands(at, family, other):
        return all(abs(at - t) >= .03 or sure(t, other) <= 1.2 * sure(at, family) for t in found[other])
    found[ride], found[bell] = [t for t in found[ride] if stands(t, ride, bell)], [t for t in found[bell] if stands(t, bell, ride)]


def matched(found, true, window):
    """How many of two ascending lists of times pair off within the window."""
    i = j = hits = 0
    while i < len(found) and j < len(true):
        if abs(found[i] - true[j]) <= window:
            hits, i, j = hits + 1, i + 1, j + 1
        elif found[i] < true[j]:
            i += 1
        else:
            j += 1
    return hits


def f_measure(hits, found, true):
    return 2 * hits / max(1, found + true)


def merged(times, apart=.03):
    out = []
    for t in sorted(times):
        if not out or t - out[-1] > apart:
            out.append(t)
    return out


def score(results, thresholds, onset, window=.05):
    """results: [(activations, truth)]. Counts by family and of onsets of any: {name: (hits, found, true)}."""
    counts = {name: np.zeros(3) for name in FAMILIES + ["onset", "ghost"]}
    for activations, truth in results:
        everything = []
        for family, found in zip(FAMILIES, strokes(activations, thresholds, onset)):
            true = sorted(s[0] for s in truth["strokes"] if FAMILY_OF[s[1]] == family)
            counts[family] += (matched(found, true, window), len(found), len(true))
            everything += found
            if family == "snare":
                ghosts = sorted(s[0] for s in truth["strokes"] if s[1] == "snare" and s[2] < .45)
                counts["ghost"] += (matched(found, ghosts, window), len(ghosts), len(ghosts))
        found, true = merged(everything), merged([s[0] for s in truth["strokes"]])
        counts["onset"] += (matched(found, true, window), len(found), len(true))
    return counts


def family_f(results, i, threshold):
    hits = found = count = 0
    for activations, truth in results:
        times = [t for t, _ in peaks(activations[:, FAMILY.start + i], threshold)]
        true = sorted(s[0] for s in truth["strokes"] if FAMILY_OF[s[1]] == FAMILIES[i])
        hits, found, count = hits + matched(times, true, .05), found + len(times), count + len(true)
    return f_measure(hits, found, count)


def best_thresholds(sets):
    """sets: [(results, weight)]; of each family the threshold at which the weighed mean of the sets' F is highest."""
    grid = np.arange(.2, .81, .05)
    return [round(float(max(grid, key=lambda t, i=i: sum(weight * family_f(results, i, t) for results, weight in sets))), 2)
        for i in range(len(FAMILIES))]


def best_onset(sets, thresholds):
    """The threshold of any stroke at which the weighed mean of the sets' onset F is highest."""
    def weighed(onset):
        return sum(weight * f_measure(*score(results, thresholds, onset)["onset"]) for results, weight in sets)
    return round(float(max(np.arange(.2, .91, .05), key=weighed)), 2)


def report(results, thresholds, onset):
    counts = score(results, thresholds, onset)
    lines = [f"{name:6} F {f_measure(*counts[name]):.3f}  precision {counts[name][0] / max(1, counts[name][1]):.3f}  "
             f"recall {counts[name][0] / max(1, counts[name][2]):.3f}  of {int(counts[name][2])}" for name in FAMILIES + ["onset"]]
    families = sum(counts[f] for f in FAMILIES)
    lines.append(f"family F {f_measure(*families):.3f}   ghosts found {counts['ghost'][0] / max(1, counts['ghost'][2]):.3f}")
    errors = []
    for activations, truth in results:
        for at, voice, velocity, *_ in truth["strokes"]:
            frame = int(round(at * 100))
            if frame < len(activations):
                errors.append(abs(activations[frame, VELOCITY.start + FAMILIES.index(FAMILY_OF[voice])] - velocity))
    return "\n".join(lines + [f"velocity off by {np.mean(errors):.3f} (mean)"])


def by_loudness(results, thresholds, onset):
    """How many of the strokes of each family are found, soft to loud: quarters of the velocity."""
    found, count = np.zeros((len(FAMILIES), 4), int), np.zeros((len(FAMILIES), 4), int)
    for activations, truth in results:
        times = [np.array(t or [-9.0]) for t in strokes(activations, thresholds, onset)]
        for at, voice, velocity, *_ in truth["strokes"]:
            cell = FAMILIES.index(FAMILY_OF[voice]), min(3, int(velocity * 4))
            count[cell] += 1
            found[cell] += np.abs(times[cell[0]] - at).min() <= .05
    lines = ["found of the strokes with velocity   under .25   .25 to .5   .5 to .75   over .75"]
    return "\n".join(lines + [f"{family:34}" + "".join(f"{f:5} of {c:4}" for f, c in zip(*row))
        for family, row in zip(FAMILIES, zip(found, count))])


def confusion(results, thresholds, onset):
    """Rows: what was struck; columns: what was found within 30 ms that was not struck there, by family, and nothing. In shares of 100."""
    table = np.zeros((len(FAMILIES), len(FAMILIES) + 2), int)
    for activations, truth in results:
        found = [np.array(times or [-9.0]) for times in strokes(activations, thresholds, onset)]
        for at, voice, *_ in truth["strokes"]:
            row = FAMILIES.index(FAMILY_OF[voice])
            near = [np.abs(f - at).min() < .03 for f in found]
            there = {FAMILIES.index(FAMILY_OF[s[1]]) for s in truth["strokes"] if abs(s[0] - at) < .04}
            wrong = [i for i in range(len(FAMILIES)) if near[i] and i not in there]
            table[row, len(FAMILIES)] += near[row]
            table[row, len(FAMILIES) + 1] += not near[row] and not wrong
            if not near[row]:
                for i in wrong:
                    table[row, i] += 1
    shares = np.round(100 * table / np.maximum(1, table[:, -2:].sum(axis=1, keepdims=True)
        + table[:, :-2].sum(axis=1, keepdims=True))).astype(int)
    lines = ["struck \\ found instead: " + " ".join(f"{f:>6}" for f in FAMILIES) + "  right  none"]
    return "\n".join(lines + [f"{f:22}  " + " ".join(f"{v:6}" for v in row) for f, row in zip(FAMILIES, shares)])
