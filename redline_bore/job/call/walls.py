"""How far a wall may still be bored: surely, and at the most; and where it is to be read (methods 6)."""

from __future__ import annotations

from collections.abc import Sequence

from redline_bore.core.block import WallKind, bore_positions
from redline_bore.core.frozen import frozen
from redline_bore.core.wall import WallRow, WallSpot, largest_diameter, outside_round
from redline_bore.job.call.cut import walls_as_gauged
from redline_bore.job.call.need import axis_shift, need_of
from redline_bore.job.gauge.analysis import shape_of
from redline_bore.job.profiles.duty import duty
from redline_bore.job.profiles.wall_kind import wall_profile
from redline_bore.job.state.cached import once_a_state
from redline_bore.job.state.gauging import BOTH, LINER, WallReading
from redline_bore.job.state.job_state import JobState

SIDES_DEG, SIDE_WIDE_DEG, ROUND_DEG = (0.0, 90.0, 180.0, 270.0), 25.0, tuple(range(0, 360, 15))
DEPTH_SHARES, DEPTHS_APART, SAME_LEVEL_MM = (0.25, 0.75), 0.25, 3.0
THRUST, ELSEWHERE = "thrust", "elsewhere"
READ_AGAIN = 3  # readings of a place that sharpen it
ALUMINIUM = ("aluminium_hypo", "aluminium_hyper", "iron_in_aluminium")


@frozen
class WallPlace:
    """Where a wall is to be read."""

    depth_mm: float
    clock_deg: float


@frozen
class WallBound:
    """Largest bore, mm, about the cut's axis: sure_mm leaves every place its limit, most_mm is where it would be given up. None: nothing
    was read that tells. to_read: places that are missing for *sure*; through: what it goes through was not said."""

    sure_mm: float | None
    most_mm: float | None
    to_read: tuple[WallPlace, ...]
    through_missing: bool = False

    @property
    def complete(self) -> bool:
        """Read on four sides at two depths, and known what was read."""
        return not self.to_read and not self.through_missing

    def surely_stands(self, size_mm: float) -> bool:
        """Every place keeps its limit at that bore."""
        return self.complete and self.sure_mm is not None and size_mm <= self.sure_mm + 1e-9

    def too_thin(self, size_mm: float) -> bool:
        """Some place is under its limit at that bore, whatever the doubt."""
        return self.most_mm is not None and size_mm > self.most_mm + 1e-9


def has_liner(state: JobState) -> bool:
    """Whether the wall is a liner or sleeve of its own."""
    return wall_profile(state.block.wall).sleeved


def liner_limit(state: JobState) -> float:
    """Least wall of a liner, mm: by what stands behind it."""
    soft = state.block.material in ALUMINIUM or state.block.wall is WallKind.LINER
    return state.figures.number("wall.sleeve_in_aluminium" if soft else "wall.dry_sleeve_in_iron")


def wall_limits(state: JobState, through: str = "") -> dict[str, float]:
    """Least wall in mm by zone: a liner's own where it was read alone, with the parent's least behind it where both were read; else the
    block's, by duty and metal."""
    if has_liner(state):
        behind = state.figures.number("sleeves.parent_least") if through == BOTH else 0.0
        return dict.fromkeys((THRUST, ELSEWHERE), liner_limit(state) + behind)
    limits = duty(state.book_in.duty).wall
    strong = state.block.material in ("compacted_iron", "ductile_iron")
    factor = state.figures.number("wall.strong_iron_factor") if strong else 1.0
    return {zone: factor * state.figures.number(f"wall.{limits}_{zone}") for zone in (THRUST, ELSEWHERE)}


@once_a_state
def wall_bound(state: JobState, cylinder: int) -> WallBound:
    """How far a cylinder may be bored by the walls read."""
    mean = shape_of(state, cylinder).mean_mm
    read = walls_as_gauged(state, cylinder)
    to_read = places_to_read(state, cylinder)
    if mean is None or not read:
        return WallBound(None, None, to_read)
    rows = _rows(read)
    full = [(row, _outside(row, mean)) for row in rows if len(_sides(row)) == len(SIDES_DEG)]
    sure = [_sure(state, cylinder, row, outside, mean) for row, outside in full]
    if len(full) > 1:
        sure += [_beyond(state, cylinder, full[0], full[-1], depth, mean) for depth in (0.0, state.block.length_mm)]
    most = [_most(state, cylinder, w, _doubt(state, read, w), mean) for w in read]
    missing = has_liner(state) and any(not w.through for w in read)
    return WallBound(min(sure, default=None), min(most), to_read, missing)


def _rows(read: Sequence[WallReading]) -> list[list[WallReading]]:
    rows: list[list[WallReading]] = []
    for w in sorted(read, key=lambda w: w.depth_mm):
        if rows and w.depth_mm - rows[-1][0].depth_mm <= SAME_LEVEL_MM:
            rows[-1].append(w)
        else:
            rows.append([w])
    return rows


def _sides(row: Sequence[WallReading]) -> set[float]:
    return {side for side in SIDES_DEG for w in row if _apart(w.clock_deg, side) <= SIDE_WIDE_DEG}


def _apart(a_deg: float, b_deg: float) -> float:
    return abs((a_deg - b_deg + 180.0) % 360.0 - 180.0)


@once_a_state
def places_to_read(state: JobState, cylinder: int) -> tuple[WallPlace, ...]:
    """Places of the wall that are missing: four sides at two depths."""
    length = state.block.length_mm
    rows = _rows([w for w in state.gauging.wall_readings if w.cylinder == cylinder])
    full = [row[0].depth_mm for row in rows if len(_sides(row)) == len(SIDES_DEG)]
    if full and max(full) - min(full) >= DEPTHS_APART * length:
        return ()
    begun = [row for row in rows if len(_sides(row)) < len(SIDES_DEG)]
    wanted = [_wanted_depth(state, share, begun) for share in DEPTH_SHARES]
    found = []
    for share, depth in zip(DEPTH_SHARES, wanted, strict=True):
        if any(abs(d - share * length) <= DEPTHS_APART * length for d in full):
            continue
        row = next((r for r in begun if abs(r[0].depth_mm - depth) <= SAME_LEVEL_MM), [])
        found += [WallPlace(depth, side) for side in SIDES_DEG if side not in _sides(row)]
    return tuple(found)


def _wanted_depth(state: JobState, share: float, begun: Sequence[Sequence[WallReading]]) -> float:
    """The depth at which the wall is read next: one that was begun near there, else a round one."""
    at = share * state.block.length_mm
    near = [r[0].depth_mm for r in begun if abs(r[0].depth_mm - at) <= DEPTHS_APART * state.block.length_mm / 2.0]
    return min(near, key=lambda d: abs(d - at)) if near else float(round(at))


def wall_asked(state: JobState, cylinder: int, size_mm: float) -> bool:
    """Whether reading a cylinder's wall pays before it is cut to a size: a liner or sleeve, a wall for performance, a size above those listed;
    in the cylinders at the ends of a bank, and in all once a place stands close to its limit. A listed size on any other casting is unknown,
    said so, and not asked for: so few are thin. Source: methods 6."""
    if any(_close(state, c, size_mm) for c in state.cylinders):
        return True
    return _doubted(state, size_mm) and cylinder in end_cylinders(state)


def _doubted(state: JobState, size_mm: float) -> bool:
    listed = max(state.book_in.oversizes_mm, default=0.0)
    above = size_mm > state.block.bore_mm + listed + 1e-6
    return has_liner(state) or duty(state.book_in.duty).wall == "performance" or above


def _close(state: JobState, cylinder: int, size_mm: float) -> bool:
    """A place that was read stands close to its limit, or under it, at a size."""
    mean, near = shape_of(state, cylinder).mean_mm, state.figures.number("wall.read_all_from")
    if mean is None:
        return False
    read = walls_as_gauged(state, cylinder)
    return any(
        w.wall_mm - (size_mm - mean) / 2.0 < wall_limits(state, w.through or LINER)[w.zone or _zone(w.clock_deg)] + near
        for w in read
    )


@once_a_state
def end_cylinders(state: JobState) -> tuple[int, ...]:
    """The first and the last cylinder of each bank: there cores shift most."""
    banks: dict[int, list[tuple[float, int]]] = {}
    for at in bore_positions(state.block):
        banks.setdefault(at.bank, []).append((at.along_mm, at.number))
    return tuple(sorted({n for holes in banks.values() for _x, n in (min(holes), max(holes))}))


def four_places(state: JobState, cylinder: int) -> tuple[WallPlace, ...]:
    """Four sides at one depth, those that are not read yet; none where some depth was read all round."""
    rows = _rows(walls_as_gauged(state, cylinder))
    best = max(rows, key=lambda row: len(_sides(row)), default=[])
    depth = best[0].depth_mm if best else float(round(DEPTH_SHARES[0] * state.block.length_mm))
    return tuple(WallPlace(depth, side) for side in SIDES_DEG if side not in _sides(best))


def thinnest_places(state: JobState, cylinder: int) -> tuple[WallPlace, ...]:
    """Where it pays to read the wall again: the thinnest place of each depth, as long as it was not read three times."""
    found = []
    for row in _rows(walls_as_gauged(state, cylinder)):
        thin = min(row, key=lambda w: w.wall_mm)
        if sum(_apart(w.clock_deg, thin.clock_deg) <= SIDE_WIDE_DEG for w in row) < READ_AGAIN:
            found.append(WallPlace(thin.depth_mm, thin.clock_deg))
    return tuple(found)


def _doubt(state: JobState, read: Sequence[WallReading], place: WallReading) -> float:
    """U of a wall reading, mm: less where a place was read three times."""
    same = [
        w
        for w in read
        if abs(w.depth_mm - place.depth_mm) <= SAME_LEVEL_MM and _apart(w.clock_deg, place.clock_deg) <= SIDE_WIDE_DEG
    ]
    return state.figures.number("wall.doubt_of_three" if len(same) >= READ_AGAIN else "wall.doubt")


def _wear_side(state: JobState, cylinder: int) -> float:
    """How far the wall may stand off the mean radius on one side, mm: half the wear, until it is swept."""
    shape = shape_of(state, cylinder)
    if need_of(state, cylinder).swept is not None or shape.wear is None:
        return 0.0
    return max(shape.wear.largest_reading_mm, 0.0) / 2.0


def _sure(
    state: JobState, cylinder: int, row: Sequence[WallReading], outside_mm: Sequence[float], mean_mm: float
) -> float:
    """Largest bore that surely leaves a depth read on four sides its limits all round."""
    doubt = max(_doubt(state, row, w) for w in row) + _wear_side(state, cylinder)
    spots = [
        WallSpot(clock, row[0].depth_mm, outside - doubt - mean_mm / 2.0, mean_mm / 2.0, _zone(clock))
        for clock, outside in zip(ROUND_DEG, outside_mm, strict=True)
    ]
    spots += [WallSpot(w.clock_deg, w.depth_mm, w.wall_mm - doubt, mean_mm / 2.0, w.zone) for w in row]
    found = largest_diameter(spots, wall_limits(state, _through(row)), *axis_shift(state, cylinder, row[0].depth_mm))
    assert found is not None  # every zone has a limit
    return found


def _outside(row: Sequence[WallReading], mean_mm: float) -> list[float]:
    """Distance of the outside from the hole's centre at ROUND_DEG, mm."""
    wall = WallRow(row[0].depth_mm, tuple(w.clock_deg for w in row), tuple(w.wall_mm for w in row), mean_mm / 2.0)
    return outside_round(wall, [float(c) for c in ROUND_DEG])


def _beyond(
    state: JobState,
    cylinder: int,
    upper: tuple[Sequence[WallReading], Sequence[float]],
    lower: tuple[Sequence[WallReading], Sequence[float]],
    depth_mm: float,
    mean_mm: float,
) -> float:
    """The same at the deck or the end of the hole, where nobody read: as the wall goes on between the two depths, if that is thinner."""
    z, w = (row[0].depth_mm for row, _outside_mm in (upper, lower))
    near, near_outside = upper if depth_mm < z else lower
    doubt = max(_doubt(state, near, r) for r in near) + _wear_side(state, cylinder)
    share = (depth_mm - z) / (w - z)
    spots = [
        WallSpot(clock, depth_mm, min(a + share * (b - a), c) - doubt - mean_mm / 2.0, mean_mm / 2.0, _zone(clock))
        for clock, a, b, c in zip(ROUND_DEG, upper[1], lower[1], near_outside, strict=True)
    ]
    found = largest_diameter(spots, wall_limits(state, _through(near)), *axis_shift(state, cylinder, depth_mm))
    assert found is not None
    return found


def _most(state: JobState, cylinder: int, read: WallReading, doubt_mm: float, mean_mm: float) -> float:
    """The bore at which a place that was read is given up, whatever the doubt."""
    wall = read.wall_mm + doubt_mm + _wear_side(state, cylinder)
    spot = WallSpot(read.clock_deg, read.depth_mm, wall, mean_mm / 2.0, read.zone)
    through = LINER if has_liner(state) and not read.through else read.through
    found = largest_diameter([spot], wall_limits(state, through), *axis_shift(state, cylinder, read.depth_mm))
    assert found is not None  # one spot in a zone that has a limit
    return found


def _through(row: Sequence[WallReading]) -> str:
    """What a depth was read through: where it was not said, or differs, what leaves least."""
    said = {w.through for w in row}
    return BOTH if said == {BOTH} else LINER if said == {LINER} else BOTH


def _zone(clock_deg: float) -> str:
    return THRUST if min(_apart(clock_deg, 90.0), _apart(clock_deg, 270.0)) <= 45.0 else ELSEWHERE
