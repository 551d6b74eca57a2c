"""What is known from the book-in on: the block, what it will do, the practices, what its family taught. Lengths in mm."""

from __future__ import annotations

from redline_bore.core.block import BlockSpec
from redline_bore.core.frozen import frozen
from redline_bore.core.told import Unit, told
from redline_bore.job.profiles.duty import DUTY_NAMES
from redline_bore.job.profiles.purpose import PURPOSES
from redline_bore.job.state.fields import words

CARD = "book_in/card"
OWNER_NOT_SAID, ENGINE_NOT_SAID = "owner not said", "engine not said"
PROPOSED = ("length_mm",)  # what of the block may be a starting point that is asked before it matters


@frozen(kw_only=True)
class BookIn:
    """What is known when a job comes in. ``oversizes_mm``: steps over nominal that pistons exist for."""

    owner: str = words("owner", CARD)
    engine: str = words("engine family", CARD)
    block: BlockSpec = told("block", Unit.PARTS, shown=CARD)
    purpose: str = told("purpose", Unit.CHOICE, choices=PURPOSES, shown=CARD, default="bore oversize")
    duty: str = told("duty", Unit.CHOICE, choices=DUTY_NAMES, shown=CARD, default="everyday")
    piston_alloy: str = words("piston alloy", CARD, default="piston_cast")
    oversizes_mm: tuple[float, ...] = told("piston oversizes", Unit.LENGTH, shown=CARD, default=())
    proposed: tuple[str, ...] = told("starting points", Unit.CHOICE, choices=PROPOSED, shown=CARD, default=())

    @property
    def owner_said(self) -> str:
        """Whose block it is, in words."""
        return self.owner or OWNER_NOT_SAID

    @property
    def engine_said(self) -> str:
        """Of which engine family it is, in words."""
        return self.engine or ENGINE_NOT_SAID

    @property
    def length_wanted(self) -> bool:
        """Nobody measured how long a cylinder is: what stands for it is for drawing only, and nothing is read down it."""
        return "length_mm" in self.proposed


@frozen
class Lesson:
    """One thing that signed jobs of a family taught: what, its mean and spread (sd; None: of one only), over how many, and the
    jobs. ``about``: the machine, stone or figure it holds for."""

    what: str
    about: str
    mean: float
    sd: float | None
    count: int
    jobs: tuple[str, ...]


@frozen
class Booking:
    """The slice of the book-in. ``practices``: pairs of topic and name."""

    book_in: BookIn
    practices: tuple[tuple[str, str], ...] = ()
    lessons: tuple[Lesson, ...] = ()
    promised: str = ""  # the day, as 2026-12-12; empty: none was
    waits_for: str = ""  # what it waits for; empty: nothing that the bench cannot do
    remarks: tuple[str, ...] = ()  # left for whoever takes the job up next

    def practice(self, topic: str) -> str:
        """The name of the practice followed in a topic."""
        return dict(self.practices)[topic]
