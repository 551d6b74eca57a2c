"""What a job is for, and what that puts on its route."""

from __future__ import annotations

from typing import Literal

from redline_bore.core.frozen import frozen
from redline_bore.job.profiles.data import table

Light = Literal["", "deglaze", "rering"]


@frozen
class Purpose:
    """bores: the bar is on the route until a call says otherwise. sleeves: so is the press. light: the call that it asks for
    where nothing is cut. hones_out: what is cut is cut by the hone alone."""

    name: str
    bores: bool = True
    sleeves: bool = False
    light: Light = ""
    hones_out: bool = False


KNOWN = {name: Purpose(name, **row) for name, row in table("purpose").items()}
PURPOSES = tuple(KNOWN)
USUAL = "bore oversize"


def purpose(name: str) -> Purpose:
    """A purpose by its name; the usual one for one that a newer program wrote."""
    return KNOWN.get(name, KNOWN[USUAL])
