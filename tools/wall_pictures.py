"""Draws the pictures of honed walls that the sample jobs keep (redline_bore/demo/pictures); made up, from a seed."""

from __future__ import annotations

import sys
from pathlib import Path

import numpy as np
from PyQt6.QtGui import QImage

ROOT = Path(__file__).resolve().parent.parent
WIDE, HIGH, SCRATCHES, BLUR = 480, 360, 420, 0.8
WALLS = {"wall-1.png": (17.4, 16.2, 11), "wall-2.png": (16.9, 17.3, 12)}  # both families from the horizontal, seed


def wall(up_deg: float, down_deg: float, seed: int) -> np.ndarray:
    """Grey values 0 to 255, shape (HIGH, WIDE): two families of scratches, a lamp from one side, grain."""
    from scipy.ndimage import gaussian_filter

    chance = np.random.default_rng(seed)
    y, x = np.mgrid[0:HIGH, 0:WIDE].astype(float)
    depth = np.zeros((HIGH, WIDE))
    for i in range(SCRATCHES):
        angle = np.deg2rad(chance.normal(up_deg if i % 2 else -down_deg, 0.9))
        across = (x - WIDE / 2) * np.sin(angle) + (y - HIGH / 2) * np.cos(angle) - chance.uniform(-0.75, 0.75) * WIDE
        wide = chance.uniform(0.5, 1.9)
        depth += chance.uniform(0.2, 1.0) * np.exp(-((across / wide) ** 2) / 2)
    lit = 150.0 + 30.0 * np.sin(np.pi * x / WIDE) - 26.0 * gaussian_filter(depth, BLUR)
    return np.clip(lit + chance.normal(0.0, 4.0, lit.shape), 0, 255).astype(np.uint8)


def main() -> None:
    folder = ROOT / "redline_bore" / "demo" / "pictures"
    for name, (up, down, seed) in WALLS.items():
        grey = np.ascontiguousarray(wall(up, down, seed) // 4 * 4)  # fewer greys pack far better, and look the same
        image = QImage(grey.data, WIDE, HIGH, WIDE, QImage.Format.Format_Grayscale8)
        image.save(str(folder / name))
        print(folder / name)


if __name__ == "__main__":
    sys.exit(main())
