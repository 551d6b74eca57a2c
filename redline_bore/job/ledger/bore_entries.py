"""The entries of boring: machine, inserts, how the bar is set up, what each hole came out at, checks. Lengths in mm."""

from __future__ import annotations

from typing import Literal

from redline_bore.core.frozen import frozen

Rake = Literal["positive", "negative"]
Grade = Literal["coated", "plain"]


@frozen(kw_only=True)
class MachineStated:
    """A boring bar of the shop: its thickness, how far it stands out, the steps of its gearbox in turns a minute."""

    name: str
    thick_mm: float
    reach_mm: float
    speeds_rpm: tuple[float, ...]
    kind: Literal["machine_stated"] = "machine_stated"


@frozen(kw_only=True)
class InsertShelved:
    """``count`` inserts of a kind came onto the shelf, each with so many edges."""

    insert: str
    nose_radius_mm: float
    rake: Rake
    edges: int
    grade: Grade
    count: int
    kind: Literal["insert_shelved"] = "insert_shelved"


@frozen(kw_only=True)
class EdgeTurned:
    """An edge of an insert is used up, and why: the next one cuts from now on."""

    insert: str
    why: str = "worn"
    kind: Literal["edge_turned"] = "edge_turned"


@frozen(kw_only=True)
class BarSet:
    """The bar's insert (nose radius, rake, grade), feed in mm a turn, turns a minute, what the block is squared to.

    usual_mm, first_mm: what this machine and insert cut over their setting in this metal on the jobs in ``taught_by``;
    first_mm None: they never told. ``holes``, ``firsts``: how many taught it.
    """

    insert: str
    nose_radius_mm: float
    rake: Rake
    feed_mm: float
    rpm: float
    based_on: Literal["mains", "deck"] = "mains"
    grade: Grade = "coated"
    machine: str = ""
    usual_mm: float = 0.0
    first_mm: float | None = None
    holes: int = 0
    firsts: int = 0
    taught_by: tuple[str, ...] = ()
    kind: Literal["bar_set"] = "bar_set"


@frozen(kw_only=True)
class HoleBored:
    """A cylinder was bored with the setting micrometer at ``set_mm``; sizes top to bottom, at the block's own warmth.

    across_mm: the same places at a second angle, empty where nobody read it.
    """

    cylinder: int
    set_mm: float
    sizes_mm: tuple[float, ...]
    across_mm: tuple[float, ...] = ()
    kind: Literal["hole_bored"] = "hole_bored"


@frozen(kw_only=True)
class RunChecked:
    """A check of the run sheet is done: ``step`` bore or sleeve; cylinder 0 where it counts for the whole set-up."""

    step: str
    cylinder: int
    check: str
    kind: Literal["run_checked"] = "run_checked"


@frozen(kw_only=True)
class CutNoted:
    """What was heard or seen at the cut: hit and skip, a ridge, a web; where, mm down (None: not said)."""

    cylinder: int
    what: Literal["hit and skip", "ridge", "web", "pin hole"]
    depth_mm: float | None = None
    kind: Literal["cut_noted"] = "cut_noted"
