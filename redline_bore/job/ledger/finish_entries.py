"""The entries of the finish and of the sign-off. Lengths in mm, texture in um, angles in degrees."""

from __future__ import annotations

from typing import Literal

from redline_bore.core.frozen import frozen

Parameter = Literal["Ra", "Rz", "Rpk", "Rk", "Rvk"]
Care = Literal["washed", "oiled"]


@frozen(kw_only=True)
class TraceBooked:
    """A trace of a wall. ``heights``: packed (core.texture.packed). plateau_strokes: double strokes of the plateau that the
    wall had had by then, nought before it; None: not known. depth_mm: where its middle lay, None: not said.
    """

    cylinder: int
    step_um: float
    heights: str
    depth_mm: float | None = None
    plateau_strokes: float | None = None
    source: str = "profilometer"
    kind: Literal["trace_booked"] = "trace_booked"


@frozen(kw_only=True)
class FinishWindowStated:
    """A window for a figure of the finish, um, and whose it is; it goes before the one by duty."""

    parameter: Parameter
    low_um: float
    high_um: float
    source: str = "ring maker's sheet"
    kind: Literal["finish_window_stated"] = "finish_window_stated"


@frozen(kw_only=True)
class HatchSeen:
    """The crosshatch read from a picture: both families from the horizontal, k = 2 of the included angle, confidence."""

    cylinder: int
    up_deg: float
    down_deg: float
    u_deg: float
    confidence: float
    kind: Literal["hatch_seen"] = "hatch_seen"


@frozen(kw_only=True)
class FinalGauged:
    """The finished hole, as read at the block's own temperature: sizes top to bottom, and across them at a second angle."""

    cylinder: int
    sizes_mm: tuple[float, ...]
    plate_on: bool
    across_mm: tuple[float, ...] = ()
    kind: Literal["final_gauged"] = "final_gauged"


@frozen(kw_only=True)
class RingsGapped:
    """End gaps of the rings that go into a cylinder, as filed and measured in its finished bore."""

    cylinder: int
    top_mm: float
    second_mm: float | None = None
    kind: Literal["rings_gapped"] = "rings_gapped"


@frozen(kw_only=True)
class CareTaken:
    """The block was washed until a white cloth stayed white, or dried and oiled."""

    what: Care
    kind: Literal["care_taken"] = "care_taken"


@frozen(kw_only=True)
class PointAccepted:
    """An open point is accepted by whoever books this, with the reason."""

    point: str
    reason: str = ""
    kind: Literal["point_accepted"] = "point_accepted"


@frozen(kw_only=True)
class JobReopened:
    """A signed job is opened again for entries."""

    reason: str
    kind: Literal["job_reopened"] = "job_reopened"


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


@frozen(kw_only=True)
class FamilyOffered:
    """What the family's signed jobs taught, as it was offered when this job was booked in."""

    lessons: tuple[Lesson, ...]
    kind: Literal["family_offered"] = "family_offered"
