"""The true texture of a made-up wall: a random ground, grooves, long waves; then plateau strokes off its top."""

from __future__ import annotations

import json
from dataclasses import asdict, dataclass

import numpy as np
from numpy.typing import NDArray

Array = NDArray[np.float64]
STEP_UM, POINTS = 0.5, 11201
GROUND_UM, WAVE_UM, FINE_UM = 6.0, 700.0, 1.5  # wavelengths, as sigma


@dataclass(frozen=True)
class TrueTexture:
    """A wall as its coarse stones left it: rms of the ground, depth and spacing of grooves, um; plateau strokes since, and
    what each takes off the top a side, um; rms that the plateau tool leaves."""

    ground_um: float
    groove_um: float
    groove_every_um: float
    strokes: float = 0.0
    takes_um: float = 0.015
    fine_um: float = 0.12

    @classmethod
    def from_json(cls, text: str) -> TrueTexture:
        return cls(**json.loads(text))

    def to_json(self) -> str:
        return json.dumps(asdict(self))

    def trace(self, seed: int) -> Array:
        """Heights in um at every half um over 5.6 mm, to the nanometre; another seed is another place."""
        chance = np.random.default_rng(seed)
        z = self.ground_um * _noise(chance, GROUND_UM) + self._grooves(chance)
        if self.strokes > 0.0:
            z = np.where((level := self._level(z)) < z, level + self.fine_um * _noise(chance, FINE_UM), z)
        z += 0.4 * _noise(chance, WAVE_UM) + np.linspace(0.0, chance.uniform(-3.0, 3.0), POINTS)
        return np.round(z, 3)

    def _grooves(self, chance: np.random.Generator) -> Array:
        x, z = np.arange(POINTS) * STEP_UM, np.zeros(POINTS)
        for at in np.cumsum(chance.exponential(self.groove_every_um, int(3 * POINTS * STEP_UM / self.groove_every_um))):
            wide = chance.uniform(4.0, 14.0)
            deep = self.groove_um * chance.gamma(4.0, 0.25)
            near = slice(max(0, int((at - 3 * wide) / STEP_UM)), int((at + 3 * wide) / STEP_UM))
            z[near] = np.minimum(z[near], -deep * np.exp(-(((x[near] - at) / (0.5 * wide)) ** 2)))
        return z

    def _level(self, z: Array) -> float:
        """The height at which the strokes have taken their metal off the top."""
        high = np.sort(z)[::-1]
        count = np.arange(1, POINTS + 1)
        taken = (np.cumsum(high) - count * high) / POINTS
        k = max(int(np.searchsorted(taken, self.strokes * self.takes_um)), 1)
        return float((high[:k].sum() - self.strokes * self.takes_um * POINTS) / k)


def _noise(chance: np.random.Generator, sigma_um: float) -> Array:
    """Gaussian noise smoothed over ``sigma_um``, band-limited at 2.5 um, of rms 1."""
    f = np.fft.rfftfreq(2 * POINTS, STEP_UM)
    smooth = np.exp(-2.0 * (np.pi * f * sigma_um) ** 2 - np.log(2.0) * (2.5 * f) ** 2)
    z = np.fft.irfft(np.fft.rfft(chance.standard_normal(2 * POINTS)) * smooth, 2 * POINTS)[:POINTS]
    found: Array = (z - z.mean()) / z.std()
    return found
