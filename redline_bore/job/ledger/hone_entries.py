"""The entries of honing: stones, how the machine goes, checks, what the machine says. Lengths in mm."""

from __future__ import annotations

from typing import Literal

from redline_bore.core.frozen import frozen

Machine = Literal["vertical", "manual", "drill", "ball"]


@frozen(kw_only=True)
class StonesSet:
    """The stones in the pack: abrasive and grit (a key of the stones' figures), count, width and length of each.

    worn_mm: off their height. bedded: they bear over their whole length.
    """

    stones: str
    count: int
    width_mm: float
    length_mm: float
    worn_mm: float = 0.0
    bedded: bool = True
    kind: Literal["stones_set"] = "stones_set"


@frozen(kw_only=True)
class HoneSet:
    """How the hone goes: each machine has only the figures it has (None: it has none of that, or nobody said).

    load: per cent of the machine (vertical), the dial's figure (manual). Overstroke and dwell only where they are set.
    """

    machine: Machine
    rpm: float
    strokes_per_min: float | None = None
    over_top_mm: float | None = None
    over_bottom_mm: float | None = None
    dwell_top_s: float = 0.0
    dwell_bottom_s: float = 0.0
    load: float | None = None
    kind: Literal["hone_set"] = "hone_set"


@frozen(kw_only=True)
class AngleWanted:
    """The crosshatch that is wanted, included; ``quoted`` as it was said, included or from the horizontal."""

    included_deg: float
    quoted: Literal["included", "horizontal"] = "included"
    kind: Literal["angle_wanted"] = "angle_wanted"


@frozen(kw_only=True)
class HoneStepBegan:
    """A cylinder goes to step ``step`` (from 0) of its honing practice; strokes count from nought again."""

    cylinder: int
    step: int
    kind: Literal["hone_step_began"] = "hone_step_began"


@frozen(kw_only=True)
class CheckLogged:
    """Double strokes so far in this step, and the sizes then, top to bottom, at the block's own temperature."""

    cylinder: int
    strokes: float
    sizes_mm: tuple[float, ...]
    kind: Literal["check_logged"] = "check_logged"


@frozen(kw_only=True)
class CompensationRead:
    """What the machine says it has taken in this step on diameter: its own stone compensation, beside the measured."""

    cylinder: int
    taken_mm: float
    kind: Literal["compensation_read"] = "compensation_read"


@frozen(kw_only=True)
class LoadSeen:
    """Mean load by depth as the machine sent it, over so many double strokes; load in the machine's own figure."""

    cylinder: int
    depths_mm: tuple[float, ...]
    loads: tuple[float, ...]
    strokes: float
    kind: Literal["load_seen"] = "load_seen"


@frozen(kw_only=True)
class OwnHoning:
    """A honing practice of the shop's own: its steps, how far short of the redline each ends, the stones of each."""

    steps: tuple[str, ...]
    short_mm: tuple[float, ...]
    stones: tuple[str, ...]
    kind: Literal["own_honing"] = "own_honing"
