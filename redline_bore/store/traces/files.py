"""A trace file by its ending: read with its size bounded, written whole or not at all."""

from __future__ import annotations

from pathlib import Path

from redline_bore.core.errors import InputError
from redline_bore.core.texture.profile import Trace
from redline_bore.store.exports import read_bounded, write_bytes
from redline_bore.store.traces.sdf import sdf_of, trace_of_sdf
from redline_bore.store.traces.text import text_of, trace_of_text
from redline_bore.store.traces.x3p import trace_of_x3p, x3p_of

MOST_BYTES = 12_000_000
ENDINGS = (".csv", ".txt", ".prf", ".x3p", ".sdf")
WRITTEN = (".csv", ".x3p", ".sdf")


def read_trace(path: Path, units: tuple[str, str] | None = None) -> Trace:
    """The trace of a file. ``units``: of its places and heights, for a text file that does not state them.

    Raises EnvironmentTrouble when it cannot be read, InputError with the reason when it is no trace to be used.
    """
    kind = path.suffix.lower()
    if kind not in ENDINGS:
        raise InputError(f"“{path.name}” is no trace that is known by its ending: {', '.join(ENDINGS)}")
    return trace_of_bytes(read_bounded(path, MOST_BYTES), kind, units)


def trace_of_bytes(data: bytes, kind: str, units: tuple[str, str] | None = None) -> Trace:
    """The trace of a file's bytes, ``kind`` its ending. Raises InputError with the reason."""
    if kind == ".x3p":
        return trace_of_x3p(data)
    if kind == ".sdf":
        return trace_of_sdf(data)
    return trace_of_text(data, units)


def write_trace(trace: Trace, path: Path, when: str = "") -> None:
    """Write a trace; ``when``: ISO 8601, for the formats that keep it. Raises InputError or EnvironmentTrouble."""
    kind = path.suffix.lower()
    if kind not in WRITTEN:
        raise InputError(f"“{path.name}” does not say what to write: end it in {', '.join(WRITTEN)}")
    made = {".csv": text_of, ".sdf": sdf_of, ".x3p": x3p_of}[kind](trace, when)
    write_bytes(path, made)
