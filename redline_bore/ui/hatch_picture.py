"""Pictures of a wall as the core wants them: decoded by Qt, grey, and read for their crosshatch."""

from __future__ import annotations

from typing import TYPE_CHECKING

from PyQt6.QtCore import QBuffer
from PyQt6.QtGui import QImage, QImageReader

from redline_bore.core.errors import InputError
from redline_bore.core.late import np
from redline_bore.core.texture.crosshatch_photo import Hatch, crosshatch_of
from redline_bore.job.kinds.finish import HatchSeen

if TYPE_CHECKING:
    from numpy.typing import NDArray

MOST_PIXELS, LEAST_PIXELS = 16_000_000, 64


def grey_of(data: bytes) -> NDArray[np.float64]:
    """A picture's grey values, shape (rows, columns), from its bytes. Raises InputError when it is none."""
    held = QBuffer()
    held.setData(data)
    reader = QImageReader(held)
    size = reader.size()  # as the file says, before anything is unpacked
    if not size.isValid() or size.width() * size.height() > MOST_PIXELS:
        raise InputError(f"This picture cannot be opened, or has more than {MOST_PIXELS // 1_000_000} million points")
    reader.setAllocationLimit(4 * MOST_PIXELS // 1_000_000 + 16)
    image = reader.read()
    if (
        image.isNull()
        or image.width() * image.height() > MOST_PIXELS
        or min(image.width(), image.height()) < LEAST_PIXELS
    ):
        raise InputError("This picture cannot be opened, or is far too small")
    grey = image.convertToFormat(QImage.Format.Format_Grayscale8)
    bits = grey.constBits()
    assert bits is not None
    bits.setsize(grey.sizeInBytes())
    rows = np.frombuffer(bits, np.uint8).reshape(grey.height(), grey.bytesPerLine())  # type: ignore[call-overload]  # a voidptr is a buffer
    found: np.ndarray[tuple[int, ...], np.dtype[np.float64]] = rows[:, : grey.width()].astype(float)
    return found


def hatch_of(data: bytes) -> Hatch:
    """The crosshatch in a picture. Raises InputError or FitError with what to do."""
    return crosshatch_of(grey_of(data))


def hatch_entry(data: bytes, cylinder: int) -> HatchSeen:
    """The entry that a picture makes."""
    seen = hatch_of(data)
    return HatchSeen(
        cylinder=cylinder, up_deg=round(seen.up_deg, 2), down_deg=round(seen.down_deg, 2), u_deg=round(seen.u_deg, 2),
        confidence=round(seen.confidence, 3),
    )  # fmt: skip
