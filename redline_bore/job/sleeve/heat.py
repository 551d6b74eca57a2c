"""Heat and cold for putting a sleeve in: which block temperature each cold wants, and the seconds that leaves."""

from __future__ import annotations

from redline_bore.core.assembly import LONGEST_S, Cooling, DropIn, Growth, seconds_of_grace
from redline_bore.core.frozen import frozen
from redline_bore.job.kinds.folding import parent_material
from redline_bore.job.sleeve.fit import SleeveFit, fit_of, in_aluminium
from redline_bore.job.sleeve.ways import SleeveDoing, chosen_way
from redline_bore.job.state.cached import once_a_state
from redline_bore.job.state.job_state import JobState

COLDS = (("room", None), ("freezer", "freezer"), ("dry ice", "dry_ice"), ("nitrogen", "nitrogen"))


@frozen(often=True)
class Cold:
    """A sleeve at ``sleeve_c``: what the block needs, C, and how many seconds it then has. too_hot: more than the block
    may be heated. block_c under 20: the cold alone does it."""

    name: str
    sleeve_c: float
    block_c: float
    seconds: float
    too_hot: bool

    @property
    def time(self) -> str:
        """The seconds as they are said."""
        return "over 2 min" if self.seconds >= LONGEST_S else f"{self.seconds:.0f} s"


@frozen(often=True)
class HeatPlan:
    """Getting one sleeve in. ``interference_mm`` is the largest round the clock; ``hottest_c`` what the block may be."""

    cylinder: int
    interference_mm: float
    gap_mm: float
    hottest_c: float
    colds: tuple[Cold, ...]
    chosen: Cold
    drop: DropIn


@once_a_state
def heat_plan(state: JobState, cylinder: int) -> HeatPlan | None:
    """The plan of one sleeve; None while its fit is not known."""
    fit = fit_of(state, cylinder)
    if fit.grip is None or fit.sleeve is None:
        return None
    return _plan_now(state, fit)


def _plan_now(state: JobState, fit: SleeveFit) -> HeatPlan:
    f, way = state.figures, chosen_way(state, fit.cylinder)
    assert fit.parent_mm is not None and fit.sleeve is not None
    interface = fit.wanted_mm if fit.unbored and fit.wanted_mm is not None else fit.parent_mm
    interference = max(fit.most_mm, 0.0)
    if (
        way is not None
        and way.way is not SleeveDoing.TOUCH_UP
        and way.parent_mm is not None
        and way.outside_mm is not None
    ):
        interface, interference = way.parent_mm, way.outside_mm - way.parent_mm
    iron = Growth(f.number("thermal.grey_iron"), f.number("sleeves.iron_cold"))
    own = f.number(f"thermal.{parent_material(state.block.material)}")
    drop = DropIn(interface, interference, iron, Growth(own, own))
    gap = f.number("sleeves.assembly_gap")
    hottest = f.number("sleeves.hottest_aluminium" if in_aluminium(state) else "sleeves.hottest_iron")
    wall = (fit.sleeve.outside_mm - fit.sleeve.bore_mm) / 2.0
    cooling = Cooling(
        wall, f.number("sleeves.air_heat"), f.number("sleeves.air_conducts"), 1e6 * f.number("sleeves.iron_stores"),
        f.number("sleeves.block_cools"),
    )  # fmt: skip
    carry = f.number("sleeves.carry")

    def cold(name: str, sleeve_c: float) -> Cold:
        block = max(drop.parent_c_for(gap, sleeve_c), 20.0)
        return Cold(name, sleeve_c, block, seconds_of_grace(drop, cooling, sleeve_c, block, carry), block > hottest)

    colds = tuple(cold(name, 20.0 if key is None else f.number(f"sleeves.{key}")) for name, key in COLDS)
    stated = state.sleeving.cold_c
    return HeatPlan(
        fit.cylinder, interference, gap, hottest, colds,
        _mildest(colds, carry) if stated is None else cold("as chosen", stated), drop,
    )  # fmt: skip


def _mildest(colds: tuple[Cold, ...], carry_s: float) -> Cold:
    """The mildest cold that the block's heat allows, with time left after carrying it over."""
    return next((c for c in colds if not c.too_hot and c.seconds > carry_s + 2.0), colds[-1])
