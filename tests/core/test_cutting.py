"""Boring: speeds, marks, passes, inserts, what a bar is set to, and in which order; reference cases and properties."""

import itertools
import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from redline_bore.core.bore_order import bore_order
from redline_bore.core.cutting import (
    ChatterBy,
    FeedCall,
    chatter_of,
    cut_of,
    even_passes,
    settings_in_counts,
    snapped_speed,
    split_passes,
    window_at,
    window_by_speed,
)
from redline_bore.core.errors import InputError
from redline_bore.core.inserts import insert_from_code, suitability
from redline_bore.core.tool_setting import BoredHole, Correction, learned
from tests.vectors import IN, cases, check, mm


@pytest.mark.parametrize("case", cases("08", "cutting"))
def test_cut_vectors(case):
    path = sum(mm(case, part) for part in ("length", "approach", "run_off"))
    cut = cut_of(mm(case, "bore"), mm(case, "feed_per_rev"), mm(case, "nose_radius"), path, case["inputs"]["rpm"])
    check(
        case, speed_m_per_min=cut.speed_m_per_min, minutes=cut.minutes, ideal_rt_um=cut.rt_um,
        hone_allowance_needed_on_diameter=cut.allowance_needed_mm,
        marks_fit_in_hone_allowance=cut.allowance_needed_mm <= mm(case, "hone_allowance_on_diameter"),
    )  # fmt: skip


@pytest.mark.parametrize("case", cases("08", "rpm_window"))
def test_window_vectors(case):
    found = window_at(
        mm(case, "bore"), mm(case, "reference_bore"), case["inputs"]["rpm_at_reference"], mm(case, "feed_window_per_rev")
    )  # fmt: skip
    surface = [math.pi * mm(case, "bore") * rpm / 1000.0 for rpm in (found.rpm_low, found.rpm_high)]
    check(
        case, rpm_low=found.rpm_low, rpm_high=found.rpm_high, rpm_high_for_sleeve_parent=found.rpm_high_for_sleeve_parent,
        surface_speed_m_per_min=surface, feed_call=found.feed_call(mm(case, "feed_per_rev")),
    )  # fmt: skip
    assert found.feed_call(found.feed_high_mm * 1.1) == "too coarse"


@pytest.mark.parametrize("case", cases("08", "pass_split"))
def test_pass_vectors(case):
    stock, limit = mm(case, "stock_on_diameter"), mm(case, "limit_radial")
    passes = split_passes(stock, limit)
    written = even_passes(stock / 2.0, max(math.ceil(stock / 2.0 / limit - 1e-9), 1))
    check(
        case, passes_radial=passes, pass_count=len(passes), written_rule_largest_radial=max(written),
        written_rule_breaks_limit=max(written) > limit * (1 + 1e-9),
    )  # fmt: skip


@pytest.mark.parametrize("case", cases("08", "insert_code"))
def test_insert_vectors(case):
    text, expected = case["inputs"]["text"], case["expected"]
    if expected["refused"]:
        with pytest.raises(InputError, match=expected["pattern"]):
            insert_from_code(text)
        return
    found = insert_from_code(text)
    assert (found.shape, found.corner_deg, found.relief_deg, found.rake) == tuple(
        expected[k] for k in ("shape", "corner_deg", "relief_deg", "rake")
    )
    assert found.inscribed_mm == pytest.approx(expected["inscribed_circle_in"] * IN)
    assert found.thickness_mm == pytest.approx(expected["thickness_in"] * IN)
    assert found.nose_radius_mm == pytest.approx(expected["nose_radius_mm"])


@pytest.mark.parametrize("text", ["", "TPG", "TPG 32", "XPG 321", "TXG 321", "TPG 320", "SNMG 120408"])
def test_an_insert_that_is_not_known_is_refused(text):
    with pytest.raises(InputError):
        insert_from_code(text)


def test_a_negative_square_has_eight_edges():
    assert insert_from_code("snmg433").edges == 8 and insert_from_code("TPG 321").edges == 3


@pytest.mark.parametrize("case", cases("08", "tool_correction"))
def test_correction_vectors(case):
    unit = IN if case["inputs"]["units"] == "inch" else 1.0
    holes = [
        BoredHole(*(next(h[k] for k in h if k.startswith(w)) * unit for w in ("set", "measured")), h["first_of_day"])
        for h in case["inputs"]["holes"]
    ]
    start = Correction(mm(case, "start_correction"), mm(case, "start_first_hole"))
    found = learned(holes, start, case["inputs"]["weight"])
    target = mm(case, "target")
    check(
        case, correction=found.usual_mm, first_hole=found.first_mm, setting_next=found.setting_mm(target),
        setting_first_of_day=found.setting_mm(target, True),
    )  # fmt: skip


def test_first_holes_never_spoil_the_usual_figure():
    firsts = [BoredHole(92.0, 92.05, True)] * 5
    found = learned(firsts)
    assert found.usual_mm == 0.0 and found.first_mm > 0.04 and (found.holes, found.firsts) == (0, 5)


@given(st.lists(st.floats(-0.02, 0.02), min_size=1, max_size=12))
def test_a_correction_stays_between_what_was_seen(overs):
    found = learned(BoredHole(92.0, 92.0 + over, False) for over in overs)
    assert min([0.0, *overs]) - 1e-9 <= found.usual_mm <= max([0.0, *overs]) + 1e-9


@pytest.mark.parametrize("case", cases("08", "bore_order"))
def test_order_vectors(case):
    found = bore_order(case["inputs"]["cylinder_number"], mm(case, "position_along_bank"))
    check(case, smallest_gap=found.smallest_gap_mm, sum_of_gaps=found.sum_of_gaps_mm)
    assert list(found.numbers) == case["expected"]["order"]


@given(st.lists(st.integers(0, 60), min_size=2, max_size=6, unique=True))
def test_no_order_is_better(at):
    along = [10.0 * a for a in at]
    numbers = list(range(1, len(at) + 1))
    found = bore_order(numbers, along)

    def worth(order):
        gaps = [abs(along[a - 1] - along[b - 1]) for a, b in itertools.pairwise(order)]
        return min(gaps), sum(gaps)

    best = max(worth(p) for p in itertools.permutations(numbers))
    assert worth(found.numbers) == pytest.approx(best) and sorted(found.numbers) == numbers
    assert (found.smallest_gap_mm, found.sum_of_gaps_mm) == pytest.approx(best)


@pytest.mark.parametrize("count", range(4, 13))
def test_neighbours_never_follow_each_other_where_it_can_be_helped(count):
    found = bore_order(range(1, count + 1), [100.0 * i for i in range(count)])
    assert found.smallest_gap_mm >= 200.0


def test_odd_orders_are_told():
    assert bore_order([7], [0.0]).numbers == (7,)
    assert bore_order([1, 2], [0.0, 90.0]).numbers == (1, 2)
    for numbers, along in (([], []), ([1, 2], [0.0]), (list(range(13)), [10.0 * i for i in range(13)])):
        with pytest.raises(InputError):
            bore_order(numbers, along)


@given(st.floats(0.01, 6.0), st.floats(0.05, 1.5))
def test_passes_add_up_and_keep_the_limit(stock, limit):
    passes = split_passes(stock, limit)
    assert sum(passes) == pytest.approx(stock / 2.0, rel=1e-12) and max(passes) <= limit * (1 + 1e-9)
    assert passes[-1] <= min(passes) * (1 + 1e-12) and all(p > 0.0 for p in passes)


@given(st.floats(0.02, 0.4), st.floats(0.2, 1.6))
def test_half_the_feed_leaves_a_quarter_of_the_marks(feed, radius):
    coarse, fine = (cut_of(90.0, f, radius, 150.0, 500.0) for f in (feed, feed / 2.0))
    assert fine.rt_um == pytest.approx(coarse.rt_um / 4.0) and fine.minutes == pytest.approx(2.0 * coarse.minutes)


@pytest.mark.parametrize(
    "wrong", [(0.0, 0.1, 0.4, 100.0, 500.0), (90.0, -0.1, 0.4, 100.0, 500.0), (90.0, 0.1, 0.0, 100.0, 500.0)]
)
def test_what_cannot_turn_is_refused(wrong):
    with pytest.raises(InputError):
        cut_of(*wrong)
    with pytest.raises(InputError):
        split_passes(0.0, 0.2)
    with pytest.raises(InputError):
        window_at(0.0, 100.0, (800, 1200), (0.05, 0.15))


def test_a_speed_is_snapped_down_to_the_machine_s_step():
    steps = (110.0, 300.0, 850.0, 1200.0)
    assert [snapped_speed(v, steps) for v in (1199.0, 1200.0, 5000.0, 50.0)] == [850.0, 1200.0, 1200.0, 110.0]
    assert snapped_speed(777.0, ()) == 777.0


@given(st.floats(40.0, 200.0), st.floats(20.0, 500.0))
def test_a_window_by_speed_holds_that_speed_at_the_wall(bore, speed):
    window = window_by_speed(bore, (speed / 2.0, speed), (0.05, 0.15))
    assert cut_of(bore, 0.1, 0.4, 100.0, window.rpm_high).speed_m_per_min == pytest.approx(speed)


def test_a_slender_bar_sings_and_so_does_a_large_nose_fed_too_lightly():
    assert chatter_of(300.0, 40.0, 4.5, False, FeedCall.IN_WINDOW) == (ChatterBy.SLENDER, 7.5)
    assert chatter_of(300.0, 40.0, 4.5, True, FeedCall.IN_WINDOW) == (ChatterBy.SLENDER_WITH_LARGE_NOSE, 7.5)
    assert chatter_of(100.0, 50.0, 4.5, True, FeedCall.RUBS) == (ChatterBy.RUBS, 2.0)
    assert chatter_of(300.0, 40.0, 7.5, True, FeedCall.IN_WINDOW) is None, "so slender is still the most it may be"
    assert chatter_of(100.0, 60.0, 4.5, False, FeedCall.RUBS) is None, "a small nose does not rub"
    assert chatter_of(100.0, 60.0, 4.5, True, FeedCall.IN_WINDOW) is None
    with pytest.raises(InputError):
        chatter_of(0.0, 60.0, 4.5, False, FeedCall.RUBS)
    with pytest.raises(InputError):
        chatter_of(60.0, 0.0, 4.5, False, FeedCall.RUBS)


@pytest.mark.parametrize(
    ("radius", "rake", "how_far"),
    [
        (0.4, "positive", "YES YES YES CARE"),
        (0.6, "positive", "YES NO NO YES"),
        (0.8, "positive", "YES NO NO YES"),
        (0.8, "negative", "YES NO NO CARE"),
        (0.4, "negative", "YES NO NO CARE"),
    ],
)
def test_what_an_insert_is_fit_for(radius, rake, how_far):
    found = suitability(radius, rake, 0.6)
    assert [s.use.name for s in found] == ["THROUGH", "BLIND", "SEAT", "OFFSET"]
    assert " ".join(s.how_far.name for s in found) == how_far


def test_a_sharp_point_suits_nothing():
    with pytest.raises(InputError):
        suitability(0.0, "positive", 0.6)


@given(st.integers(10000, 30000), st.floats(0.05, 6.0), st.floats(0.05, 1.0))
def test_settings_are_whole_counts_and_end_on_the_last(counts, stock, limit):
    least, passes = 0.005, split_passes(stock, limit)
    settings = settings_in_counts(counts * least, passes, least)
    assert len(settings) == len(passes) and settings[-1] == pytest.approx(counts * least)
    assert all(abs(s / least - round(s / least)) < 1e-6 for s in settings)
    assert list(settings) == sorted(settings)
    start = settings[-1] - stock
    for setting, done in zip(settings, [sum(passes[: i + 1]) for i in range(len(passes))], strict=True):
        assert setting <= start + 2.0 * done + 1e-6  # never deeper than the exact pass


def test_a_micrometer_without_a_least_count_is_refused():
    with pytest.raises(InputError):
        settings_in_counts(105.0, (0.2, 0.1), 0.0)
