"""A line that may be typed: its form, an example made from the open job, its help, and how it is read."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from typing import Protocol

from redline_bore.core.frozen import frozen
from redline_bore.core.gauging import Place
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.kinds.entry import Entry
from redline_bore.job.state.job_state import JobState

ANYWHERE = ("book_in", "gauge", "call", "bore", "sleeve", "hone", "finish", "sign_off")


@frozen(often=True)
class Where:
    """Where the gauge stands, and in which units figures without a unit are meant.

    from_zero: the figure came off a gauge, so a sign always means from its zero. body_c: the gauge's own temperature. read: words that
    stand for lengths a gauge sent, mm: they are booked as they were read, not as they are shown.
    """

    cylinder: int
    place: Place
    units: Units
    from_zero: bool = False
    body_c: float | None = None
    read: tuple[tuple[str, float], ...] = ()

    def read_mm(self, word: str) -> float | None:
        """The length, mm, that a gauge sent and that stands as ``word`` in the field; None: it was typed."""
        return dict(self.read).get(word)


@frozen
class Setting:
    """What the setting micrometer is to show for a cylinder, mm; None: not known, and what is missing."""

    mm: float | None
    missing: str


@frozen
class Point:
    """An open point: its key, and what is said of it."""

    key: str
    words: str


class Proposals(Protocol):
    """What the steps propose for figures that nobody typed. The kinds know no step: whoever reads a line hands these in."""

    def cut(self, state: JobState, radius_mm: float, rake: str, grade: str) -> tuple[float, float]:
        """Feed in mm a turn and turns a minute for an insert."""

    def machine_speed(self, state: JobState, rpm: float) -> float:
        """A speed as the machine can turn it."""

    def setting(self, state: JobState, cylinder: int, at: str) -> Setting:
        """The bar's setting for a cylinder at a time (ISO 8601)."""

    def hone(self, state: JobState, machine: str, rpm: float | None, strokes: float | None) -> Entry:
        """How a hone goes where only some of it was said."""

    def seconds_a_stroke(self, state: JobState, cylinder: int) -> float | None:
        """Seconds of a double stroke where a cylinder's step is counted in seconds; None: it is counted in strokes."""

    def sleeve_bore_mm(self, state: JobState, cylinder: int) -> float | None:
        """Bore of the sleeve meant for a cylinder; None: none was measured."""

    def open_points(self, state: JobState) -> tuple[Point, ...]:
        """What keeps the job from being signed off, numbered from 1 as it stands on the card."""


@frozen
class At:
    """The job and the place at which something is typed; ``at``: when, as the ledger writes it, empty: not needed."""

    state: JobState
    where: Where
    proposals: Proposals
    at: str = ""

    @property
    def show(self) -> Show:
        """Writes lengths in the units figures are typed in."""
        return Show(self.where.units)


def _none_to_pick(_at: At) -> Mapping[str, tuple[str, ...]]:
    return {}


@frozen
class Phrase:
    """One line that may be typed.

    steps: where. leads: the words one of which it begins with; empty: it begins with a figure, and is read when nothing else fits.
    form: how it goes (see ``forms``): BLANKS in capitals, [what may be left out], {one | of}. picks: words there are for a blank, by its name. read: the text as typed to entries; raises InputError.
    """

    steps: tuple[str, ...]
    leads: tuple[str, ...]
    form: str
    help: str
    example: Callable[[At], str]
    read: Callable[[str, At], tuple[Entry, ...]]
    picks: Callable[[At], Mapping[str, tuple[str, ...]]] = _none_to_pick
