"""What can be struck, and the outputs of the network in the order in which everybody reads them."""

VOICES = ["kick", "snare", "stick", "closed", "open", "foot", "ride", "bell", "cowbell", "crash", "tom"]
FAMILIES = ["kick", "snare", "hat", "ride", "crash", "tom", "bell"]
FAMILY_OF = {"kick": "kick", "snare": "snare", "stick": "snare", "closed": "hat", "open": "hat", "foot": "hat", "ride": "ride",
             "bell": "bell", "cowbell": "bell", "crash": "crash", "tom": "tom"}

# A kind says which of two sounds of one family it was; it is asked only where that family was struck.
KINDS = ["stick", "open", "foot", "cowbell"]
OUTPUTS = ([f"family.{f}" for f in FAMILIES] + [f"kind.{k}" for k in KINDS] + ["onset"]
           + [f"velocity.{f}" for f in FAMILIES] + ["tom.pitch"])

FAMILY = slice(0, 7)
KIND = slice(7, 11)
ONSET = 11
VELOCITY = slice(12, 19)
TOM_PITCH = 19

RATE = 44100
HOP = 441


def tom_pitch(hz):
    """Where a tom lies between 50 Hz (0) and 400 Hz (1), in octaves."""
    from math import log2
    return min(1.0, max(0.0, log2(max(hz, 1) / 50) / 3))
