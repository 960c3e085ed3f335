"""How well weights do on pieces of other kits: thresholds chosen, figures by family, by with and without a band, and of what they may have
gone through."""
import torch
from . import bank as banks, pieces, score
from .network import Ear


def heard(weights, folder, kind="validation", most=None):
    model = Ear()
    model.load_state_dict(torch.load(weights))
    model.eval()
    out = []
    with torch.no_grad():
        for features, truth in pieces.load(folder, kind, most):
            out.append((model(torch.from_numpy(features.astype("float32"))[None])[0].numpy(), truth))
    return out


def validate(weights, folder, kind="validation"):
    results, bank = heard(weights, folder, kind), heard(weights, folder, "bank")
    # The hard kits say what is hardest, the bank what is usual.
    sets = [(results, .25), (bank, .75)] if bank else [(results, 1)]
    thresholds = score.best_thresholds(sets)
    onset = score.best_onset(sets, thresholds)
    print("thresholds", thresholds, "of any stroke", onset)
    if bank:
        print(f"--- a General MIDI bank, {len(bank)} pieces\n{score.report(bank, thresholds, onset)}\n"
              f"{score.confusion(bank, thresholds, onset)}\n{score.by_loudness(bank, thresholds, onset)}", flush=True)
    for kind in banks.THROUGH:
        counts = score.score(heard(weights, folder, kind), thresholds, onset)
        print(f"--- {kind}: onset F {score.f_measure(*counts['onset']):.3f}   "
              f"family F {score.f_measure(*sum(counts[f] for f in score.FAMILIES)):.3f}", flush=True)
    for name, wanted in (("all", None), ("drums alone", False), ("with a band", True)):
        part = [r for r in results if wanted is None or r[1]["band"] == wanted]
        print(f"--- {name}, {len(part)} pieces\n{score.report(part, thresholds, onset)}\n{score.by_loudness(part, thresholds, onset)}",
            flush=True)
    return thresholds, onset
