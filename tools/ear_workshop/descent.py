"""Down a loss by steps that are counted, not timed: AdamW under a cosine, with the running mean of the weights, which is what is kept.
There may be several rounds, each with a cosine of its own: what was learned can be gone on from with more to learn from.

The state is written every five minutes, and a run that was stopped goes on from it. No run takes longer than fifty-five minutes: what is
left of its steps the next one takes."""
import os
import time
import numpy as np
import torch

RATE, WARM_UP, CLIP, RUNNING = 2.5e-3, 300, 2, .998
LONGEST = 55 * 60


def rate_at(step, rounds):
    """rounds: [(steps, rate at which it begins)]."""
    for steps, rate in rounds:
        if step < steps:
            return rate * min(1, (step + 1) / WARM_UP) * .5 * (1 + np.cos(np.pi * step / steps))
        step -= steps
    return 0.0


def descend(name, model, mean, loss_of_next, rng, rounds, out):
    """`loss_of_next(step)` draws a batch and gives its loss; `mean` is another of the same make, `rng` what batches are drawn with.
    Writes the mean's weights to `out`. Whether all steps are done."""
    steps = sum(steps for steps, _ in rounds)
    mean.load_state_dict(model.state_dict())
    optimizer = torch.optim.AdamW(model.parameters(), lr=RATE, weight_decay=1e-2)
    state, begin = out + ".state", 0
    if os.path.exists(state):
        kept = torch.load(state)
        model.load_state_dict(kept["model"])
        mean.load_state_dict(kept["mean"])
        optimizer.load_state_dict(kept["optimizer"])
        rng.bit_generator.state, begin = kept["rng"], kept["step"]
    began = saved = time.time()
    running = 0.0
    model.train()
    for step in range(begin, steps):
        for group in optimizer.param_groups:
            group["lr"] = rate_at(step, rounds)
        loss = loss_of_next(step)
        optimizer.zero_grad()
        loss.backward()
        torch.nn.utils.clip_grad_norm_(model.parameters(), CLIP)
        optimizer.step()
        keep = min(RUNNING, (step + 1) / (step + 10))
        with torch.no_grad():
            for kept, new in zip(mean.state_dict().values(), model.state_dict().values()):
                kept.copy_(kept * keep + new * (1 - keep) if kept.dtype.is_floating_point else new)
        running = .99 * running + .01 * float(loss)
        if (step + 1) % 200 == 0:
            print(f"{name}: step {step + 1} of {steps}, loss {running / (1 - .99 ** min(step + 1 - begin, 2000)):.4f}", flush=True)
        enough = time.time() - began > LONGEST
        if time.time() - saved > 300 or step + 1 == steps or enough:
            torch.save({"model": model.state_dict(), "mean": mean.state_dict(), "optimizer": optimizer.state_dict(),
                        "rng": rng.bit_generator.state, "step": step + 1}, state + ".new")
            os.replace(state + ".new", state)
            saved = time.time()
        if enough and step + 1 < steps:
            print(f"{name}: fifty-five minutes are over at step {step + 1} of {steps}; the same command goes on from here.", flush=True)
            return False
    torch.save(mean.state_dict(), out)
    return True
