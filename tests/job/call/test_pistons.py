"""Pistons and clearances: who goes where, one size or each its own, rings, heat, volume, and the verdicts."""

import pytest

from redline_bore.core.errors import InputError
from redline_bore.core.fit import Decision
from redline_bore.core.gauging import Place
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.call import pistons
from redline_bore.job.card import Mark
from redline_bore.job.kinds.book_in import PracticeChosen
from redline_bore.job.kinds.call import ChamberStated, ClearanceStated, DecisionTaken, PistonMeasured
from redline_bore.job.kinds.hone import CheckLogged
from redline_bore.job.kinds.phrase import Where
from redline_bore.job.words import pistons as pistons_words
from tests.job.benches import after, one_typed

MM, IN = Show(Units.METRIC), Show(Units.INCH)


def measured(*sizes, warm=20.0):
    return [PistonMeasured(cylinder=c, size_mm=size, piston_c=warm) for c, size in enumerate(sizes, 1)]


def checks(*sizes):
    return [CheckLogged(cylinder=c, strokes=10.0, sizes_mm=(size,)) for c, size in enumerate(sizes, 1)]


def figure(advice, start):
    return next(f for f in advice.figures if f.label.startswith(start))


def typed(state, text, units=Units.METRIC, cylinder=1):
    return one_typed("call", text, state, Where(cylinder, Place(0, 0), units))


def test_pistons_are_asked_for_before_the_bar_turns(state_of):
    advice = pistons_words.advise(state_of("2041"), 4, MM)
    assert advice.mark is Mark.LOOK and advice.sentence.startswith("Measure the pistons of cylinders 1, 2, 3, 4 and 5")
    assert figure(advice, "piston 4").value == "not measured"


def test_a_finish_size_is_a_piston_and_its_clearance_never_a_nominal(ledger_of, shipped):
    state = after(ledger_of("2041"), shipped, *measured(105.671, 105.668, 105.67, 105.675, 105.66))
    fits = pistons.fits_of(state)
    assert [f.finish_mm for f in fits] == pytest.approx(
        [p + 0.075 for p in (105.671, 105.668, 105.67, 105.675, 105.66)]
    )
    assert all(f.decision is None for f in fits)  # nothing is honed yet


def test_a_set_that_measures_under_on_purpose_shows_it(ledger_of, shipped):
    from redline_bore.job.call.ladder import based_on, ladder_of

    state = after(ledger_of("2041"), shipped)
    call = DecisionTaken(oversize_mm=0.75, sentence="x", based_on=based_on(ladder_of(state), 0.75, ()))
    state = after(ledger_of("2041"), shipped, call, *measured(105.671, 105.668, 105.67, 105.675, 105.66))
    assert pistons.fits_of(state)[0].over_nominal_mm == pytest.approx(-0.079)
    assert figure(pistons_words.advise(state, 1, MM), "against its size in name").value == "−0.079"


def test_a_warm_piston_is_smaller_at_twenty(ledger_of, shipped):
    cold, warm = (
        pistons.fits_of(after(ledger_of("2041"), shipped, *measured(105.67, warm=c)))[0].piston_mm for c in (20.0, 30.0)
    )
    assert cold - warm == pytest.approx(105.67 * 10.0 * 20.8e-6, rel=0.2)


def test_one_common_size_and_what_it_costs(ledger_of, shipped):
    alike = after(ledger_of("2041"), shipped, *measured(105.670, 105.672, 105.671, 105.673, 105.670))
    common = pistons.common_size(alike)
    assert common.all_in and common.size_mm == pytest.approx(105.6715 + 0.075)
    assert common.worst_miss_mm == pytest.approx(0.0015)
    apart = after(ledger_of("2041"), shipped, *measured(105.650, 105.672, 105.671, 105.690, 105.670))
    assert not pistons.common_size(apart).all_in
    assert "Each bore to its own piston" in pistons_words.advise(apart, 1, MM).sentence
    assert pistons.common_size(after(ledger_of("2041"), shipped, *measured(105.67))) is None


def test_best_fit_is_no_worse_than_nearest_first(ledger_of, shipped):
    book = [
        *measured(105.670, 105.661, 105.676, 105.668, 105.664),
        *checks(105.742, 105.748, 105.741, 105.745, 105.738),
    ]
    state = after(ledger_of("2041"), shipped, *book)
    best = pistons.assignment_of(state).best
    assert sorted(best.piston_for_bore) == [0, 1, 2, 3, 4]
    bores, sizes = (105.742, 105.748, 105.741, 105.745, 105.738), (105.670, 105.661, 105.676, 105.668, 105.664)
    cost = [sum((bores[b] - sizes[p] - 0.075) ** 2 for b, p in enumerate(order)) for order in (best.piston_for_bore, best.nearest_first)]  # fmt: skip
    assert cost[0] <= cost[1] + 1e-12
    assert "Change pistons about" in pistons_words.advise(state, 1, MM).sentence or best.piston_for_bore == (
        0,
        1,
        2,
        3,
        4,
    )


def test_no_assignment_without_every_piston_and_bore(ledger_of, shipped):
    found = pistons.assignment_of(after(ledger_of("2041"), shipped, *measured(105.67)))
    assert found == (None, pistons.AssignmentLacks.PISTONS, (2, 3, 4, 5))
    found = pistons.assignment_of(after(ledger_of("2047"), shipped, *measured(77.95)))
    assert found == (None, pistons.AssignmentLacks.GAUGED, ())


@pytest.mark.parametrize(
    ("bore", "decision"), [(105.746, Decision.IN), (105.800, Decision.OUT), (105.7583, Decision.TOO_CLOSE)]
)
def test_verdicts_keep_the_gauge_s_doubt(ledger_of, shipped, bore, decision):
    state = after(ledger_of("2041"), shipped, *measured(105.67, 105.67, 105.67, 105.67, 105.67), *checks(bore))
    fit = pistons.fits_of(state)[0]
    assert fit.decision is decision and fit.clearance_mm == pytest.approx(bore - 105.67)
    sentence = pistons_words.advise(state, 1, MM).sentence
    assert {Decision.OUT: "is over piston sheet", Decision.TOO_CLOSE: "too close to call"}.get(decision, "") in sentence


def test_a_bore_still_on_its_way_is_no_stop(ledger_of, shipped):
    book = [*measured(105.67, 105.67, 105.67, 105.67, 105.67), *checks(105.715, 105.746)]
    advice = pistons_words.advise(after(ledger_of("2041"), shipped, *book), 1, MM)
    assert advice.sentence == "Cylinder 1: 0.030 still to come off." and advice.mark is Mark.PLAIN
    assert figure(advice, "1 clearance").mark is Mark.PLAIN


def test_hot_clearance_is_told_as_free_growth(ledger_of, shipped):
    state = after(ledger_of("2041"), shipped, *measured(105.67, 105.67, 105.67, 105.67, 105.67))
    fit = pistons.fits_of(state)[0]
    assert fit.hot_mm is not None and fit.hot_mm < 0.075
    assert fit.closes_hot_mm == pytest.approx(fit.finish_mm - fit.piston_mm - fit.hot_mm) and fit.closes_hot_mm > 0.0
    advice = pistons_words.advise(state, 1, MM)
    assert figure(advice, "closes hot, growing freely").value == MM.unit(MM.size(fit.closes_hot_mm))
    if fit.hot_mm < 0:
        assert any("no interference" in c for c in advice.changes)


def test_ring_gaps_wanted_and_what_to_file(ledger_of, shipped):
    state = after(ledger_of("2047"), shipped, *measured(77.95))
    rings = pistons.rings_of(state, 78.0)
    assert rings.second_mm > rings.top_mm > 0.0
    assert pistons.to_file(state, 1, 78.0) == pytest.approx(rings.top_mm - 0.43)  # the narrowest gap read
    assert pistons.to_file(after(ledger_of("2041"), shipped), 1, 105.0) is None


# -- the chamber ---------------------------------------------------------------------------------------------------

CHAMBER = "chamber 62 dish 4.5 gasket 107 x 1.2 deck 0.35"


def test_compression_follows_the_bore(ledger_of, state_of, shipped):
    entry = typed(state_of("2041"), CHAMBER)
    assert entry == ChamberStated(
        chamber_cm3=62.0, dish_cm3=4.5, gasket_bore_mm=107.0, gasket_thickness_mm=1.2, deck_clearance_mm=0.35
    )
    state = after(ledger_of("2041"), shipped, entry, *measured(105.67))
    before, later = figure(pistons_words.advise(state, 1, MM), "compression").value.split(" → ")
    assert float(later) > float(before) > 5.0
    assert figure(pistons_words.advise(state, 1, MM), "swept").value.endswith("cm³")


def test_a_dome_is_a_dish_below_nought_and_inches_are_inches(state_of):
    assert typed(state_of("2041"), "chamber 70 dome 3 gasket 107 x 1.2").dish_cm3 == -3.0
    inch = typed(state_of("2036"), "chamber 62 gasket 3.375 x 0.047 deck 0.014", Units.INCH)
    assert inch.gasket_bore_mm == pytest.approx(85.725) and inch.deck_clearance_mm == pytest.approx(0.3556)


@pytest.mark.parametrize(
    ("text", "reason"),
    [
        ("chamber", "is typed by"),
        ("chamber sixty gasket 107 x 1.2", "no volume"),
        ("chamber 62 gasket 1.2 x 107", "does not belong to this bore"),
        ("chamber 62 gasket 107 x 20", "size is typed before"),
        ("chamber 5 gasket 107 x 1.2", "compression of"),
        ("chamber -5 gasket 107 x 1.2", "no volume"),
    ],
)
def test_a_chamber_that_cannot_be_is_refused_with_the_reason(state_of, text, reason):
    with pytest.raises(InputError, match=reason):
        typed(state_of("2041"), text)


def test_a_gasket_smaller_than_the_hole_is_told(ledger_of, state_of, shipped):
    small = typed(state_of("2041"), "chamber 90 gasket 105.2 x 1.2")
    state = after(ledger_of("2041"), shipped, small, *measured(105.67))
    assert any("stand in the hole" in c for c in pistons_words.advise(state, 1, MM).changes)


@pytest.mark.parametrize(
    ("text", "entry"),
    [
        ("sheet 0.06 0.08", ClearanceStated(source="piston sheet", low_mm=0.06, high_mm=0.08)),
        ("habit 0.05 0.07", ClearanceStated(source="habit", low_mm=0.05, high_mm=0.07)),
        ("piston 105.671 21 C", PistonMeasured(cylinder=1, size_mm=105.671, piston_c=21.0)),
    ],
)
def test_windows_and_pistons_are_typed(state_of, text, entry):
    assert typed(state_of("2041"), text) == entry


def test_windows_stand_side_by_side_and_the_practice_leads(ledger_of, shipped):
    lead = PracticeChosen(topic="clearance", name="manual")
    state = after(ledger_of("2041"), shipped, lead, *measured(105.67))
    advice = pistons_words.advise(state, 1, MM)
    assert any(c.startswith("By manual 0.080–0.105. Others say: piston sheet 0.060–0.090") for c in advice.changes)
    assert pistons.fits_of(state)[0].finish_mm == pytest.approx(105.67 + 0.0925)
