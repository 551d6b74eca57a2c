"""Sleeves: grip, stress, heat, oval parents, deck and counterbores; reference cases and what physics demands."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from redline_bore.core.deck_cuts import counterbores, deck_plan
from redline_bore.core.errors import InputError
from redline_bore.core.oval_parent import oval_grip
from redline_bore.core.press_fit import Material, PressFit, peel_bore_mm
from redline_bore.core.shape import fit_level
from tests.vectors import cases, check, mm

IRON = Material(110000.0, 0.26, 11.0)
ALUMINIUM = Material(71000.0, 0.33, 21.5)


def fit_of(case, interface=None):
    i = case["inputs"]
    sleeve, parent = (
        Material(i.get(f"{who}_E_mpa", 110000.0), i.get(f"{who}_poisson", 0.26), i.get(f"{who}_1e6_per_c", 0.0))
        for who in ("sleeve", "parent")
    )
    d = interface or mm(case, "interface_diameter")
    return PressFit(d, mm(case, "sleeve_bore", 0.95 * d), mm(case, "parent_outside", 1.2 * d), sleeve, parent)


@pytest.mark.parametrize("case", cases("09", "press_fit"))
def test_press_fit_vectors(case):
    fit = fit_of(case)
    p = fit.pressure_mpa(mm(case, "interference"))
    check(
        case, pressure_mpa=p, parent_hoop_mpa=fit.parent_hoop_mpa(p), sleeve_bore_hoop_mpa=fit.sleeve_hoop_mpa(p),
        axial_push_n=fit.push_n(p, case["inputs"]["friction"], mm(case, "length")), sleeve_bore_closes_by=fit.closes_mm(p),
    )  # fmt: skip


@pytest.mark.parametrize("case", cases("09", "hot_fit"))
def test_hot_fit_vectors(case):
    fit, x = fit_of(case), mm(case, "interference")
    temperatures = case["inputs"]["sleeve_c"], case["inputs"]["parent_c"]
    hot = fit.hot_interference_mm(x, *temperatures)
    check(
        case, hot_interference=hot, pressure_hot_mpa=fit.pressure_mpa(hot), grip_lost_at_c=fit.grip_lost_c(x),
        sleeve_bore_change_20_to_hot=fit.bore_grows_mm(x, *temperatures),
        bore_coefficient_1e6_per_c=fit.bore_coefficient_1e6(x, temperatures[0]), warn=hot <= 0.0,
    )  # fmt: skip


@pytest.mark.parametrize("case", cases("09", "assembly_temperature"))
def test_assembly_vectors(case):
    fit, wanted = fit_of(case), (mm(case, "interference"), mm(case, "assembly_clearance"))
    if "sleeve_c" in case["inputs"]:
        check(case, parent_c=fit.parent_c_for(*wanted, case["inputs"]["sleeve_c"]))
    else:
        check(case, sleeve_c=fit.sleeve_c_for(*wanted, case["inputs"]["parent_c"]))


@pytest.mark.parametrize("case", cases("09", "peel_bore"))
def test_peel_vectors(case):
    check(
        case, peel_bore=peel_bore_mm(mm(case, "old_sleeve_outside"), mm(case, "shell")),
        parent_bore_wanted=mm(case, "new_sleeve_outside") - mm(case, "interference"),
    )  # fmt: skip


@pytest.mark.parametrize("case", cases("09", "oval_parent"))
def test_oval_parent_vectors(case):
    outside, sizes = mm(case, "sleeve_outside"), mm(case, "parent_diameter")
    parent = fit_level(case["inputs"]["clock_deg"], sizes)
    grip = oval_grip(parent, outside, fit_of(case, parent.mean_mm))
    check(
        case, interference_at_readings=[outside - d for d in sizes], interference_mean=grip.mean_interference_mm,
        interference_least_of_fit=float(grip.interference_mm.min()), share_of_wall_at_or_below_zero=grip.share_without,
    )  # fmt: skip
    if "contact_pressure_mean_mpa" in case["expected"]:
        check(
            case, contact_pressure_mean_mpa=grip.mean_pressure_mpa, contact_pressure_least_mpa=float(grip.pressure_mpa.min()),
            sleeve_stays_seated_all_round=grip.stays_seated,
        )  # fmt: skip


@pytest.mark.parametrize("case", cases("09", "deck_plan"))
def test_deck_vectors(case):
    plan = deck_plan(mm(case, "height"), mm(case, "skin"), mm(case, "step"), mm(case, "last"))
    check(case, total_cut=plan.cut_mm, deck_height_after=plan.height_after_mm, passes=plan.passes_mm)


@pytest.mark.parametrize("case", cases("09", "counterbore"))
def test_counterbore_vectors(case):
    found = counterbores(
        mm(case, "flange_thickness"), mm(case, "protrusion"), mm(case, "existing_depth"), mm(case, "deck_cut")
    )
    check(
        case, counterbore_depth=[c.depth_mm for c in found], existing_depth_after_deck=[c.existing_mm for c in found],
        still_to_cut=[c.to_cut_mm for c in found], too_deep_needs_shim=[c.needs_shim for c in found],
    )  # fmt: skip


# -- what physics demands ------------------------------------------------------------------------------------------

FIT = PressFit(93.0, 86.0, 108.0, IRON, ALUMINIUM)


@given(st.floats(0.0, 0.2), st.floats(0.0, 0.1))
def test_more_interference_never_gives_less_of_anything(x, more):
    low, high = FIT.pressure_mpa(x), FIT.pressure_mpa(x + more)
    assert high >= low and FIT.closes_mm(high) >= FIT.closes_mm(low)
    assert FIT.parent_hoop_mpa(high) >= FIT.parent_hoop_mpa(low) and FIT.push_n(high, 0.12, 130.0) >= FIT.push_n(
        low, 0.12, 130.0
    )


@given(st.floats(94.0, 200.0), st.floats(1.0, 40.0))
def test_a_stiffer_parent_presses_harder(outside, more):
    thin, thick = (PressFit(93.0, 86.0, o, IRON, ALUMINIUM).pressure_mpa(0.08) for o in (outside, outside + more))
    assert thick >= thin


@given(st.floats(0.02, 0.12), st.floats(0.02, 0.08), st.floats(-60.0, 20.0))
def test_what_the_temperatures_promise_is_kept(x, gap, sleeve_c):
    parent_c = FIT.parent_c_for(x, gap, sleeve_c)
    assert FIT.hot_interference_mm(x, sleeve_c, parent_c) == pytest.approx(-gap, abs=1e-9)
    assert FIT.sleeve_c_for(x, gap, parent_c) == pytest.approx(sleeve_c, abs=1e-6)


def test_an_iron_sleeve_in_iron_never_lets_go_by_heat_alone():
    assert PressFit(93.0, 86.0, 108.0, IRON, IRON).grip_lost_c(0.06) is None
    assert PressFit(93.0, 86.0, 108.0, IRON, ALUMINIUM).grip_lost_c(0.06) < 100.0


def test_a_gap_presses_nothing():
    assert FIT.pressure_mpa(-0.01) == 0.0 and FIT.closes_mm(0.0) == 0.0


def test_a_thick_sleeve_does_not_follow_a_deep_oval():
    parent = fit_level([0, 45, 90, 135], [93.2, 93.0, 92.8, 93.0])
    thick = oval_grip(parent, 93.02, PressFit(93.0, 60.0, 130.0, IRON, IRON))
    assert not thick.stays_seated and thick.share_without > 0.0


@given(st.lists(st.floats(200.0, 200.5), min_size=2, max_size=12), st.floats(0.0, 0.05))
def test_a_faced_deck_is_flat_and_its_passes_add_up(heights, skin):
    plan = deck_plan(heights, skin, 0.13, 0.025)
    assert plan.height_after_mm <= min(heights) + 1e-9
    assert sum(plan.passes_mm) == pytest.approx(plan.cut_mm, abs=1e-12) and max(plan.passes_mm) <= 0.13 + 1e-9


def test_sleeves_that_cannot_be_are_refused():
    for sizes in ((93.0, 94.0, 108.0), (93.0, 86.0, 92.0), (93.0, 0.0, 108.0)):
        with pytest.raises(InputError):
            PressFit(*sizes, IRON, IRON)
    with pytest.raises(InputError):
        FIT.bore_coefficient_1e6(0.08, 20.0)
    with pytest.raises(InputError):
        PressFit(93.0, 86.0, 108.0, IRON, Material(71000.0, 0.33)).parent_c_for(0.08, 0.05, 20.0)
    for wrong in ([], [200.0, float("nan")]):
        with pytest.raises(InputError):
            deck_plan(wrong, 0.01, 0.1, 0.02)
    with pytest.raises(InputError):
        deck_plan([200.0], 0.01, 0.0, 0.02)
    with pytest.raises(InputError):
        counterbores([8.0], 0.1, [8.0, 8.0], 0.1)
