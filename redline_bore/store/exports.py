"""The one door for files that leave and the one for text that comes in: whole or not at all, bounded, under a name that is a name."""

from __future__ import annotations

import contextlib
import os
import re
import stat
import time
from pathlib import Path

from redline_bore.core.errors import EnvironmentTrouble, InputError

MOST_TEXT = 40_000_000
LEFT_S = 60.0  # nothing is written for so long
FORMULA = ("=", "+", "-", "@", "\t", "\r")


def write_text(path: Path, text: str) -> None:
    """Write ``text`` as UTF-8, as ``write_bytes`` does. Raises EnvironmentTrouble."""
    write_bytes(path, text.encode("utf-8"))


def write_bytes(path: Path, data: bytes) -> None:
    """Write ``data`` to a file beside it, onto the disk, checked, and only then in its place; where a link points, there; with the rights
    that were there. What was there stays when anything fails, and nothing is left lying about. Raises EnvironmentTrouble."""
    target = Path(os.path.realpath(path))
    beside = None
    try:
        mode = stat.S_IMODE(target.stat().st_mode) if target.exists() else 0o666 & ~_umask()
        if target.exists() and not target.is_file():
            raise EnvironmentTrouble(f"{path} is no file that can be written")
        _cleared(target)
        import tempfile  # here: the first picture needs none

        handle, name = tempfile.mkstemp(prefix=f".{target.name[:80]}.", suffix=".part", dir=target.parent)
        beside = Path(name)
        with os.fdopen(handle, "wb") as out:
            out.write(data)
            out.flush()
            os.fsync(out.fileno())
            os.fchmod(out.fileno(), mode)
        if beside.stat().st_size != len(data):
            raise EnvironmentTrouble(f"{path} cannot be written: the disk did not take all of it")
        os.replace(beside, target)
        _flush_folder(target.parent)
    except OSError as error:
        raise EnvironmentTrouble(f"{path} cannot be written: {error.strerror or error}") from error
    finally:
        if beside is not None:
            with contextlib.suppress(OSError):
                beside.unlink(missing_ok=True)


def _cleared(target: Path) -> None:
    """Take away what a program that was killed while it wrote this file left beside it."""
    from glob import escape

    for left in target.parent.glob(f".{escape(target.name[:80])}.*.part"):
        with contextlib.suppress(OSError):
            if time.time() - left.stat().st_mtime > LEFT_S:
                left.unlink()


def _umask() -> int:
    now = os.umask(0o077)
    os.umask(now)
    return now


def _flush_folder(folder: Path) -> None:
    handle = os.open(folder, os.O_RDONLY)
    try:
        os.fsync(handle)
    finally:
        os.close(handle)


def read_bounded(path: Path, most: int = MOST_TEXT) -> bytes:
    """A file of at most ``most`` bytes, looked at before it is read. Raises EnvironmentTrouble, or InputError where it is too large or
    no file at all (a pipe or a device never ends)."""
    try:
        found = os.stat(path)
        if not stat.S_ISREG(found.st_mode):
            raise InputError(f"{path.name} is no plain file")
        if found.st_size > most:
            raise InputError(f"{path.name} is larger than {most // 1_000_000} MB; nothing that is taken in here is")
        with open(path, "rb") as file:
            data = file.read(most + 1)
    except OSError as error:
        raise EnvironmentTrouble(f"{path} cannot be read: {error.strerror or error}") from error
    except ValueError as error:  # a name with a nought in it
        raise EnvironmentTrouble(f"That file cannot be read: {error}") from error
    if len(data) > most:
        raise InputError(f"{path.name} is larger than {most // 1_000_000} MB; nothing that is taken in here is")
    return data


def read_text(path: Path, most: int = MOST_TEXT) -> str:
    """A text file in UTF-8, or UTF-16 with its mark. Raises EnvironmentTrouble when it cannot be read, or is not text."""
    data = read_bounded(path, most)
    try:
        return data.decode("utf-16" if data[:2] in (b"\xff\xfe", b"\xfe\xff") else "utf-8-sig")
    except UnicodeDecodeError as error:
        raise EnvironmentTrouble(f"{path} is not a text file in UTF-8") from error


def file_stem(words: str) -> str:
    """Words as the beginning of a file's name: no way out of the folder it is written to, whatever stands in them.

    >>> file_stem("../../climbed"), file_stem("2041"), file_stem("/etc/x y")
    ('climbed', '2041', 'etc_x y')
    """
    plain = re.sub(r"[^\w .,()+-]", "_", words)
    return re.sub(r"_+", "_", plain).strip(" ._-")[:80] or "job"


def cell(text: str) -> str:
    """A word as it may stand in a table that a spreadsheet opens: what would be a formula is text; figures stay figures."""
    if not text.startswith(FORMULA):
        return text
    try:
        float(text.replace(",", "."))
    except ValueError:
        return f"'{text}"
    return text


def uncelled(text: str) -> str:
    """The same word read back."""
    return text[1:] if text.startswith("'") and text[1:].startswith(FORMULA) else text


def typed_path(text: str) -> Path:
    """A path as it is typed, ~ and all. Raises InputError where it is none."""
    try:
        return Path(text).expanduser()
    except (RuntimeError, ValueError) as error:  # nobody of that name has a home here
        raise InputError(f"“{text[:60]}” is no place here: {error}") from error
