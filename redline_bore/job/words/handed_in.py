"""What became of a job that was handed in, in words."""

from __future__ import annotations

from collections.abc import Sequence

from redline_bore.core.show import Show


def handed_in_words(number: str, whole: bool, taken: int, there: int, refused: Sequence[tuple[int, str]]) -> str:
    """A job: what was taken, what was there, what was not taken and why."""
    if whole:
        return f"{number}: the whole job"
    entries = f"{taken} {'entry' if taken == 1 else 'entries'}" if taken else "nothing new"
    was = f", {there} that {'was' if there == 1 else 'were'} there already" if there and taken else ""
    left = "".join(f"; entry {seq} was not taken: {why}" for seq, why in refused)
    return f"{number}: {entries}{was}{left}"


def both_read_words(cylinder: int, depth_mm: float, clock_deg: float, here: tuple[float, str], other: tuple[float, str], show: Show) -> str:  # fmt: skip
    """A place that two people read, and how far apart they are."""
    apart = other[0] - here[0]
    return (
        f"{here[1]} and {other[1]} both read cylinder {cylinder} {show.down(depth_mm)}, at {clock_deg:g}°: {show.size(here[0])} and "
        f"{show.size(other[0])}, {show.away(apart)} apart; both stand"
    )
