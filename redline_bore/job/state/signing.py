"""What a job knows of its sign-off: final gauging, ring gaps, care, accepted points, stamps. Sizes in mm at 20 C."""

from __future__ import annotations

from redline_bore.core.frozen import frozen
from redline_bore.core.told import Of, Unit, told
from redline_bore.job.state.fields import cylinder
from redline_bore.job.state.rows import Rows
from redline_bore.job.state.two_angles import TwoAngles

SHEET = "sign_off/sheet"
MOST_GAP_SHARE = 0.02  # of the bore: a ring's end gap beyond that is a wrong unit
GAP_WHY = "no ring gap; look at the unit"


@frozen
class Final(TwoAngles):
    """The finished hole, sizes at 20 C, mm, top to bottom, and at a second angle."""

    seq: int
    cylinder: int
    sizes_mm: tuple[float, ...]
    across_mm: tuple[float, ...]
    plate_on: bool
    block_c: float | None
    person: str
    at: str

    @property
    def taper_mm(self) -> float | None:
        """Top minus bottom; None with one size only."""
        return self.sizes_mm[0] - self.sizes_mm[-1] if len(self.sizes_mm) > 1 else None


@frozen(kw_only=True)
class RingGaps:
    """End gaps of the rings that go into a cylinder, as filed and measured in its finished bore."""

    cylinder: int = cylinder(SHEET)
    top_mm: float = told(
        "top ring gap", Unit.LENGTH, above=0.0, most=MOST_GAP_SHARE, of=Of.BORE, why=GAP_WHY, shown=SHEET
    )
    second_mm: float | None = told(
        "second ring gap",
        Unit.LENGTH,
        above=0.0,
        most=MOST_GAP_SHARE,
        of=Of.BORE,
        why=GAP_WHY,
        shown=SHEET,
        default=None,
    )


@frozen
class TakenCare:
    """Washed or oiled, by whom and when."""

    what: str
    person: str
    at: str


@frozen
class Accepted:
    """An open point that somebody took upon themselves. about: its key; empty in ledgers of before 0.7, which kept what was said."""

    point: str
    reason: str
    person: str
    at: str
    about: str = ""


@frozen
class Stamp:
    """A step stamped by whoever did it."""

    step: str
    initials: str
    at: str
    seq: int = 0


@frozen
class Signing:
    """The slice of the sign-off and of the stamps of every step."""

    finals: Rows[Final] = Rows()
    rings: tuple[RingGaps, ...] = ()
    cares: tuple[TakenCare, ...] = ()
    accepted: tuple[Accepted, ...] = ()
    reopened: int = 0  # entry that opened a signed job again
    stamps: tuple[Stamp, ...] = ()

    @property
    def closed(self) -> bool:
        """Signed off, and not opened again since."""
        signed = self.stamp("sign_off")
        return signed is not None and signed.seq > self.reopened

    def stamp(self, step: str) -> Stamp | None:
        """The newest stamp of a step."""
        return next((s for s in reversed(self.stamps) if s.step == step), None)

    def rings_of(self, cylinder: int) -> RingGaps | None:
        """The ring gaps of a cylinder."""
        return next((r for r in self.rings if r.cylinder == cylinder), None)
