"""Where random faults went unseen in the job, a third time: each worked by hand."""

from dataclasses import replace
from types import SimpleNamespace as Some

import pytest

from redline_bore.core.block import Layout, Numbering
from redline_bore.core.errors import InputError
from redline_bore.core.gauging import Place
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.job.book_in import draft
from redline_bore.job.call import walls
from redline_bore.job.card import Mark
from redline_bore.job.finish import plateau
from redline_bore.job.gauge import plate, second_opinion, side_by_side
from redline_bore.job.gauge.second_opinion import Settles
from redline_bore.job.hone import finding, model, track
from redline_bore.job.hone.load import Dwell, LoadPicture
from redline_bore.job.kinds.gauge import SpindleSet
from redline_bore.job.kinds.hone import HoneSet
from redline_bore.job.kinds.phrase import Where
from redline_bore.job.route import first_step, steps_of
from redline_bore.job.words import bore, defects, readings, study
from tests.job.benches import after, but, one_typed, spindle, swept

METRIC = Show(Units.METRIC)
HERE = Where(1, Place(0, 0), Units.METRIC)


def test_the_step_after_the_last_stamp_is_the_last_step(state_of):
    signed = state_of("2036")
    assert first_step(signed) == steps_of(signed)[-1] == "sign_off"
    assert first_step(state_of("2041")) == "call"


@pytest.mark.parametrize(
    ("stones", "loads", "sd"),
    [(("a", "a", "a"), (4.0, 4.0, 4.0), 0.0), (("a", "a", "b"), (4.0, 4.0, 4.0), track.CHANGED_SD), (("a", "a", "a"), (4.0, 4.0, 6.0), track.CHANGED_SD)],
)  # fmt: skip
def test_other_stones_or_another_load_each_make_a_rate_less_sure(state_of, stones, loads, sd):
    state = state_of("2036")
    like = state.honing.checks_of(1)[0]
    checks = tuple(
        replace(like, seq=500 + i, strokes=10.0 * i, stones=s, load=load)
        for i, (s, load) in enumerate(zip(stones, loads, strict=True))
    )
    assert [s.changed for s in track._seen(state, checks, 0.001)] == [0.0, 0.0, sd]


def test_the_stone_that_reaches_the_bottom_goes_by_the_mean_of_the_traces(state_of):
    state = state_of("2036")
    traces = state.finishing.traces[:2]
    one, both = plateau.coarser_for(state, 1, traces[:1], 1.0), plateau.coarser_for(state, 1, traces[:1] * 2, 1.0)
    assert both == one, "the same wall traced twice asks for no other stone"


@pytest.mark.parametrize(
    ("depth", "what"),
    [(15.0, Dwell.TOP), (25.0, Dwell.SHORT_STROKES), (75.0, Dwell.SHORT_STROKES), (85.0, Dwell.BOTTOM)],
)
def test_a_tight_stretch_near_an_end_is_dwelt_on(depth, what):
    depths = tuple(float(d) for d in range(5, 100, 10))
    loads = tuple(60.0 if d == depth else 30.0 for d in depths)
    assert LoadPicture(1, depths, loads, 40, 3.0, None, 100.0, 0.005).dwell is what


@pytest.mark.parametrize("count", [3, 5])
def test_ends_are_held_against_the_middle_of_a_check(state_of, count):
    state = state_of("2036")
    sizes = tuple(100.0 + (0.010 if i == count // 2 else 0.0) for i in range(count))
    check = replace(state.honing.checks_of(1)[-1], sizes_mm=sizes, across_mm=())
    honed = but(state, honing={"checks": type(state.honing.checks)((check,))})
    found = Some(cylinder=1, sizes_at=lambda places: [100.0] * len(places))
    assert model.against_plan(honed, found) == pytest.approx((-0.010, -0.010))


@pytest.mark.parametrize(("thick", "taken"), [(12.0, False), (10.4, True)])
def test_a_gasket_is_thinner_than_a_tenth_of_the_bore(state_of, thick, taken):
    state = state_of("2041")
    line = f"chamber 120 dish 4.5 gasket 107 x {thick} deck 0.35"
    if taken:
        assert one_typed("call", line, state, HERE).gasket_thickness_mm == thick
    else:
        with pytest.raises(InputError):
            one_typed("call", line, state, HERE)


def test_seconds_become_strokes_to_a_hundredth(ledger_of, shipped):
    run = HoneSet(machine="vertical", rpm=170.0, strokes_per_min=55.0)
    state = after(ledger_of("2036"), shipped, run)
    assert one_typed("hone", "40.1 s 3.2500 3.2500 3.2500", state, replace(HERE, units=Units.INCH)).strokes == 36.76


def test_a_sweep_of_another_cylinder_than_the_spindles_stands_alone(ledger_of, shipped):
    state = after(ledger_of("2041"), shipped, spindle(2), swept(1, 40.0, 105.0), swept(2, 40.0, 105.0), swept(2, 60.0, 105.0))  # fmt: skip
    alone, first, second = state.gauging.sweeps_of(1)[-1], *state.gauging.sweeps_of(2)[-2:]
    assert alone.set_up == alone.seq and first.set_up == second.set_up == state.gauging.spindle.seq
    bare = after(ledger_of("2047"), shipped, swept(1, 40.0, 78.0))
    assert bare.gauging.sweeps_of(1)[-1].set_up == bare.gauging.sweeps_of(1)[-1].seq
    assert isinstance(spindle(1), SpindleSet)


@pytest.mark.parametrize(("cylinders", "said"), [(2, "1 and 2"), (4, "1 to 2 and 3 to 4"), (6, "1 to 3 and 4 to 6"), (8, "1 to 4 and 5 to 8")])  # fmt: skip
def test_banks_are_counted_in_halves(state_of, cylinders, said):
    state = state_of("2047")
    block = replace(state.block, layout=Layout.VEE, cylinders=cylinders, numbering=Numbering.NOT_SAID)
    line = readings._numbered(replace(state, booking=replace(state.booking, book_in=Some(block=block)), memo={}))
    assert line.value == f"{said}, as nobody said"


def test_the_worst_defect_is_the_one_that_costs_most():
    effects = tuple(
        Some(adds_high_mm=a, decides=True, defect=Some(what=what, stops=False))
        for what, a in (("pit", 0.01), ("score", None), ("rust ring", 0.09), ("smear", 0.02))
    )
    found = defects._sentence(1, effects, METRIC)
    assert found.sentence == "The rust ring costs up to 0.090 mm on diameter."


@pytest.mark.parametrize(
    ("upper", "lower", "at_deck", "at_end"),
    [  # walls all round 60 and 150 mm down, and what counts at the deck and at the end, 210 mm down: never thicker than the row next to it
        (9.0, 6.0, 9.0, 4.0),
        (6.0, 9.0, 4.0, 9.0),
        (6.0, 6.0, 6.0, 6.0),
    ],
)
def test_beyond_the_rows_a_wall_goes_on_as_between_them_where_that_is_thinner(
    state_of, monkeypatch, upper, lower, at_deck, at_end
):
    state = state_of("2041")
    some = state.gauging.wall_readings[0]
    monkeypatch.setattr(walls, "axis_shift", lambda *_a: (0.0, 0.0))
    monkeypatch.setattr(walls, "_wear_side", lambda *_a: 0.0)
    monkeypatch.setattr(walls, "_doubt", lambda *_a: 0.25)
    limits = min(walls.wall_limits(state).values()), max(walls.wall_limits(state).values())
    rows = []
    for depth, wall in ((60.0, upper), (150.0, lower)):
        row = [replace(some, cylinder=1, depth_mm=depth, clock_deg=c, wall_mm=wall) for c in (0.0, 90.0, 180.0, 270.0)]
        rows.append((row, walls._outside(row, 105.0)))
    found = [walls._beyond(state, 1, *rows, depth, 105.0) for depth in (0.0, 210.0)]
    assert limits[0] <= limits[1]
    assert found == pytest.approx([105.0 + 2.0 * (wall - 0.25 - limits[1]) for wall in (at_deck, at_end)], abs=1e-6)


@pytest.mark.parametrize(("marks", "mark"), [(0.05, Mark.PLAIN), (0.08, Mark.PLAIN), (0.10, Mark.LOOK)])
def test_marks_of_another_cut_are_held_against_the_least_the_hone_takes(marks, mark):
    cut = Some(rpm=850.0, insert=True, what="", feed_mm=0.1, minutes=1.0, marks_mm=marks)
    assert bore._beside(cut, 1, Some(left_mm=(0.08, 0.15)), METRIC).mark is mark


def test_the_side_that_is_worn_most_takes_off_what_is_sure_of_a_wall(state_of, monkeypatch):
    state = state_of("2041")
    some = state.gauging.wall_readings[0]
    row = [replace(some, cylinder=1, depth_mm=60.0, clock_deg=c, wall_mm=6.0) for c in (0.0, 90.0, 180.0, 270.0)]
    monkeypatch.setattr(walls, "axis_shift", lambda *_a: (0.0, 0.0))
    monkeypatch.setattr(walls, "_wear_side", lambda *_a: 0.0)
    even = walls._sure(state, 1, row, walls._outside(row, 105.0), 105.0)
    monkeypatch.setattr(walls, "_wear_side", lambda *_a: 0.3)
    assert walls._sure(state, 1, row, walls._outside(row, 105.0), 105.0) == pytest.approx(even - 0.6, abs=1e-6)


@pytest.mark.parametrize(
    ("clock", "depth", "settles"),
    [(90.0, 40.0, Settles.ONE_MASTER), (None, 40.0, Settles.ASK_WHERE), (90.0, None, Settles.ASK_WHERE), (None, None, Settles.ASK_WHERE)],
)  # fmt: skip
def test_where_they_read_is_asked_when_either_is_missing(monkeypatch, clock, depth, settles):
    monkeypatch.setattr(second_opinion, "newest", lambda _s: Some(conditions=Some(block_c=20.0, at_20=False)))
    row = Some(plate_from=None, other=Some(clock_deg=clock, depth_mm=depth), opinion=Some(explained=False))
    assert second_opinion.settle_next(None, (row,)) is settles


def test_an_angle_read_a_hair_off_is_the_same_chord_with_the_plate_on_and_off():
    def level(*clocks):
        return Some(depth_mm=40.0, spots=[Some(clock_deg=c, size_mm=100.0) for c in clocks])

    assert plate._compared(level(30.04, 90.0), level(30.0, 90.02)).clocks_deg == (30.04, 90.0)
    assert plate._compared(level(30.2), level(30.0)) is None


def test_a_cylinder_is_turned_against_the_middle_of_the_others():
    lines = [Some(long_axis_deg=a) for a in (0.0, 1.0, 2.0, 60.0, 61.0)]
    assert side_by_side._turned(lines[0], lines) and not side_by_side._turned(lines[0], lines[:3])
    assert not side_by_side._turned(lines[0], [*lines[:3], Some(long_axis_deg=None), lines[3]])


def test_the_cylinder_that_is_at_the_hone_comes_after_the_others_that_wait(state_of):
    state = state_of("2044")
    assert (finding.still_to_hone(state, 1), finding.still_to_hone(state, 2)) == ((2, 1), (1, 2))


@pytest.mark.parametrize(("clock", "found"), [(30.0, (1.0,)), (31.0, None), (60.0, (2.0,)), (None, (1.5,))])
def test_what_they_read_within_thirty_degrees_of_an_axis_is_of_it(clock, found):
    hole = Some(sizes_mm=(1.0,), across_mm=(2.0,), by_depth_mm=(1.5,))
    assert second_opinion._Finished.axis_mm(Some(hole=hole), clock) == found


def test_a_card_begins_with_the_first_of_every_choice(shipped):
    begun = draft.empty_draft(Units.METRIC, shipped)
    own = ("units", "layout", "purpose")
    wrong = {f.name: begun[f.name] for f in draft.FIELDS if f.choices and f.name not in own and begun[f.name] != f.choices[0][0]}  # fmt: skip
    assert wrong == {} and begun["number"] == "" and begun["cylinders"] == "4"


def test_a_place_down_the_hole_is_told_without_its_unit_twice():
    pit = Some(top_mm=20.0, bottom_mm=60.0, clock_deg=90.0, width_deg=15.0)
    assert defects.place_text(pit, METRIC) == "20–60 mm down, 90°, 15° wide"


def test_the_reading_of_the_study_that_comes_next_is_counted(monkeypatch):
    monkeypatch.setattr(study, "count_at", lambda *_a: 2)
    told = study._sentence(None, Some(), None, Some(name="B 0°"), "RM", METRIC)
    assert told[0] == "RM: read B 0°, 3 of 5."
