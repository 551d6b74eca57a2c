"""What an entry would change on the card, before it is booked. It knows no toolkit."""

from __future__ import annotations

from redline_bore.core.frozen import frozen
from redline_bore.job.card import Advice, Mark

MOST_LINES = 6


@frozen
class Line:
    """A figure of the card: what it is now and what it would be; empty where it is not there."""

    label: str
    was: str
    now: str
    mark: Mark


@frozen
class WouldChange:
    """sentence: the call as it would be, empty where it stays. lines: the figures that would be others. more: how many beyond those."""

    sentence: str
    mark: Mark
    lines: tuple[Line, ...]
    more: int = 0

    @property
    def nothing(self) -> bool:
        """Whether the card would stay as it is."""
        return not self.sentence and not self.lines


def would_change(before: Advice, after: Advice, most: int = MOST_LINES) -> WouldChange:
    """The card before and after, side by side: the figures whose value or mark differs, in the order of the card."""
    was = {f.label: f for f in before.figures}
    now = {f.label: f for f in after.figures}
    lines = [
        Line(label, was[label].value if label in was else "", now[label].value if label in now else "", now[label].mark if label in now else Mark.PLAIN)
        for label in dict.fromkeys((*now, *was))
        if label not in was or label not in now or (was[label].value, was[label].mark) != (now[label].value, now[label].mark)
    ]  # fmt: skip
    other = (before.sentence, before.mark) != (after.sentence, after.mark)
    return WouldChange(after.spoken if other else "", after.mark, tuple(lines[:most]), max(len(lines) - most, 0))
