"""More of what random faults went unseen in: each worked by hand, on states made for it."""

from dataclasses import replace
from types import SimpleNamespace as Some

import numpy as np
import pytest

from redline_bore.core.errors import InputError
from redline_bore.core.gauging import Place
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.book_in import draft
from redline_bore.job.book_in.family_settings import set_on, settings_for
from redline_bore.job.bore import plan as bar_plan
from redline_bore.job.bore import tool_lessons
from redline_bore.job.call import shadow, walls
from redline_bore.job.gauge import plate, side_by_side
from redline_bore.job.hone import finding, model, shape, steps, track
from redline_bore.job.kinds.book_in import Promised
from redline_bore.job.kinds.fold import last_undoable
from redline_bore.job.kinds.gauge import BlockTemperature
from redline_bore.job.kinds.hone import StonesSet
from redline_bore.job.kinds.opinions import StudyBegan, StudyReadingBooked
from redline_bore.job.kinds.phrase import Where
from redline_bore.job.kinds.strikes import EntryRestored, EntryStruck
from redline_bore.job.words import bore_run, calls_beside, finish_pages, pistons, sign_off
from redline_bore.job.words import round as round_words
from tests.job.benches import after, but, longer, one_typed

METRIC = Show(Units.METRIC)
real_plan = bore_run.plan_of


@pytest.mark.parametrize(("digits", "taken"), [(20, True), (21, False)])
def test_a_count_of_so_many_digits_is_none(digits, taken):
    text = "4".rjust(digits, "0")
    if taken:
        assert draft._count(text) == 4
    else:
        with pytest.raises(InputError):
            draft._count(text)


def test_the_stones_of_a_family_come_back_and_none_where_none_were_set(ledger_of, shipped, state_of):
    bare = state_of("2041")
    stones = StonesSet(stones="vitrified_150", count=4, width_mm=10.0, length_mm=70.0)
    told = after(ledger_of("2041"), shipped, stones)
    kinds = [type(e) for e in settings_for(bare.book_in, {}, [set_on(bare)])]
    assert StonesSet not in kinds
    found = [e for e in settings_for(bare.book_in, {}, [set_on(bare), set_on(told)]) if isinstance(e, StonesSet)]
    assert [(e.count, e.width_mm, e.bedded) for e in found] == [(4, 10.0, None)]


def test_a_nose_is_a_sixty_fourth_or_a_thirty_second():
    assert {"small": pytest.approx(0.396875), "large": pytest.approx(0.79375)} == bar_plan.NOSE_MM


def test_a_deck_that_is_out_by_a_little_far_from_its_datum_leans_by_that_little(state_of):
    state = but(state_of("2041"), sleeving={"decks": (Some(rows_mm=((5.00, 5.02), (5.01, 5.03))),)})
    level = but(state_of("2041"), sleeving={"decks": (Some(rows_mm=((0.00, 0.02), (0.01, 0.03))),)})
    assert bar_plan.deck_lean(state) == pytest.approx(bar_plan.deck_lean(level))


@pytest.mark.parametrize(("taper", "fault"), [(0.05, tool_lessons.HoleFault.WIDE_TOP), (-0.05, tool_lessons.HoleFault.WIDE_BOTTOM)])  # fmt: skip
def test_a_tapered_hole_is_wide_where_it_is(shipped, taper, fault):
    hole = Some(
        sizes_mm=(100.0 + taper, 100.0), out_of_round_mm=None, mean_mm=100.0 + taper / 2.0, set_mm=100.0 + taper / 2.0
    )
    assert tool_lessons.faults_in(Some(figures=shipped), hole) == (fault,)


@pytest.mark.parametrize(("depths", "done"), [((20.0, 21.0), False), ((20.0, 160.0), True)])
def test_two_rings_of_wall_side_by_side_are_one(state_of, depths, done):
    state = state_of("2041")
    some = state.gauging.wall_readings[0]
    rows = tuple(replace(some, cylinder=1, depth_mm=d, clock_deg=c) for d in depths for c in (0.0, 90.0, 180.0, 270.0))
    found = walls.places_to_read(but(state, gauging={"wall_readings": rows}), 1)
    assert (found == ()) is done


def test_wear_that_may_be_on_one_side_takes_of_the_wall_that_is_sure(monkeypatch, state_of):
    state = state_of("2041")
    some = state.gauging.wall_readings[0]
    row = [replace(some, cylinder=1, depth_mm=40.0, clock_deg=c, wall_mm=9.0) for c in (0.0, 90.0, 180.0, 270.0)]
    found = {}
    for side in (0.0, 0.1):
        monkeypatch.setattr(walls, "_wear_side", lambda _s, _c, side=side: side)
        found[side] = walls._sure(state, 1, row, walls._outside(row, 105.0), 105.0)
    assert found[0.1] == pytest.approx(found[0.0] - 0.2)


def test_a_flaw_stands_on_its_own_side_whichever_way_round_it_is_counted():
    clocks = np.array([0.0, 90.0, 180.0, 270.0, 350.0])
    flaw = Some(top_mm=0.0, bottom_mm=10.0, clock_deg=5.0, width_deg=40.0, deep_low_mm=0.1, deep_high_mm=0.2)
    grid = shadow._defects((flaw,), np.array([5.0]), clocks, "high")
    assert grid.tolist() == [[0.2, 0.0, 0.0, 0.0, 0.2]]


def test_places_a_hair_apart_are_one_place_under_the_plate_and_without():
    def level(clock):
        spots = tuple(Some(clock_deg=c, size_mm=100.0) for c in (0.0, clock))
        return Some(depth_mm=20.0, spots=spots)

    assert plate._compared(level(90.0), level(90.04)).clocks_deg == (0.0, 90.0)
    assert plate._compared(level(90.0), level(90.06)).clocks_deg == (0.0,)


def test_of_three_cylinders_the_turned_one_is_told():
    lines = [Some(long_axis_deg=a) for a in (90.0, 88.0, 10.0)]
    assert side_by_side._turned(lines[2], lines)
    assert not side_by_side._turned(lines[2], lines[1:])  # of two nobody can say which


def test_an_oval_that_went_out_with_the_old_wall_is_not_honed_out(monkeypatch):
    state = Some(honing=Some(checks_of=lambda _c: ()), sleeving=Some(after_of=lambda _c: None))
    levels = (
        Some(fit=Some(out_of_round_second_harmonic_mm=0.04)),
        Some(fit=Some(out_of_round_second_harmonic_mm=None)),
    )
    monkeypatch.setattr(model, "hole_of", lambda _s, _c: None)
    monkeypatch.setattr(model, "shape_of", lambda _s, _c: Some(levels=levels))
    assert model._second_harmonic(state, 1) == pytest.approx(0.01)
    sleeved = Some(honing=state.honing, sleeving=Some(after_of=lambda _c: object()))
    assert model._second_harmonic(sleeved, 1) is None


def test_a_set_up_is_known_by_what_was_honed_with_it():
    def honed(*strokes):
        checks = tuple(Some(seq=10 + i, strokes=s) for i, s in enumerate(strokes))
        return shape._honed_so(Some(honing=Some(checks_of=lambda _c: checks, run_since=5)), 1)

    assert [honed(), honed(0.0), honed(1.0), honed(0.5), honed(4.0, 4.0), honed(0.0, 4.0)] == [
        False,
        False,
        True,
        True,
        False,
        True,
    ]


def test_each_step_is_judged_by_the_marks_of_the_one_before_and_peaks_cut_off_leave_them(state_of):
    state = state_of("2036")
    stages = steps.stages_of(state, 1)
    assert stages[0].rz_before_um is None and any(x.stones in steps.PEAKS_ONLY for x in stages)
    for before, stage in zip(stages, stages[1:], strict=False):
        kept = before.stones in steps.PEAKS_ONLY and before.rz_before_um is not None
        assert stage.rz_before_um == (before.rz_before_um if kept else steps.rz_of(state, before.stones))
    own = but(
        state,
        honing={
            "own": Some(
                steps=("a", "b", "c"),
                short_mm=(0.02, 0.01, 0.0),
                stones=("vitrified_150", stages[-1].stones, "vitrified_280"),
            )
        },
    )
    own = but(
        own, booking={"practices": (*((t, n) for t, n in state.booking.practices if t != "honing"), ("honing", "own"))}
    )
    three = steps.stages_of(own, 1)
    assert three[2].rz_before_um == three[1].rz_before_um == steps.rz_of(state, "vitrified_150")


@pytest.mark.parametrize(
    ("side_um", "stands", "figures"),
    [(2.0, "SOUND", (4.0, 8.0)), (2.5, "LOOK", (2.5, 4.0)), (4.0, "STOP", (4.0, 4.0)), (9.0, "STOP", (9.0, 4.0))],
)
def test_light_strokes_that_would_erase_the_valleys_are_told_with_their_figures(side_um, stands, figures):
    light = next(iter(steps.PEAKS_ONLY))
    call = steps._judged(side_um / 500.0, 0.0, light, (4.0, 8.0))
    assert call.stands is steps.StageStands[stands] and call.um == pytest.approx(figures)


@pytest.mark.parametrize(
    ("grown", "fresh", "told"), [((0.0, 0.0, 0.0005), (), True), ((0.0, 0.0, 0.0005), (2,), False), ((0.0, 0.03, 0.06), (), False)]
)  # fmt: skip
def test_stones_that_take_nothing_are_told_from_the_third_check(grown, fresh, told):
    checks = tuple(Some(seq=i + 1, strokes=100.0 * i, mean_mm=100.0 + g) for i, g in enumerate(grown))
    state = Some(honing=Some(fresh_between=lambda a, b: any(a < q < b for q in fresh)))
    assert track.gives_no_metal(state, checks, 2, 0.001) is told
    assert not track.gives_no_metal(state, checks, 1, 0.001)


@pytest.mark.parametrize(
    ("typed", "day"),
    [
        ("promised 2026-12-05", "2026-12-05"), ("promised 2026-02-11", "2026-02-11"), ("promised 3 Mar 2025", "2025-03-03"),
        ("promised 3 Mar", "2027-03-03"), ("promised 12 Dec", "2026-12-12"), ("promised 24 Nov", "2026-11-24"), ("promised 23 Nov", "2027-11-23"),
    ],
)  # fmt: skip
def test_the_day_promised_is_the_next_one_of_that_name_unless_its_year_is_said(state_of, typed, day):
    assert one_typed("gauge", typed, state_of("2041"), Where(1, Place(0, 0), Units.METRIC), "2026-11-24") == Promised(
        day=day
    )


def test_neither_a_strike_nor_a_restoring_is_what_backspace_takes_back(ledger_of):
    ledger = longer(ledger_of("2041"), BlockTemperature(block_c=21.0))
    last = ledger[-1].seq
    struck = longer(ledger, EntryStruck(seq=last))
    assert last_undoable(ledger).seq == last and last_undoable(struck).seq < last
    assert last_undoable(longer(struck, EntryRestored(seq=last))).seq == last


def test_a_study_s_reading_goes_to_the_newest_study_and_leaves_the_others(ledger_of, shipped):
    begun = [StudyBegan(instrument=f"gauge {n}", resolution_mm=0.001) for n in range(3)]
    read = [StudyReadingBooked(spot="a", value_mm=100.0 + n / 1000.0) for n in range(2)]
    studies = after(ledger_of("2047"), shipped, *begun[:2], read[0], begun[2], read[1]).comparing.studies[-3:]
    assert [(x.instrument, len(x.values)) for x in studies] == [("gauge 0", 0), ("gauge 1", 1), ("gauge 2", 1)]


@pytest.mark.parametrize(("rebuilds", "said"), [(0, "none"), (2, "2")])
def test_rebuilds_left_are_said_as_a_number_or_none(monkeypatch, state_of, rebuilds, said):
    real = calls_beside.call_as_option
    monkeypatch.setattr(calls_beside, "call_as_option", lambda *given: replace(real(*given), rebuilds_left=rebuilds))
    lines = {line.label: line.value for line in calls_beside.side_of(state_of("2041"), 0.5, (), METRIC).lines}
    assert lines["rebuilds left after"] == said


def test_a_piston_that_is_measured_without_a_finish_is_still_not_worked_out(state_of):
    fit = Some(cylinder=1, piston_mm=79.9, finish_mm=None, doubt_mm=None, over_nominal_mm=None)
    assert pistons._figures(state_of("2041"), fit, METRIC)[0].value == "not measured"


@pytest.mark.parametrize(("clearance", "doubt"), [(None, 0.004), (0.06, None), (None, None)])
def test_a_clearance_without_its_doubt_is_not_known(clearance, doubt):
    row = Some(cylinder=2, clearance_mm=clearance, doubt_mm=doubt, short=False)
    assert sign_off._line(row, METRIC).value == "not known"


def test_the_bar_is_set_to_its_figure_until_the_hole_is_done(monkeypatch, state_of):
    state = state_of("2036")
    for done in (None, bore_run.hole_of(state, 1)):
        monkeypatch.setattr(bore_run, "plan_of", lambda s, c: replace(real_plan(s, c), setting_mm=88.123))
        monkeypatch.setattr(bore_run, "hole_of", lambda _s, _c, done=done: done)
        said = " ".join(str(item) for item in bore_run.run_of(state, 1, METRIC))
        assert ("to 88.123" in said) is (done is None)


@pytest.mark.parametrize("lobe", [None, 0.004])
def test_three_lobes_are_said_where_they_were_found(monkeypatch, state_of, lobe):
    cut = Some(level=None, doubt=None, three=Some(fit=Some(mean_mm=105.0, lobe_mm=lobe)), swept=None)
    labels = [line.label for line in round_words._figures(state_of("2041"), cut, None, METRIC)]
    assert ("three lobes, on radius" in labels) is (lobe is not None)


@pytest.mark.parametrize(("warm", "cold", "told"), [(20.0, 14.0, None), (20.5, 14.0, 20.5), (26.0, 25.9, None)])
def test_a_block_at_twenty_is_never_too_warm(shipped, warm, cold, told):
    checks = (Some(block_c=cold, strokes=0.0), Some(block_c=warm, strokes=10.0))
    state = Some(figures=shipped, honing=Some(checks_of=lambda _c: checks))
    p = Some(last=checks[-1], cylinder=1, checks=checks, tracked=Some(to_aim_mm=0.0))
    assert finding.too_warm(state, p) == told


@pytest.mark.parametrize(("nose", "name"), [(0.59, "small_positive"), (0.6, "large_positive"), (0.8, "large_positive")])
def test_an_insert_of_the_large_nose_s_own_size_is_a_large_one(shipped, nose, name):
    assert bar_plan.window_name(Some(figures=shipped), nose, "positive") == name


@pytest.mark.parametrize(("had", "done"), [(9.0, False), (10.0, True), (11.0, True)])
def test_the_strokes_for_the_windows_are_done_at_their_count(monkeypatch, had, done):
    forecast = Some(
        stretch_um=(1.0, 2.0), stop_at=10, sure=(10, 12), had=had, begins=0.0, cylinder=1, failing=(), rate=Some(low_um=0.1),
    )  # fmt: skip
    monkeypatch.setattr(finish_pages, "judge", lambda _s, _c: Some(call=None))
    monkeypatch.setattr(finish_pages, "finish_of", lambda _s, _c: Some(current=False, fine=False))
    assert ("are done" in finish_pages._plateau_sentence(Some(), forecast, METRIC).sentence) is done
