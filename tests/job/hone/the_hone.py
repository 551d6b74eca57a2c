"""A hone set up over job 2041, and checks as they come, for the tests of the hone."""

from redline_bore.core.gauging import Place
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.kinds.hone import (
    CheckLogged,
    HoneSet,
    StonesSet,
)
from redline_bore.job.kinds.phrase import Where
from tests.job.benches import one_typed

MM = Show(Units.METRIC)
STONES = StonesSet(stones="vitrified_150", count=4, width_mm=10.0, length_mm=120.0)
HONE = HoneSet(machine="vertical", rpm=170.0, strokes_per_min=45.0, over_top_mm=36.0, over_bottom_mm=14.0, load=20.0)
REDLINE = 105.745


def checks(*rows, cylinder=1):
    """Rows of strokes and sizes."""
    return [CheckLogged(cylinder=cylinder, strokes=float(n), sizes_mm=sizes) for n, *sizes in rows]


def steady(rate=0.0015, start=105.640, shape=(0.0, 0.0, -0.003), cylinder=1, strokes=(0, 10, 20, 30, 40)):
    rows = [(n, *(start + rate * n + tip for tip in shape)) for n in strokes]
    return checks(*rows, cylinder=cylinder)


def typed(state, text, cylinder=1):
    return one_typed("hone", text, state, Where(cylinder, Place(0, 0), Units.METRIC))
