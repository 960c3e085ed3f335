"""How well weights do on pieces of other kits: thresholds chosen, figures by family, by with and without a band."""
import torch
from . import pieces, score
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
    results = heard(weights, folder, kind)
    thresholds = score.best_thresholds(results)
    print("thresholds", thresholds)
    for name, wanted in (("all", None), ("drums alone", False), ("with a band", True)):
        part = [r for r in results if wanted is None or r[1]["band"] == wanted]
        print(f"--- {name}, {len(part)} pieces\n{score.report(part, thresholds)}", flush=True)
    return thresholds
