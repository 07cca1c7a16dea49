"""A small network fitted to patches of pictures and what they show, and written to a file. Needs PyTorch and
onnxscript, which the application does not."""

from __future__ import annotations

import math
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import Any

import numpy as np
from numpy.typing import NDArray

from aretane.vision.balls.patches import CHANNELS, SIDE

BOLD, GENTLE = 4e-3, 1e-3  # the largest steps: of a new network, of one that is gone on with
BATCH = 512  # cases a step


@dataclass(frozen=True)
class Cases:
    """Patches (n x channels x side x side) and what is to be said of them (n x so much)."""

    looked_at: NDArray[np.float16]
    told: NDArray[np.float32]


@dataclass(frozen=True)
class Task:
    """What a network says (so many numbers), how wrong that is, which columns of what is told turn round in a
    mirror, and how it does on cases that took no part. If cases of the first column's 1 are `rare`, it is shown but
    so many others beside each of them, other ones every time."""

    outputs: int
    loss: Callable[[Any, Any], Any]
    sideways: tuple[int, ...]
    check: Callable[[NDArray[np.float32], NDArray[np.float32]], str]
    rare: int | None = None


def fitted(
    task: Task, cases: Cases, epochs: int, out: Path, checked: Cases | None = None, start: Path | None = None
) -> None:
    """The network fitted and written to a file. Where it goes on from the weights of a file it becomes their mean,
    which keeps what both have learnt (Wortsman et al. 2022, Robust fine-tuning of zero-shot models); of a network
    that said something else it takes over what it sees, all layers but the last (Yosinski et al. 2014, How
    transferable are features in deep neural networks)."""
    import torch

    torch.manual_seed(1)
    net = _network(task.outputs)
    own, before = net.state_dict(), {} if start is None else _weights_in(start)
    alike = {key: weights for key, weights in before.items() if weights.shape == own[key].shape}
    net.load_state_dict(own | alike)
    x, y = torch.from_numpy(cases.looked_at), torch.from_numpy(cases.told)
    steps = epochs * math.ceil(len(_order(y, task.rare)) / BATCH)
    fit = torch.optim.AdamW(net.parameters(), lr=2e-3, weight_decay=1e-3)
    pace = torch.optim.lr_scheduler.OneCycleLR(fit, GENTLE if before else BOLD, total_steps=steps)
    for epoch in range(epochs):
        net.train()
        total = 0.0
        order = _order(y, task.rare)
        for part in order.split(BATCH):
            seen, told = x[part].float(), y[part].clone()
            if torch.rand(1) < 0.5:  # a mirror shows as good a ball
                seen = seen.flip(3)
                told[:, list(task.sideways)] *= -1
            loss = task.loss(net(seen), told)
            fit.zero_grad()
            loss.backward()
            fit.step()
            pace.step()
            total += float(loss.detach()) * len(part)
        line = f"{epoch + 1}: {total / len(order):.4f}"
        if checked is not None:
            line += f"  {task.check(_said(net, checked), checked.told)}"
        print(line, flush=True)
    net.eval()
    if before and len(alike) == len(before):
        net.load_state_dict({key: (net.state_dict()[key] + old) / 2 for key, old in before.items()})
    names = {"input_names": ["patches"], "output_names": ["told"]}
    anyhow = {"patches": {0: "n"}, "told": {0: "n"}}
    shown = (torch.zeros(2, CHANNELS, SIDE, SIDE),)
    torch.onnx.export(net, shown, str(out), **names, dynamic_axes=anyhow, dynamo=False)


def _order(told: Any, rare: int | None) -> Any:
    """In which cases are looked at."""
    import torch

    if rare is None:
        return torch.randperm(len(told))
    some, others = (torch.nonzero((told[:, 0] == 1) == it_is)[:, 0] for it_is in (True, False))
    chosen = torch.cat([some, others[torch.randperm(len(others))[: rare * len(some)]]])
    return chosen[torch.randperm(len(chosen))]


def _network(outputs: int) -> Any:
    from torch import nn

    return nn.Sequential(
        nn.Conv2d(CHANNELS, 24, 5, stride=2, padding=2), nn.ReLU(),
        nn.Conv2d(24, 40, 3, stride=2, padding=1), nn.ReLU(),
        nn.Conv2d(40, 64, 3, stride=2, padding=1), nn.ReLU(),
        nn.Conv2d(64, 64, 3, padding=1), nn.ReLU(),
        nn.Flatten(), nn.Linear(64 * (SIDE // 8) ** 2, 64), nn.ReLU(), nn.Linear(64, outputs),
    )  # fmt: skip


def _weights_in(file: Path) -> dict[str, Any]:
    """Of a network that was written: each layer's weights by name."""
    import onnx
    import torch

    held = onnx.load(str(file)).graph.initializer
    return {one.name: torch.from_numpy(onnx.numpy_helper.to_array(one).copy()) for one in held}


def _said(net: Any, cases: Cases) -> NDArray[np.float32]:
    import torch

    net.eval()
    with torch.no_grad():
        parts = torch.from_numpy(cases.looked_at).split(1024)
        return np.asarray(torch.cat([net(part.float()) for part in parts]).numpy())
