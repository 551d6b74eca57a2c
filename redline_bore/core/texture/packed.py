"""A trace's heights as a short text, for the ledger.

Tenths of a nanometre, each less the one before, little-endian 32 bit, zlib, base64. Nothing is lost that a
profilometer knows.
"""

from __future__ import annotations

from typing import TYPE_CHECKING

from redline_bore.core.errors import InputError
from redline_bore.core.late import np
from redline_bore.core.texture.profile import MOST_AWAY_UM, MOST_POINTS

if TYPE_CHECKING:
    from numpy.typing import ArrayLike, NDArray

UNIT_UM = 1e-4


def packed(heights_um: ArrayLike) -> str:
    """Heights in um, shape (n,), as text. Raises InputError where one is missing or more than 0.1 m from nought."""
    import base64  # here, as below: the first picture needs none
    import zlib

    z = np.asarray(heights_um, dtype=float)
    if z.ndim != 1 or not np.all(np.isfinite(z)) or (len(z) and float(np.abs(z).max()) > MOST_AWAY_UM):
        raise InputError("These heights are no trace")
    whole = np.rint(z / UNIT_UM).astype("<i4")
    steps = np.diff(whole, prepend=whole.dtype.type(0)).astype("<i4")
    return base64.b64encode(zlib.compress(steps.tobytes(), 9)).decode("ascii")


def unpacked(text: str) -> NDArray[np.float64]:
    """Heights in um from their text. Raises InputError when it is damaged, or would unpack to more than a trace."""
    import base64
    import binascii
    import zlib

    try:
        raw = base64.b64decode(text, validate=True)
        opener = zlib.decompressobj()
        data = opener.decompress(raw, 4 * MOST_POINTS + 1)
    except (binascii.Error, zlib.error, ValueError) as error:
        raise InputError(f"The heights of this trace are damaged: {error}") from error
    if len(data) > 4 * MOST_POINTS or len(data) % 4 or not opener.eof:
        raise InputError("The heights of this trace are damaged, or far too many")
    steps = np.frombuffer(data, "<i4").astype(np.int64)
    found: NDArray[np.float64] = (np.cumsum(steps) * UNIT_UM).astype(np.float64)
    return found
