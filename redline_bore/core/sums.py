"""SHA-256, from the small module where there is one: the front of the standard library loads a whole OpenSSL, as its own ``random`` knows.

What is summed up here is an entry, or a name with a few figures, never a file.
"""

from __future__ import annotations

try:
    from _sha256 import sha256  # type: ignore[import-not-found]
except ImportError:  # another build of Python
    from hashlib import sha256


def hex_sum(data: bytes) -> str:
    """The SHA-256 of some bytes, hexadecimal."""
    return sha256(data).hexdigest()  # type: ignore[no-any-return]
