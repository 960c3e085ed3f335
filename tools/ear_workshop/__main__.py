"""The commands of tools/ear."""
import os
import sys
from . import bank, export, find_set, make_set, measure_set, pieces, pulse, train, validate

HERE = os.path.join(os.path.dirname(os.path.abspath(__file__)), "..", "..", "src", "InnerCadence.Core", "Hearing")
VERSION = "7"
ROUNDS = [(16000, 2.5e-3), (18000, 1.5e-3), (20000, 1.5e-3), (5500, 9e-4), (11000, 1.3e-3), (6500, 1.2e-3),
          (20000, 1.4e-3)]
PULSE_ROUNDS = [(8000, 2.5e-3), (2750, 1.3e-3)]


def main(data, command, *arguments):
    folder, ear, beat = (os.path.join(data, name) for name in ("pieces", "ear.pt", "pulse.pt"))
    if command == "pieces":
        pieces.make_all(folder, 50, "validation", os.cpu_count())
        bank.make_all(folder, 24)
        pieces.make_all(folder, 600, "band", os.cpu_count())
        pieces.make_all(folder, 5600, "training", os.cpu_count())
    elif command == "train":
        train.train(folder, ear, ROUNDS)
    elif command == "pulse":
        pulse.train(beat, PULSE_ROUNDS, threads=2)
    elif command == "validate":
        validate.validate(ear, folder)
    elif command == "export":
        export.export_ear(ear, os.path.join(HERE, "ear.onnx"), VERSION, *validate.validate(ear, folder))
        if os.path.exists(beat):
            export.export_pulse(beat, os.path.join(HERE, "pulse.onnx"), VERSION)
    elif command == "make-set":
        make_set.make(arguments[0], int(arguments[1]))
    elif command == "score":
        make_set.score_of(arguments[0], arguments[1])
    elif command == "make-passages":
        measure_set.make(arguments[0], int(arguments[1]), *arguments[2:])
    elif command == "score-passages":
        measure_set.score_of(arguments[0], arguments[1])
    elif command == "make-finds":
        find_set.make(arguments[0], int(arguments[1]))
    elif command == "score-finds":
        find_set.score_of(arguments[0], arguments[1])
    elif command == "smoke":
        small = os.path.join(data, "smoke")
        pieces.make_all(small, 2, "validation", os.cpu_count())
        bank.make_all(small, 2)
        pieces.make_all(small, 2, "band", os.cpu_count())
        pieces.make_all(small, 6, "training", os.cpu_count())
        for name in ("ear.pt", "pulse.pt"):
            for end in ("", ".state"):
                if os.path.exists(os.path.join(small, name + end)):
                    os.remove(os.path.join(small, name + end))
        train.train(small, os.path.join(small, "ear.pt"), [(20, 2.5e-3), (10, 1.5e-3)])
        pulse.train(os.path.join(small, "pulse.pt"), [(10, 2.5e-3)], count=20)
        export.export_ear(os.path.join(small, "ear.pt"), os.path.join(small, "ear.onnx"), "0",
                          *validate.validate(os.path.join(small, "ear.pt"), small))
        export.export_pulse(os.path.join(small, "pulse.pt"), os.path.join(small, "pulse.onnx"), "0")
        make_set.make(os.path.join(small, "set"), 2)
        print("The workshop runs from end to end.")
    else:
        sys.exit(f"There is no step {command}: see tools/ear.")


main(*sys.argv[1:])
