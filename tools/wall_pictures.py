"""Draws the pictures of honed walls that the sample jobs keep (redline_bore/demo/pictures); made up, from a seed."""

from __future__ import annotations

import sys
from pathlib import Path

import numpy as np
from PyQt6.QtGui import QImage

ROOT = Path(__file__).resolve().parent.parent
SCRATCHES, BLUR = 420, 0.8
LARGE, SMALL = (480, 360), (320, 240)
WALLS = {  # both families from the horizontal, seed, size
    "2036-1.png": (17.4, 16.2, 11, LARGE),
    "2036-2.png": (16.9, 17.3, 12, LARGE),
    "2029-1.png": (17.6, 17.0, 21, SMALL),
    "2029-2.png": (17.2, 17.9, 22, SMALL),
    "2029-3.png": (18.0, 17.1, 23, SMALL),
    "2029-4.png": (16.8, 17.5, 24, SMALL),
}


def wall(up_deg: float, down_deg: float, seed: int, size: tuple[int, int]) -> np.ndarray:
    """Grey values 0 to 255, shape (high, wide), ``size`` wide by high: two families of scratches, a lamp from one side, grain."""
    from scipy.ndimage import gaussian_filter

    chance = np.random.default_rng(seed)
    wide, high = size
    y, x = np.mgrid[0:high, 0:wide].astype(float)
    depth = np.zeros((high, wide))
    for i in range(SCRATCHES):
        angle = np.deg2rad(chance.normal(up_deg if i % 2 else -down_deg, 0.9))
        across = (x - wide / 2) * np.sin(angle) + (y - high / 2) * np.cos(angle) - chance.uniform(-0.75, 0.75) * wide
        thick = chance.uniform(0.5, 1.9)
        depth += chance.uniform(0.2, 1.0) * np.exp(-((across / thick) ** 2) / 2)
    lit = 150.0 + 30.0 * np.sin(np.pi * x / wide) - 26.0 * gaussian_filter(depth, BLUR)
    return np.clip(lit + chance.normal(0.0, 4.0, lit.shape), 0, 255).astype(np.uint8)


def main() -> None:
    folder = ROOT / "redline_bore" / "demo" / "pictures"
    for name, (up, down, seed, size) in WALLS.items():
        grey = np.ascontiguousarray(
            wall(up, down, seed, size) // 4 * 4
        )  # fewer greys pack far better, and look the same
        image = QImage(grey.data, *size, size[0], QImage.Format.Format_Grayscale8)
        image.save(str(folder / name))
        print(folder / name)


if __name__ == "__main__":
    sys.exit(main())
