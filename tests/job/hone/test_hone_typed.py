"""What is typed at the hone."""

from dataclasses import replace

import pytest

from redline_bore.core.errors import InputError
from redline_bore.job.kinds.bore import CutNoted
from redline_bore.job.kinds.hone import (
    AngleWanted,
    CheckLogged,
    CompensationRead,
    OwnHoning,
    StonesSet,
)
from tests.job.benches import after
from tests.job.hone.the_hone import HONE, STONES, typed

# -- typing ------------------------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("text", "entry"),
    [
        ("stones vitrified 150 4 x 10 long 120 new", replace(STONES, bedded=False)),
        (
            "stones diamond 200 6 x 5 long 100 worn 2",
            StonesSet(stones="diamond_200", count=6, width_mm=5.0, length_mm=100.0, worn_mm=2.0),
        ),
        ("hone vertical rpm 170 strokes 45 over 36 14 load 20", HONE),
        (
            "hone vertical rpm 170 strokes 45 over 36 0 dwell 0 0.5 load 25",
            replace(HONE, over_bottom_mm=0.0, dwell_bottom_s=0.5, load=25.0),
        ),
        ("angle 30", AngleWanted(included_deg=30.0)),
        ("taken 0.045", CompensationRead(cylinder=1, taken_mm=0.045)),
        ("note pin hole at 150", CutNoted(cylinder=1, what="pin hole", depth_mm=150.0)),
        (
            "steps rough 0.05 vitrified 150, semi finish 0.006 vitrified 280, plateau 0 brush 600",
            OwnHoning(
                steps=("rough", "semi finish", "plateau"),
                short_mm=(0.05, 0.006, 0.0),
                stones=("vitrified_150", "vitrified_280", "brush_600"),
            ),
        ),
        ("42 105.70 105.71", CheckLogged(cylinder=1, strokes=42.0, sizes_mm=(105.70, 105.71))),
    ],
)
def test_what_is_typed_at_the_hone(called, shipped, text, entry):
    assert typed(after(called, shipped, STONES), text) == entry


@pytest.mark.parametrize(
    ("text", "why"),
    [
        ("stones vitrified 150", "write it like: "),
        ("stones marble 150 4 x 10 long 70", "is no stone that figures are known for"),
        ("stones vitrified 150 0 x 10 long 70", "is no pack"),
        ("stones vitrified 150 4 x 10 long 300", "as long as the hole"),
        ("hone", "vertical, manual, drill or ball"),
        ("hone steam", "vertical, manual, drill or ball"),
        ("hone vertical rpm", "figure is wanted behind"),
        ("hone vertical over 20", "Two figures are wanted"),
        ("hone vertical rpm 99999", "no speed of a hone"),
        ("hone vertical strokes 0", "no rate of a hone"),
        ("hone vertical load 150", "per cent"),
        ("hone vertical dwell 0 60", "Seconds are wanted"),
        ("hone vertical rpm fast", "is no number"),
        ("angle steep", "crosshatch is typed as"),
        ("angle 170", "is no crosshatch"),
        ("taken 45", "check the unit"),
        ("steps rough", "Own steps are typed by"),
        ("steps rough 0.006 vitrified 150, fine 0.05 vitrified 280", "nearer to the redline"),
        ("steps rough 0.05 vitrified 150", "has to end on the redline"),
        ("note pin hole", "A note is"),
    ],
)
def test_what_is_refused_at_the_hone_has_its_reason(called, shipped, text, why):
    with pytest.raises(InputError, match=why):
        typed(after(called, shipped, STONES), text)
