"""Writing a file whole or not at all."""

from __future__ import annotations

import os
from pathlib import Path

from redline_bore.core.errors import EnvironmentTrouble


def write_text(path: Path, text: str) -> None:
    """Write ``text`` as UTF-8: to a file beside it first, then in its place. Raises EnvironmentTrouble."""
    write_bytes(path, text.encode("utf-8"))


def write_bytes(path: Path, data: bytes) -> None:
    """Write ``data``: to a file beside it first, then in its place. Raises EnvironmentTrouble."""
    beside = path.with_name(path.name + ".part")
    try:
        with open(beside, "wb") as out:
            out.write(data)
            out.flush()
            os.fsync(out.fileno())
        os.replace(beside, path)
    except OSError as error:
        raise EnvironmentTrouble(f"{path} cannot be written: {error.strerror or error}") from error


def read_text(path: Path) -> str:
    """A text file, UTF-8. Raises EnvironmentTrouble when it cannot be read, or is not text."""
    try:
        return path.read_text("utf-8-sig")
    except OSError as error:
        raise EnvironmentTrouble(f"{path} cannot be read: {error.strerror or error}") from error
    except UnicodeDecodeError as error:
        raise EnvironmentTrouble(f"{path} is not a text file in UTF-8") from error
