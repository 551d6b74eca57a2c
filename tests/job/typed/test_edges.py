"""Edges that random faults went unseen at, each worked by hand: what may be typed."""

from dataclasses import replace

import pytest

from redline_bore.core.errors import FormError, InputError
from redline_bore.core.gauging import Place
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.kinds import forms, measures
from redline_bore.job.kinds.defects import WallRead
from redline_bore.job.kinds.kind import KINDS, wrongs
from redline_bore.job.kinds.phrase import Where
from redline_bore.job.kinds.plate import torque_nm
from redline_bore.job.proposals import entries_from_typed
from tests.job.benches import one_typed

METRIC = Show(Units.METRIC)


@pytest.mark.parametrize("text, ok", [("1 Nm", True), ("0.9 Nm", False), ("2000 Nm", True), ("2001 Nm", False)])
def test_a_torque_of_a_head_fastener(text, ok):
    if ok:
        assert torque_nm(text, Units.METRIC) == float(text.split()[0])
    else:
        with pytest.raises(InputError, match="no torque"):
            torque_nm(text, Units.METRIC)


@pytest.mark.parametrize(
    "step, text, ok",
    [
        ("bore", "machine old thick 60 reach 30 speeds 200 300", True), ("bore", "machine old thick 60 reach 29 speeds 200 300", False),
        ("bore", "machine old thick 60 reach 3000 speeds 200", True), ("bore", "machine old thick 60 reach 3001 speeds 200", False),
        ("sleeve", "deck 0 0.01 0.02", True), ("sleeve", "deck 0 0.01", False), ("sleeve", "deck 0 / 0.01 / 0.02", True),
    ],
)  # fmt: skip
def test_the_edges_of_what_may_be_typed(state_of, step, text, ok):
    from redline_bore.core.gauging import Place
    from redline_bore.job.kinds.phrase import Where

    where = Where(1, Place(0, 0), Units.METRIC)
    if ok:
        assert one_typed(step, text, state_of("2044"), where) is not None
    else:
        with pytest.raises(InputError):
            one_typed(step, text, state_of("2044"), where)


@pytest.mark.parametrize(
    "step, line, told",
    [
        ("call", "pit 0.4 at 30 to 40 clock 90", "“pit” is typed in the gauge step: "),
        ("hone", "final 105.5 105.5 105.5", "“final” is typed in the sign off step: "),
        ("gauge", "sheet 0.04 0.06", "“sheet” is typed in the call step: sheet "),
    ],
)
def test_a_line_of_another_step_is_told_where_it_belongs(state_of, step, line, told):
    with pytest.raises(InputError, match=told):
        entries_from_typed(step, line, state_of("2041"), Where(1, Place(0, 0), Units.METRIC))


@pytest.mark.parametrize("form", ["wall ] at", "wall } at", "a | b", "[WHAT } at", "[WHAT", "{a | b", "... at"])
def test_a_form_that_does_not_close_is_no_form(form):
    with pytest.raises(FormError):
        forms.parsed(form)


def test_what_is_said_again_stands_behind_a_blank():
    (word, blank) = forms.parsed("passes DEPTH ...")
    assert isinstance(word, forms.Lit) and isinstance(blank, forms.Blank) and blank.many
    with pytest.raises(FormError, match="Nothing stands before"):
        forms.parsed("passes ...")


def test_a_blank_that_is_not_filled_is_named_and_one_that_is_makes_the_line():
    form = forms.parsed("wall THICKNESS [at DEPTH]")
    thick, deep = list(forms.blanks_of(form))
    with pytest.raises(FormError, match="is not filled in"):
        forms.composed(form, {thick.key: "  "})
    assert forms.composed(form, {thick.key: "4.6"}) == "wall 4.6"
    assert forms.composed(form, {thick.key: "4.6", deep.key: "40"}) == "wall 4.6 at 40"


@pytest.mark.parametrize(
    "line, turned", [("85.2 12", True), ("83.8 12", False), ("86 12", False), ("85.2 12.5", False)]
)
def test_a_size_before_a_count_is_told_so(state_of, line, turned):
    state = state_of("2041")  # 105 mm: 84 is eight tenths of it
    with pytest.raises(InputError) as refused:
        one_typed("hone", line, state, Where(5, Place(0, 0), Units.METRIC))
    assert ("Strokes come first, then the size" in str(refused.value)) is turned


@pytest.mark.parametrize(
    "deep, inside", [("0.5", True), ("0", False), ("211.9", True), ("212", False), ("212.1", False)]
)
def test_a_depth_is_typed_inside_the_cylinder(state_of, deep, inside):
    state = state_of("2041")
    where = Where(1, Place(0, 0), Units.METRIC)
    if inside:
        assert measures.depth(deep, state, where) == float(deep)
    else:
        with pytest.raises(InputError):
            measures.depth(deep, state, where)


def test_a_chamber_without_a_dish_has_none(state_of):
    state, where = state_of("2041"), Where(1, Place(0, 0), Units.METRIC)
    plain = one_typed("call", "chamber 60 gasket 107 x 1.2 deck 0.1", state, where)
    assert plain.dish_cm3 == 0.0 and plain.deck_clearance_mm == 0.1
    assert one_typed("call", "chamber 60 dome 4 gasket 107 x 1.2", state, where).dish_cm3 == -4.0


@pytest.mark.parametrize("high, fits", [("50", True), ("50.1", False), ("74", False)])
def test_a_finish_window_ends_where_no_wall_is_rougher(state_of, high, fits):
    state, where = state_of("2041"), Where(1, Place(0, 0), Units.METRIC)
    line = f"window Rz 6 {high} um"
    if fits:
        assert one_typed("finish", line, state, where).high_um == 50.0
    else:
        with pytest.raises(InputError, match="does not make sense"):
            one_typed("finish", line, state, where)


def test_a_job_is_not_struck_out_of_itself():
    assert not KINDS["job_opened"].strikes and KINDS["reading_booked"].strikes


def test_the_bottom_of_a_cylinder_is_still_in_it(state_of):
    block = state_of("2041").block
    at_the_end = WallRead(cylinder=1, clock_deg=0.0, depth_mm=block.length_mm, wall_mm=4.0, zone="elsewhere")
    assert wrongs(at_the_end, block) == []
    assert wrongs(replace(at_the_end, depth_mm=block.length_mm + 0.1), block)
