"""The network of the ear: a clip of features to what was struck. It sees 0.65 s each way, and of the whole clip what its kit sounds like."""
import torch
from torch import nn
from torch.nn import functional
from .voices import OUTPUTS


class Residual(nn.Module):
    def __init__(self, width, dilation, drop=.1):
        super().__init__()
        self.conv = nn.Conv1d(width, width, 3, padding=dilation, dilation=dilation, bias=False)
        self.norm = nn.BatchNorm1d(width)
        self.drop = nn.Dropout(drop) if drop else nn.Identity()

    def forward(self, x):
        return x + self.drop(torch.relu(self.norm(self.conv(x))))


class Gate(nn.Module):
    """Each channel louder or softer by what the clip is like on the whole: the mean of every channel, and how far it moves."""

    def __init__(self, width):
        super().__init__()
        self.weigh = nn.Linear(2 * width, width)

    def forward(self, x):
        mean = x.mean(dim=2)
        spread = torch.sqrt((x * x).mean(dim=2) - mean * mean + 1e-4)
        return x * (2 * torch.sigmoid(self.weigh(torch.cat([mean, spread], dim=1)))).unsqueeze(2)


class Glance(nn.Module):
    """Each moment beside all others of the clip, 25 of them a second: what else sounds like it, and what it is not like."""

    EVERY = 4

    def __init__(self, width, heads=4):
        super().__init__()
        self.heads = heads
        self.norm = nn.BatchNorm1d(width)
        self.ask = nn.Linear(width, 3 * width, bias=False)
        self.tell = nn.Linear(width, width)
        nn.init.zeros_(self.tell.weight)
        nn.init.zeros_(self.tell.bias)

    def forward(self, x):
        seen = self.norm(functional.max_pool1d(x, self.EVERY, ceil_mode=True)).transpose(1, 2)
        width = seen.shape[2]
        query, key, value = (part.chunk(self.heads, dim=2) for part in self.ask(seen).chunk(3, dim=2))
        # Head by head: of a whole window one is 3 MB.
        told = torch.cat([torch.softmax(q * (self.heads / width) ** .5 @ k.transpose(1, 2), dim=2) @ v
                          for q, k, v in zip(query, key, value)], dim=2)
        told = self.tell(told).transpose(1, 2)
        return x + told.unsqueeze(3).expand(-1, -1, -1, self.EVERY).flatten(2)[:, :, :x.shape[2]]


class Ear(nn.Module):
    """batch x frames x 72 to batch x frames x outputs; outputs are 0 to 1."""

    def __init__(self, width=160, sides=64, near=(1, 2, 4), far=(8, 16, 32)):
        super().__init__()

        def over_bands(inputs, outputs, bands):
            return nn.Sequential(nn.Conv2d(inputs, outputs, (3, bands), stride=(1, 2), padding=(1, bands // 2), bias=False),
                                 nn.BatchNorm2d(outputs), nn.ReLU())
        self.spectrum = nn.Sequential(over_bands(2, 16, 5), over_bands(16, 32, 3), over_bands(32, sides, 3))
        self.squeeze = nn.Sequential(nn.Conv1d(sides * 9, width, 1, bias=False), nn.BatchNorm1d(width), nn.ReLU(), Gate(width),
                                     nn.Dropout1d(.05))
        self.time = nn.Sequential(*[Residual(width, d, 0) for d in near], Gate(width), *[Residual(width, d, 0) for d in far])
        self.clip = nn.Sequential(Glance(width), Residual(width, 1, 0), Residual(width, 4, 0), Glance(width), Residual(width, 1, 0))
        self.out = nn.Conv1d(width, len(OUTPUTS), 1)

    def logits(self, x, mean):
        """`mean`: batch x 1 x 72, of the whole window, of which x may be a part."""
        x = torch.stack([x, x - mean], dim=1)
        x = self.spectrum(x)
        x = x.permute(0, 1, 3, 2).flatten(1, 2)
        return self.out(self.clip(self.time(self.squeeze(x)))).transpose(1, 2)

    def forward(self, x):
        return torch.sigmoid(self.logits(x, x.mean(dim=1, keepdim=True)))
