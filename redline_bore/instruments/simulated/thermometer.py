"""A thermometer on the block."""

from __future__ import annotations

import random
from dataclasses import dataclass


@dataclass
class ThermometerStandIn:
    """Reads the block's temperature to a tenth of a degree, with a little noise."""

    block_c: float
    noise: random.Random
    sd_c: float = 0.1

    def answer(self, line: str) -> list[str]:
        words = line.split()
        if words == ["hello"]:
            return ["hello thermometer C"]
        return [self.press()] if words == ["read"] else []

    def press(self) -> str:
        """What it sends by itself."""
        return f"temperature block {self.block_c + self.noise.gauss(0.0, self.sd_c):.1f} C"
