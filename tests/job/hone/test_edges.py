"""Edges that random faults went unseen at, each worked by hand: the set-up, the steps and the ends."""

import math
from dataclasses import replace
from types import SimpleNamespace as Some

import pytest

from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.call import light_options
from redline_bore.job.call.option import MAY, NO
from redline_bore.job.call.reason import Why
from redline_bore.job.card import Mark
from redline_bore.job.gauge.hole import Out
from redline_bore.job.hone import model, progress, set_up, shape, steps, stock_ledger, track
from redline_bore.job.hone.finding import HoneCall
from redline_bore.job.hone.load import BesideGauge, LoadPicture
from redline_bore.job.hone.set_up import SetUpWhy
from redline_bore.job.redline import Redline
from redline_bore.job.words import hone as hone_words
from redline_bore.job.words import hone_pages
from redline_bore.job.words.load import gauge_words
from tests.job.benches import but

METRIC = Show(Units.METRIC)


@pytest.mark.parametrize(
    "past, standing, why",
    [
        (1.1, NO, Why.GAP_TAPER),
        (0.9, MAY, Why.GAP_TAPER_CLOSE),
        (-0.9, MAY, Why.GAP_TAPER_CLOSE),
        (-1.1, MAY, Why.GAP_TAPER),
    ],
)
def test_a_taper_by_ring_gaps_is_close_within_the_feelers_doubt(monkeypatch, shipped, past, standing, why):
    limit = shipped.number("limits.deglaze_taper")
    u = math.sqrt(2.0) * shipped.number("gauging.feeler_u") / math.pi
    monkeypatch.setattr(light_options, "gap_taper", lambda state, c: limit + past * u)
    found = light_options.by_ring_gaps(Some(cylinders=(1, 2), figures=shipped), "deglaze")
    assert (found.standing, found.reasons[0].why) == (standing, why)


def test_a_hard_band_begins_at_the_deck(state_of):
    state = state_of("2036")
    with_band = but(state, booking={"book_in": replace(state.book_in, block=replace(state.block, band_mm=30.0))})
    assert model._hard_band(with_band) == ((0.0, 30.0, state.figures.number("stones.hard_band_cuts")),)
    without = but(state, booking={"book_in": replace(state.book_in, block=replace(state.block, band_mm=None))})
    assert model._hard_band(without) == ()


@pytest.mark.parametrize("past_u, over", [(1.0, False), (1.0 + 2e-6, True), (0.0, False), (-1.0, False)])
def test_it_is_over_once_it_is_past_by_more_than_u(past_u, over):
    ends = Some(redline_mm=80.0, top_mm=80.02, u_mm=0.005)
    last = Some(mean_mm=80.0 + past_u * 0.005, largest_mm=80.0 + past_u * 0.005)
    found = progress.Progress(1, None, ends, None, 0, (), last, None, None, None, None, False)
    assert found.over is over


def test_the_end_of_a_step_is_its_own(monkeypatch):
    monkeypatch.setattr(progress, "shorts_of", lambda state: (0.05, 0.012, 0.0))
    ends = Some(redline_mm=80.0)
    assert [progress._target(None, ends, s) for s in (0, 1, 2, 3)] == pytest.approx([79.95, 79.988, 80.0, 80.0])
    assert progress._target(None, None, 0) is None


def test_a_load_that_was_not_set_counts_as_the_roughing_load(shipped):
    state = Some(figures=shipped)
    rough = shipped.number("honing.rough_load")
    assert set_up.load_share(state, None) == 1.0 and set_up.load_share(state, rough / 2.0) == pytest.approx(0.5)


@pytest.mark.parametrize("turn", [0, 1, 2])
def test_a_stones_end_turns_round_at_three_places(monkeypatch, shipped, turn):
    monkeypatch.setattr(set_up, "stone_mm", lambda state: 60.0)
    stroke, near = Some(over_bottom_mm=10.0, over_top_mm=8.0), shipped.number("honing.pin_hole_near")
    places = (
        110.0,
        50.0,
        52.0,
    )  # of a hole of 100: the lower end at the bottom, the upper end there, the lower end at the top
    for off, wanted in ((0.0, True), (0.9 * near, True), (1.1 * near + 3.0, False)):
        note = Some(depth_mm=places[turn] + off, what="pin hole")
        state = Some(figures=shipped, block=Some(length_mm=100.0), boring=Some(cut_notes=(note,)))
        assert bool(set_up._openings(state, stroke)) is wanted


@pytest.mark.parametrize("edge, off, told", [(0, 0.4, False), (0, 0.6, True), (1, 0.4, False), (1, 0.6, True)])
def test_a_speed_is_told_half_a_metre_out_of_what_is_usual(shipped, edge, off, told):
    at = shipped.row("honing.axial_speed")[edge] + (off if edge else -off)
    inside = sum(shipped.row("honing.surface_speed_vitrified")) / 2.0
    state = Some(figures=shipped, honing=Some(stones=None))
    found = set_up._speed_looks(state, Some(machine="vertical"), Some(rotary_m_per_min=inside, axial_m_per_min=at))
    assert [r.why for r in found] == ([SetUpWhy.STROKES] if told else [])


@pytest.mark.parametrize("share, told", [(0.49, True), (0.5, False), (0.75, False), (0.76, True)])
def test_a_stone_is_half_to_three_quarters_of_the_hole(monkeypatch, share, told):
    monkeypatch.setattr(set_up, "stone_mm", lambda state: 200.0 * share)
    state = Some(block=Some(length_mm=200.0), honing=Some(stones=Some(bedded=True)))
    assert [r.why for r in set_up._stone_looks(state)] == ([SetUpWhy.STONE_SHARE] if told else [])


def test_an_open_end_is_closed_by_less_dwell_first(monkeypatch, shipped):
    monkeypatch.setattr(shape, "stone_mm", lambda state: 100.0)
    state, step = Some(figures=shipped), shipped.number("honing.dwell_step")
    waits = shape._end(state, -0.01, 0.005, 0.005, 20.0, 1.0, 40.0)
    assert waits == (20.0, round(1.0 - 2.0 * step, 1))
    still = shape._end(state, -0.01, 0.005, 0.005, 20.0, 0.0, 40.0)
    assert still.dwell_s == 0.0 and still.over_mm < 20.0
    assert shape._end(state, 0.004, 0.005, 0.005, 20.0, 1.0, 40.0) == (20.0, 1.0)


@pytest.mark.parametrize("step, wanted", [(0, 0.012), (1, 0.0), (2, 0.0)])
def test_what_a_plateau_still_takes_is_kept_back_before_the_last_step(monkeypatch, step, wanted):
    monkeypatch.setattr(track, "shorts_of", lambda state: (0.012, 0.0))
    monkeypatch.setattr(track, "plateau_takes", lambda state: 0.02)
    monkeypatch.setattr(track, "between_places", lambda state, check: 0.001)
    ends = track.Ends(80.0, 79.98, 80.02, 0.005)
    aim = track.aim_of(None, ends, Some(largest_mm=79.9, mean_mm=79.9), step)
    assert aim.kept_mm == wanted


def test_the_window_of_a_hole_stands_on_its_piston(state_of):
    state = state_of("2036")
    for c in state.cylinders:
        ends, r = track.ends_of(state, c), progress.progress_of(state, c).redline
        piston = state.calling.piston(c).size_mm
        assert (ends.low_mm, ends.top_mm) == pytest.approx((piston + r.window.low_mm, piston + r.window.high_mm))
        assert ends.low_mm < ends.redline_mm < ends.top_mm


@pytest.mark.parametrize(
    "strokes, wanted",
    [((0.0, 20.0), True), ((0.0, 0.0), False), ((20.0, 10.0), False), ((0.0,), False), ((0.0, 10.0, 30.0), True)],
)
def test_how_fast_a_step_went_is_known_once_a_bite_of_it_was_read(monkeypatch, strokes, wanted):
    checks = [Some(strokes=s) for s in strokes]
    monkeypatch.setattr(track, "checks_in", lambda state, c, step: checks)
    monkeypatch.setattr(track, "_starting_rate", lambda *a: 0.001)
    monkeypatch.setattr(track, "_seen", lambda *a: [1, 2, 3, 4])
    monkeypatch.setattr(track, "_rules", lambda *a: None)
    monkeypatch.setattr(track, "followed", lambda seen, *a: Some(rate_mm=float(len(seen))))
    state = Some(last_seq=1, figures=Some(number=lambda k: 0.3))
    found = track._rates_of.__wrapped__(state, 1, 0)
    assert found == (track.StepRates(3.0, 4.0) if wanted else None)


def test_seconds_are_asked_of_the_last_step(monkeypatch, shipped):
    heard = []
    monkeypatch.setattr(steps, "practice_of", lambda state: Some(steps=("a", "b", "c")))
    monkeypatch.setattr(steps, "seconds_a_stroke", lambda state, step: heard.append(step))
    assert steps.light_strokes(Some(figures=shipped)) == shipped.row("honing.plateau_strokes") and heard == [2]


@pytest.mark.parametrize("by, word", [(0.01, "tight"), (0.6, "tight"), (-0.01, "open")])
def test_the_end_that_asks_for_it_is_named(by, word):
    form = Some(tight_top_mm=by, tight_bottom_mm=0.0)
    to = Some(over_top_mm=20.0, over_bottom_mm=20.0, dwell_top_s=0.0, dwell_bottom_s=0.0)
    assert word in hone_words._set_words(form, to, METRIC)


@pytest.mark.parametrize(
    "size, window, provisional, wanted",
    [(80.07, 0.07, True, 80.0), (80.07, 0.07, False, None), (None, 0.07, True, None)],
)
def test_the_piston_a_provisional_redline_is_for(size, window, provisional, wanted):
    found = Redline(size, None, None, Some(aim_mm=window), None, provisional).piston_mm
    assert found == (None if wanted is None else pytest.approx(wanted))


@pytest.mark.parametrize("step, peaks", [(0, False), (1, True), (2, True)])
def test_no_set_up_is_told_where_only_peaks_are_cut(monkeypatch, state_of, step, peaks):
    state = state_of("2036")
    monkeypatch.setattr(shape, "stones_of", lambda state: ("vitrified_150", "brush_600"))
    monkeypatch.setattr(shape, "_honed_so", lambda state, c: True)
    run = replace(
        state.honing.run, machine="vertical", over_top_mm=10.0, over_bottom_mm=3.0, dwell_top_s=0.0, dwell_bottom_s=0.0
    )
    there = but(state, honing={"run": run})
    monkeypatch.setattr(type(there.honing), "step_of", lambda self, c: step)
    last = Some(sizes_mm=(83.0, 83.1, 83.0))
    assert (shape._set_to(there, 1, last, 0.1, 0.1) is None) is peaks


@pytest.mark.parametrize(
    "sizes, said",
    [
        (((83.0,), (83.0,)), False), (((83.02, 83.0), (83.03,)), False), (((83.00, 83.00), (83.04, 83.0)), True),
        (((83.04, 83.0), (83.00, 83.0)), False), (((83.0,), (83.0, 83.0), (83.0, 83.04)), True),
    ],
)  # fmt: skip
def test_a_taper_that_grows_is_told_of_checks_at_several_depths(state_of, sizes, said):
    checks = tuple(Some(sizes_mm=s, by_depth_mm=s) for s in sizes)
    notes = hone_words._taper_notes(state_of("2047"), Some(checks=checks, at_size=False), METRIC)
    assert bool(notes) is said
    if said:
        assert notes[0].startswith("Taper grew by 0.040") and ("bottom is tight" in notes[0]) is (
            sizes[-1][0] > sizes[-1][-1]
        )
    assert hone_words._taper_notes(state_of("2047"), Some(checks=checks, at_size=True), METRIC) == []


@pytest.mark.parametrize(
    "sizes, tight_at, found",
    [
        ((83.000, 83.000, 83.000), 10.0, BesideGauge.EVEN), ((83.000, 83.004, 83.004), 10.0, BesideGauge.EVEN),
        ((83.000, 83.005, 83.005), 10.0, BesideGauge.THERE_TOO), ((83.000, 83.005, 83.005), 90.0, BesideGauge.ELSEWHERE),
        ((83.005, 83.005, 83.000), 90.0, BesideGauge.THERE_TOO), ((83.005, 83.005, 83.000), 10.0, BesideGauge.ELSEWHERE),
        ((83.000, 83.005), 10.0, BesideGauge.READ_THREE), (None, 10.0, BesideGauge.READ_THREE),
    ],
)  # fmt: skip
def test_a_tight_load_beside_what_the_gauge_can_tell(sizes, tight_at, found):
    depths, loads = (10.0, 50.0, 90.0), tuple(30.0 if d == tight_at else 20.0 for d in (10.0, 50.0, 90.0))
    wall = None if sizes is None else Some(depths_mm=depths[: len(sizes)], sizes_mm=sizes)
    picture = LoadPicture(1, depths, loads, 3, 5.0, wall, 100.0, 0.0041)
    assert picture.tight.depth_mm == tight_at and picture.beside_gauge is found
    assert ("chips" in gauge_words(picture, METRIC)) is (found in (BesideGauge.EVEN, BesideGauge.ELSEWHERE))
    assert LoadPicture(1, depths, (20.0,) * 3, 3, 5.0, wall, 100.0, 0.0041).beside_gauge is None


@pytest.mark.parametrize(
    "out, top, bottom, told",
    [
        ((), 0.02, 0.0, ""),
        ((Out.TAPER,), 0.02, 0.01, "The top is tight by 0.020 mm: dwell there, or work it with short strokes."),
        ((Out.TAPER,), 0.01, 0.03, "The bottom is tight by 0.030 mm: dwell there, or work it with short strokes."),
        ((Out.BULGE,), 0.01, -0.03, "The bottom is open by 0.030 mm: run out less there."),
        ((Out.OVAL, Out.BULGE), -0.04, 0.01, "The top is open by 0.040 mm: run out less there."),
        ((Out.TIGHT,), 0.0, 0.0, "142 mm down it is still under its window: work it there."),
        ((Out.OVAL,), 0.0, 0.0, "It is 0.030 mm out of round."),
        ((Out.WIDE,), 0.0, 0.0, "Its largest place is over its window."),
    ],
)
@pytest.mark.parametrize("call", [HoneCall.FIRST_BITE, HoneCall.STROKES])
def test_a_shape_that_is_out_is_said_with_the_strokes_and_what_a_hand_does(out, top, bottom, told, call):
    hole = Some(taper_mm=0.01, bulge_mm=0.01, out_of_round_mm=0.030)
    crooked = Some(out=out, hole=hole, tight_top_mm=top, tight_bottom_mm=bottom, depth_mm=142.0, set_to=None)
    p = Some(redline=Some(missing=None), step_name="coarse", last=None, ends=None, checks=())
    found = Some(
        progress=p, call=call, shape=crooked, bite=6, least=11, most=30, grown=0.0, done=0, cylinder=1, over_mm=0.0, left_mm=0.01,
        warm_c=20.0, next_step="plateau", stroke_s=None, creeping=False, wrong=None,
    )  # fmt: skip
    assert hone_words._crooked_words(found, METRIC) == told
    sentence, mark = hone_words.say(found, METRIC)
    assert sentence.endswith(told or "gauge.") or not told
    assert mark is (Mark.LOOK if told else Mark.PLAIN)


@pytest.mark.parametrize("load, share", [(None, 20.0), (35.0, 35.0)])
def test_the_force_is_that_of_the_load_that_is_set_else_of_roughing(shipped, load, share):
    run = Some(load=load)
    figures = shipped.with_own({"honing.rough_load": 20.0})
    state = Some(honing=Some(run=run), figures=figures)
    full = figures.number("honing.full_force")
    assert model.force_of(state) == pytest.approx(full * share / 100.0)
    assert model.force_of(Some(honing=Some(run=None), figures=figures)) == pytest.approx(full * 0.2)


@pytest.mark.parametrize(
    "start, short, stands",
    [
        (0.010, 0.004, steps.StageStands.SOUND),
        (0.004, 0.010, steps.StageStands.STOP),
        (None, 0.004, steps.StageStands.LOOK),
    ],
)
def test_a_step_ends_nearer_the_redline_than_it_begins(start, short, stands):
    found = steps._judged(start, short, "vitrified_220", (1.0, 2.5))
    assert found.stands is stands
    if stands is steps.StageStands.SOUND:
        assert found == steps._judged(0.010, 0.005, "vitrified_220", (1.0, 2.5)), "3 um a side takes out 2.5"
        assert steps._judged(0.010, 0.0051, "vitrified_220", (1.0, 2.5)).stands is steps.StageStands.LOOK


@pytest.mark.parametrize(
    "light, bite, done", [(0, 0, False), (1, 0, True), (1, 1, False), (1, 5, False), (8, 5, True), (7, 1, False)]
)
def test_a_plateau_is_done_by_its_count_or_where_no_whole_stroke_is_safe(monkeypatch, shipped, light, bite, done):
    monkeypatch.setattr(progress, "shorts_of", lambda state: (0.0025, 0.0))
    monkeypatch.setattr(progress, "sizing_step", lambda state: 0)
    monkeypatch.setattr(progress, "light_strokes", lambda state: (8, 20))
    checks = (Some(strokes=float(light)),) if light else ()
    found = progress._done(Some(figures=shipped), 1, Some(bite=bite, to_aim_mm=0.001), checks)
    assert found is done


@pytest.mark.parametrize(
    "included, looks", [(17.96, False), (17.94, True), (30.0, False), (45.04, False), (45.06, True)]
)
def test_an_angle_a_hair_out_of_its_aim_is_in_it(monkeypatch, included, looks):
    monkeypatch.setattr(set_up, "angle_aim", lambda state: Some(low_deg=18.0, high_deg=45.0))
    state = Some(honing=Some(run=None))
    assert bool(set_up._angle_looks(state, Some(included_deg=included))) is looks


def test_a_hole_from_the_bar_stands_in_the_stock_ledger_as_warm_as_it_was(monkeypatch):
    stock = Some(strokes=None, removed_mm=0.4, name="bar")
    monkeypatch.setattr(stock_ledger, "step_stock", lambda state, c, p: (stock,))
    monkeypatch.setattr(stock_ledger, "progress_of", lambda state, c: None)
    monkeypatch.setattr(stock_ledger, "practice_of", lambda state: Some(steps=("coarse",)))
    for holes, warm, tool in (
        ((), None, ""),
        ((Some(cylinder=1, block_c=None, tool=("bar", "TPG")),), None, "TPG"),
        ((Some(cylinder=1, block_c=31.0, tool=("bar", "TPG")),), (31.0, 31.0), "TPG"),
        ((Some(cylinder=2, block_c=31.0, tool=("bar", "TPG")),), None, ""),
    ):
        (cell,) = stock_ledger._row(Some(boring=Some(holes=holes)), 1).cells
        assert (cell.removed_mm, cell.block_c) == (0.4, warm)
        assert cell.stones == tool


@pytest.mark.parametrize("tracked, strokes", [(None, 20), (Some(bite=50), 20), (Some(bite=6), 6), (Some(bite=0), 1)])
def test_a_hand_stops_by_the_shops_count_or_by_what_is_left(monkeypatch, shipped, tracked, strokes):
    monkeypatch.setattr(hone_pages, "progress_of", lambda state, c: Some(tracked=tracked))
    state = Some(figures=shipped.with_own({"honing.clean_every": 20.0}))
    assert hone_pages.present_strokes(state, 1) == strokes
