"""The trained networks as ONNX, with what a reader of them must know in their metadata."""
import numpy as np
import onnx
import torch
from onnx import numpy_helper
from .network import Ear
from .pulse import Pulse
from .voices import FAMILIES, OUTPUTS


FEW = 256


def halved(graph):
    """Weights in 16 bits, which are made 32 as the file is opened: half the file, and no stroke heard differently."""
    casts = []
    for weights in graph.initializer:
        values = numpy_helper.to_array(weights)
        if values.dtype != np.float32 or values.size < FEW:
            continue
        name = weights.name
        weights.CopyFrom(numpy_helper.from_array(values.astype(np.float16), name + "_16"))
        casts.append(onnx.helper.make_node("Cast", [name + "_16"], [name], to=onnx.TensorProto.FLOAT))
    nodes = [*casts, *graph.node]
    del graph.node[:]
    graph.node.extend(nodes)


def export(model, width, path, version, facts):
    model.eval()
    torch.onnx.export(model, torch.zeros(1, 400, width), path, opset_version=13, input_names=["bands"], output_names=["heard"],
                      dynamic_axes={"bands": {1: "frames"}, "heard": {1: "frames"}})
    made = onnx.load(path)
    halved(made.graph)
    for key, value in {"version": version, **facts}.items():
        entry = made.metadata_props.add()
        entry.key, entry.value = key, value
    onnx.save(made, path)


def export_ear(weights, path, version, thresholds, onset):
    model = Ear()
    if weights:
        model.load_state_dict(torch.load(weights))
    export(model, 72, path, version, {"outputs": ",".join(OUTPUTS), "families": ",".join(FAMILIES),
        "thresholds": ",".join(map(str, thresholds)),
                             "onset": str(onset)})


def export_pulse(weights, path, version):
    model = Pulse()
    if weights:
        model.load_state_dict(torch.load(weights))
    export(model, 7, path, version, {"outputs": "beat,bar"})
