"""Photos from files: PNG or JPEG, known by their first bytes, not by their name."""

from __future__ import annotations

import hashlib
from pathlib import Path

from redline_bore.core.errors import InputError
from redline_bore.core.frozen import frozen
from redline_bore.store.exports import read_bounded

MOST_BYTES = 20_000_000
_FIRST_BYTES = {b"\x89PNG\r\n\x1a\n": "image/png", b"\xff\xd8\xff": "image/jpeg"}


@frozen(often=True)
class PhotoBytes:
    """A picture as it is kept."""

    sha256: str
    media: str
    data: bytes


def photo_of(data: bytes, name: str) -> PhotoBytes:
    """A picture from its bytes. Raises InputError when it is neither PNG nor JPEG, or too large."""
    media = next((m for start, m in _FIRST_BYTES.items() if data.startswith(start)), None)
    if media is None:
        raise InputError(f"{name} is neither a PNG nor a JPEG picture")
    if len(data) > MOST_BYTES:
        raise InputError(f"{name} is larger than {MOST_BYTES // 1_000_000} MB; make it smaller first")
    return PhotoBytes(hashlib.sha256(data).hexdigest(), media, data)


def photo_from_file(path: Path) -> PhotoBytes:
    """A picture from a file. Raises EnvironmentTrouble or InputError."""
    return photo_of(read_bounded(path, MOST_BYTES), path.name)
