"""The network of the ear: a clip of features to what was struck. It sees 0.65 s each way."""
import torch
from torch import nn
from .voices import OUTPUTS


class Residual(nn.Module):
    def __init__(self, width, dilation):
        super().__init__()
        self.conv = nn.Conv1d(width, width, 3, padding=dilation, dilation=dilation, bias=False)
        self.norm = nn.BatchNorm1d(width)
        self.drop = nn.Dropout(.1)

    def forward(self, x):
        return x + self.drop(torch.relu(self.norm(self.conv(x))))


class Ear(nn.Module):
    """batch x frames x 72 to batch x frames x outputs; outputs are 0 to 1."""

    def __init__(self, width=64, dilations=(1, 2, 4, 8, 16, 32)):
        super().__init__()

        def over_bands(inputs, outputs, bands):
            return nn.Sequential(nn.Conv2d(inputs, outputs, (3, bands), stride=(1, 2), padding=(1, bands // 2), bias=False),
                                 nn.BatchNorm2d(outputs), nn.ReLU())
        self.spectrum = nn.Sequential(over_bands(2, 16, 5), over_bands(16, 24, 3), over_bands(24, 32, 3))
        self.squeeze = nn.Sequential(nn.Conv1d(32 * 9, width, 1, bias=False), nn.BatchNorm1d(width), nn.ReLU())
        self.gate = nn.Linear(width, width)
        self.time = nn.Sequential(*[Residual(width, d) for d in dilations])
        self.out = nn.Conv1d(width, len(OUTPUTS), 1)

    def logits(self, x, mean):
        """`mean`: batch x 1 x 72, of the whole window, of which x may be a part."""
        x = torch.stack([x, x - mean], dim=1)
        x = self.spectrum(x)
        x = x.permute(0, 1, 3, 2).flatten(1, 2)
        x = self.squeeze(x)
        x = x * (2 * torch.sigmoid(self.gate(x.mean(dim=2)))).unsqueeze(2)
        return self.out(self.time(x)).transpose(1, 2)

    def forward(self, x):
        return torch.sigmoid(self.logits(x, x.mean(dim=1, keepdim=True)))
