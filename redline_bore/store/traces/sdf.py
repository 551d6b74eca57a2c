"""Traces as SDF text (ISO 25178-71): one profile, lengths in metres."""

from __future__ import annotations

import re

import numpy as np

from redline_bore.core.errors import InputError
from redline_bore.core.texture.profile import MOST_POINTS, Trace, even_trace

MOST_HEADER_LINES = 100


def trace_of_sdf(data: bytes) -> Trace:
    """The trace of an SDF text file. Raises InputError with the reason: binary, several profiles, sizes that cannot be,
    points missing."""
    if data[:4] == b"bISO":
        raise InputError("This SDF file is binary; save it as text (aISO)")
    if data[:4] != b"aISO":
        raise InputError("This is no SDF file: it does not begin with aISO")
    head, star, body = data.decode("latin-1").partition("\n*")
    if not star or head.count("\n") > MOST_HEADER_LINES:
        raise InputError("The header of this SDF file has no end")
    named = {m[1].lower(): m[2] for m in re.finditer(r"^[ \t]*(\w+)[ \t]*=[ \t]*(.*?)[ \t\r]*$", head, re.MULTILINE)}
    points, profiles = _whole(named, "numpoints"), _whole(named, "numprofiles")
    if profiles != 1:
        raise InputError(f"This SDF file holds {profiles} profiles; one trace is wanted")
    if not 3 <= points <= MOST_POINTS:
        raise InputError(f"{points} points cannot be a trace; 3 to {MOST_POINTS} can")
    if named.get("compression", "0") not in ("0", ""):
        raise InputError("This SDF file is compressed; save it without")
    step, scale = _scale(named, "xscale"), _scale(named, "zscale")
    words = body.split("*", 1)[0].split()
    if len(words) != points:
        raise InputError(f"The header says {points} points, {len(words)} are there; the file is damaged")
    try:
        heights = np.array([np.nan if w.upper() == "BAD" else float(w) for w in words])
    except ValueError as error:
        raise InputError(f"A point is no figure: {error}") from error
    return even_trace(step * 1e6, heights * scale * 1e6)


def _whole(named: dict[str, str], name: str) -> int:
    try:
        return int(named[name])
    except (KeyError, ValueError):
        raise InputError(f"The SDF header does not say {name} as a whole number") from None


def _scale(named: dict[str, str], name: str) -> float:
    try:
        value = float(named[name])
    except (KeyError, ValueError):
        raise InputError(f"The SDF header does not say {name}") from None
    if not 0.0 < value < 1.0:
        raise InputError(f"{name} = {named[name]} cannot be; metres are wanted")
    return value


def sdf_of(trace: Trace, when: str = "") -> bytes:
    """A trace as SDF text; heights in um by their scale."""
    stamp = "".join(c for c in when if c.isdigit())[:12]  # YYYYMMDDhhmm
    date = f"{stamp[6:8]}{stamp[4:6]}{stamp[:4]}{stamp[8:12]}" if len(stamp) == 12 else "010119700000"
    head = [
        "aISO-1.0", "ManufacID   = NONE", f"CreateDate  = {date}", f"ModDate     = {date}", f"NumPoints   = {len(trace.heights_um)}",
        "NumProfiles = 1", f"Xscale      = {trace.step_um * 1e-6:.6E}", f"Yscale      = {trace.step_um * 1e-6:.6E}",
        "Zscale      = 1.000000E-06", "Zresolution = -1", "Compression = 0", "DataType    = 7", "CheckType   = 0", "*",
    ]  # fmt: skip
    return ("\n".join((*head, *(f"{z:.4f}" for z in trace.heights_um), "*", "*")) + "\n").encode()
