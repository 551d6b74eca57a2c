"""What may be typed at the finish and at the sign-off, turned into entries.

Finish: ``window Rvk 1.2 2.0`` (um; the ring maker's own), ``window Rvk 1.2 2.0 by moly ring``.
Sign off: ``final 83.066 83.067 across 83.066 83.067``, ``rings 0.40 0.45``, ``washed``, ``oiled``, ``accept 2 the owner knows``,
``accept all why``, ``reopen why``.
"""

from __future__ import annotations

import re
from typing import get_args

from redline_bore.core.errors import InputError
from redline_bore.core.lengths import parse_length
from redline_bore.job.ledger import entries as e
from redline_bore.job.ledger.finish_entries import Parameter
from redline_bore.job.ledger.state import JobState
from redline_bore.job.sign_off.sheet import CARES, sheet_of
from redline_bore.job.typed.measures import plain
from redline_bore.job.typed.where import Where

_WINDOW = re.compile(
    r"window\s+(?P<name>\w+)\s+(?P<low>[\d.,]+)\s+(?:to\s+)?(?P<high>[\d.,]+)\s*(?P<unit>[µμu](?:m|in))?(?:\s+by\s+(?P<by>.+))?",
    re.IGNORECASE,
)
PARAMETERS = get_args(Parameter)
MOST_GAP_SHARE = 0.02  # of the bore: a ring's end gap beyond that is a wrong unit


def entry_at_finish(text: str, state: JobState, where: Where) -> e.Entry:
    """The entry that words at the finish mean. Raises InputError with the reason and what was meant."""
    found = _WINDOW.fullmatch(text.strip())
    if found is None:
        raise InputError(
            "Typed here are: trace file.csv at top, window Rvk 1.2 2.0 (the ring maker's, in µm), picture file.png, 22.9 C"
        )
    name = next((p for p in PARAMETERS if p.lower() == found["name"].lower()), None)
    if name is None:
        raise InputError(f"“{found['name']}” has no window; {', '.join(PARAMETERS)} have")
    scale = 0.0254 if (found["unit"] or "").lower().endswith("in") else 1.0
    low, high = (scale * _number(found[end]) for end in ("low", "high"))
    if not 0.0 <= low < high <= 50.0:
        raise InputError(f"A window from {found['low']} to {found['high']} µm does not make sense: low end first")
    return e.FinishWindowStated(
        parameter=name, low_um=low, high_um=high, source=(found["by"] or "ring maker's sheet").strip()
    )


def _number(text: str) -> float:
    try:
        return float(text.replace(",", "."))
    except ValueError:
        raise InputError(f"“{text}” is no figure in µm") from None


def entries_at_sign_off(text: str, state: JobState, where: Where) -> tuple[e.Entry, ...]:
    """The entries that words at the sign-off mean. Raises InputError with the reason and what was meant."""
    words = text.split()
    first = words[0].lower() if words else ""
    if first == "final":
        return (_final(words[1:], state, where),)
    if first == "rings":
        return (_rings(words[1:], state, where),)
    if first in CARES and len(words) == 1:
        return (e.CareTaken(what=first),)  # type: ignore[arg-type]
    if first == "accept":
        return _accepted(words[1:], state)
    if first == "reopen":
        if not state.closed:
            raise InputError("This job is open")
        if len(words) < 2:
            raise InputError("Say why: reopen ring gap of 2 to be filed again")
        return (e.JobReopened(reason=" ".join(words[1:])),)
    raise InputError(
        "Typed here are: final and sizes from the top down, rings 0.40mm 0.45mm, washed, oiled, accept 1 and why, reopen and why"
    )


def _final(words: list[str], state: JobState, where: Where) -> e.FinalGauged:
    text = " ".join(words)
    down, _, across = text.lower().partition("across")
    sizes, second = (
        tuple(parse_length(w, where.units, state.block.bore_mm, "reading").mm for w in row.split())
        for row in (down, across)
    )
    if not sizes:
        raise InputError(
            "The finished hole is typed from the top down: final 83.066 83.067 83.066 across 83.066 83.067"
        )
    if second and len(second) != len(sizes):
        raise InputError(f"{len(sizes)} sizes down, {len(second)} across: as many both ways, at the same depths")
    return e.FinalGauged(cylinder=where.cylinder, sizes_mm=sizes, across_mm=second, plate_on=state.plate_on)


def _rings(words: list[str], state: JobState, where: Where) -> e.RingsGapped:
    if len(words) not in (1, 2):
        raise InputError("Ring gaps are typed as: rings 0.40mm 0.45mm, top then second")
    gaps = [plain(w, where) for w in words]
    if max(gaps) > MOST_GAP_SHARE * state.block.bore_mm:
        raise InputError(f"A ring gap of {words[gaps.index(max(gaps))]} is far too wide; look at the unit")
    return e.RingsGapped(cylinder=where.cylinder, top_mm=gaps[0], second_mm=gaps[1] if len(gaps) > 1 else None)


def _accepted(words: list[str], state: JobState) -> tuple[e.Entry, ...]:
    points = sheet_of(state).open_points
    if not points:
        raise InputError("No point is open")
    if not words or not (words[0].lower() == "all" or words[0].isdigit()):
        raise InputError(f"Say which of the {len(points)} open points, and why: accept 1 the owner has no plate")
    reason = " ".join(words[1:])
    if not reason:
        raise InputError("An open point is accepted with its reason: accept 1 the owner has no plate")
    if words[0].lower() == "all":
        return tuple(e.PointAccepted(point=p, reason=reason) for p in points)
    number = int(words[0])
    if not 1 <= number <= len(points):
        raise InputError(f"There is no open point {number}; there are {len(points)}")
    return (e.PointAccepted(point=points[number - 1], reason=reason),)
