"""Edges that random faults went unseen at, each worked by hand: what may be typed."""

import pytest

from redline_bore.core.errors import InputError
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.kinds.plate import torque_nm
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
    from redline_bore.core.gauging import Place
    from redline_bore.core.lengths import Units
    from redline_bore.job.kinds.phrase import Where
    from redline_bore.job.proposals import entries_from_typed

    with pytest.raises(InputError, match=told):
        entries_from_typed(step, line, state_of("2041"), Where(1, Place(0, 0), Units.METRIC))
