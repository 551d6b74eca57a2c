"""The finish: traces that count, windows, what is in, out or too close, and what to do about it."""

from dataclasses import replace

import pytest

from redline_bore.core.errors import InputError
from redline_bore.core.fit import Decision
from redline_bore.core.lengths import Units
from redline_bore.core.show import Show
from redline_bore.core.texture.packed import packed
from redline_bore.instruments.simulated.true_texture import STEP_UM, TrueTexture
from redline_bore.job.card import Mark
from redline_bore.job.finish import plateau
from redline_bore.job.finish.finding import next_spot
from redline_bore.job.finish.judgement import (
    Side,
    Twins,
    counting_traces,
    finish_of,
    finish_windows,
    spot_name,
    spots_of,
    strokes_had,
    texture_at,
    traced_on_job,
    traces_before,
    twin_places,
)
from redline_bore.job.hone.steps import PEAKS_ONLY, stones_of
from redline_bore.job.kinds.book_in import PracticeChosen
from redline_bore.job.kinds.finish import FinishWindowStated, HatchSeen, TraceBooked
from redline_bore.job.kinds.hone import CheckLogged
from redline_bore.job.kinds.phrase import Where
from redline_bore.job.kinds.strikes import EntryStruck
from redline_bore.job.profiles.practice import options
from redline_bore.job.words import finish as finish_advice
from redline_bore.job.words import finish_pages as finish_page_advice
from tests.job.benches import after, but, longer, one_typed

MM, INCH = Show(Units.METRIC), Show(Units.INCH)
GOOD = TrueTexture(0.60, 2.0, 60.0, takes_um=0.015, fine_um=0.15)
SHALLOW = TrueTexture(0.30, 0.5, 90.0, takes_um=0.015, fine_um=0.10)
ROUGH = TrueTexture(1.9, 6.0, 70.0, takes_um=0.015, fine_um=0.15)


def traced(cylinder=1, wall=GOOD, strokes=0.0, depth=10.0, seed=1, source="profilometer"):
    heights = replace(wall, strokes=strokes or 0.0).trace(seed)
    return TraceBooked(
        cylinder=cylinder,
        step_um=STEP_UM,
        heights=packed(heights),
        depth_mm=depth,
        plateau_strokes=strokes,
        source=source,
    )


@pytest.fixture
def on(ledger_of, shipped):
    """Job 2036 as it was before its first trace, with some entries more."""
    book = ledger_of("2036")
    first = next(r.seq for r in book if isinstance(r.entry, TraceBooked))

    def booked(*entries, keep=()):
        start = [r for r in book if r.seq < first]
        return after(start, shipped, *entries)

    return booked


# -- which traces count --------------------------------------------------------------------------------------------


def test_the_traces_after_the_most_strokes_count_and_the_same_spot_again_replaces(on):
    state = on(traced(depth=10), traced(depth=60), traced(strokes=12.0, depth=60, seed=2), traced(strokes=12.0, depth=10, seed=3),
               traced(strokes=12.0, depth=60, seed=4))  # fmt: skip
    assert [t.depth_mm for t in counting_traces(state, 1)] == [10, 60]
    assert [t.seq for t in counting_traces(state, 1)] == [state.finishing.traces[3].seq, state.finishing.traces[4].seq]
    assert [t.depth_mm for t in traces_before(state, 1)] == [10, 60] and counting_traces(state, 2) == ()
    assert finish_of(state, 1).stage == "after" and finish_of(state, 2).stage == "none"


def test_a_trace_of_unknown_strokes_is_not_taken_for_one_before_the_plateau(on):
    state = on(traced(strokes=None))
    assert finish_of(state, 1).stage == "after" and traces_before(state, 1) == ()


def test_the_spots_lie_in_the_ring_travel_and_have_names(on):
    state = on()
    spots = spots_of(state)
    assert state.travel.top_mm < spots[0] < spots[1] < spots[2] < state.travel.bottom_mm
    assert [spot_name(state, d) for d in (*spots, None)] == ["top", "middle", "bottom", ""]


def test_strokes_had_by_the_checks(on, state_of):
    assert strokes_had(on(), 1) == 0.0 and strokes_had(state_of("2036"), 1) == 12.0
    assert strokes_had(state_of("2041"), 1) is None


# -- windows -------------------------------------------------------------------------------------------------------


def test_the_ring_makers_own_window_wins(on, state_of):
    state = on(FinishWindowStated(parameter="Rvk", low_um=1.0, high_um=1.4, source="moly ring sheet"))
    window = finish_windows(state)["Rvk"]
    assert (window.low, window.high, window.source, window.own) == (1.0, 1.4, "moly ring sheet", True)
    assert "starting point" in finish_windows(state)["Rk"].source and not finish_windows(state)["Rk"].own
    assert finish_windows(state_of("2029"))["Rk"].high == 1.6  # a compressor's


@pytest.mark.parametrize(
    "duty, rz", [("everyday", 3.5), ("turbo", 7.0), ("nitrous", 7.0), ("marine", 3.5), ("alcohol", 8.0)]
)
def test_windows_go_by_duty(on, duty, rz):
    state = on()
    state = but(state, booking={"book_in": replace(state.book_in, duty=duty)})
    assert finish_windows(state)["Rz"].low == rz


@pytest.mark.parametrize(
    "text, want",
    [
        ("window Rvk 1.2 2.0", ("Rvk", 1.2, 2.0, "ring maker's sheet")),
        ("window rk 0,6 to 0,9 by moly ring", ("Rk", 0.6, 0.9, "moly ring")),
        ("window Rpk 4 12 µin", ("Rpk", 0.1016, 0.3048, "ring maker's sheet")),
    ],
)
def test_windows_are_typed(on, text, want):
    entry = one_typed("finish", text, on(), Where(1, None, Units.METRIC))
    assert (entry.parameter, entry.source) == (want[0], want[3])
    assert (entry.low_um, entry.high_um) == pytest.approx(want[1:3])


@pytest.mark.parametrize(
    "text, words",
    [("window Rxx 1 2", "has no window"), ("window Rk 2 1", "low end first"), ("window Rk 1 90", "does not make sense"),
     ("window Rk 1..2 3", "no figure"), ("polish it", "it begins with")],
)  # fmt: skip
def test_what_is_no_window_is_refused(on, text, words):
    with pytest.raises(InputError, match=words):
        one_typed("finish", text, on(), Where(1, None, Units.METRIC))


# -- judgement -----------------------------------------------------------------------------------------------------


def test_a_good_wall_is_in_and_says_so(state_of):
    for number in ("2029", "2036"):
        state = state_of(number)
        for cylinder in state.cylinders:
            found = finish_of(state, cylinder)
            assert found.fine and len(found.traces) == 3 and not found.where(Decision.OUT)
            advice = finish_advice.advise(state, cylinder, MM)
            assert advice.mark is Mark.SOUND and "is in its windows" in advice.sentence


def test_the_doubt_holds_the_instrument_and_the_spread_of_the_spots(on):
    one = on(traced(strokes=12.0))
    alone = finish_of(one, 1).of("Rk")
    assert alone.u == pytest.approx(0.05 * alone.mean) and alone.count == 1
    three = on(*(traced(strokes=12.0, depth=d, seed=s) for d, s in ((10, 1), (60, 7), (110, 9))))
    rk = finish_of(three, 1).of("Rk")
    assert rk.least < rk.mean < rk.most and rk.u > 0.05 * rk.mean and rk.count == 3


def test_valleys_that_are_missing_are_stopped_before_the_size_is_gone(on):
    state = on(traced(wall=SHALLOW))
    found = finish_of(state, 1)
    assert found.stage == "before" and found.of("Rz").decision is Decision.OUT and found.of("Rz").side == "low"
    advice = finish_advice.advise(state, 1, MM)
    assert advice.mark is Mark.STOP and advice.sentence.startswith("No plateau yet: Rz")


def test_deep_marks_before_the_plateau_ask_for_a_longer_one(on):
    advice = finish_advice.advise(on(traced(wall=ROUGH)), 1, MM)
    assert advice.mark is Mark.LOOK and "Deep marks" in advice.sentence


def test_too_close_is_neither_in_nor_out(on):
    state = on(traced(strokes=12.0))
    rk = finish_of(state, 1).of("Rk")
    close = on(traced(strokes=12.0), FinishWindowStated(parameter="Rk", low_um=0.1, high_um=rk.mean * 1.02, source="x"))
    judged = finish_of(close, 1).of("Rk")
    assert judged.decision is Decision.TOO_CLOSE and judged.side == "high" and not finish_of(close, 1).fine
    advice = finish_advice.advise(close, 1, MM)
    assert advice.mark is Mark.LOOK and "may be over its window" in advice.sentence


def test_out_says_what_it_means_and_what_to_do(on):
    state = on(traced(strokes=12.0), FinishWindowStated(parameter="Rvk", low_um=4.0, high_um=5.0, source="x"))
    advice = finish_advice.advise(state, 1, MM)
    assert advice.mark is Mark.STOP and "Rvk is under its window" in advice.sentence
    assert any("scuffs when it runs dry" in c for c in advice.changes)
    assert finish_advice.windows_page(state, MM).mark is Mark.STOP


def test_by_ra_and_rz_alone_the_figures_say_so(on):
    state = on(PracticeChosen(topic="finish", name="ra and rz"), traced(strokes=12.0))
    assert [j.parameter for j in finish_of(state, 1).judged] == ["Ra", "Rz"]
    assert any("nothing alike" in c for c in finish_advice.advise(state, 1, MM).changes)


def test_strokes_since_the_trace_ask_for_another(on):
    state = on(
        traced(strokes=4.0),
        CheckLogged(cylinder=1, strokes=0.0, sizes_mm=(83.06,)),
        CheckLogged(cylinder=1, strokes=9.0, sizes_mm=(83.06,)),
    )
    found, advice = finish_of(state, 1), finish_advice.advise(state, 1, MM)
    assert found.since == 5.0 and not found.current and not found.fine and finish_advice.not_traced(state) == [1, 2]
    assert (
        advice.mark is Mark.LOOK and "has had 5 plateau strokes since it was traced. Trace it again" in advice.sentence
    )
    assert all(line.mark is not Mark.STOP for line in advice.figures) and not any("oil" in c for c in advice.changes)
    done = on(traced(wall=SHALLOW), *state_checks(11.0))
    assert (
        "has had 11 plateau strokes since" in finish_advice.advise(done, 1, MM).sentence
    )  # no word of before the plateau


def state_checks(strokes):
    return [CheckLogged(cylinder=1, strokes=n, sizes_mm=(83.06,)) for n in (0.0, strokes)]


def test_figures_follow_the_units_looked_at(on):
    state = on(traced(strokes=12.0))
    metric, inch = (finish_advice.advise(state, 1, s).figures[1] for s in (MM, INCH))
    assert metric.label.endswith("µm") and inch.label.endswith("µin")
    assert float(inch.value.split()[0]) == pytest.approx(float(metric.value.split()[0]) / 0.0254, abs=0.3)


def test_two_walls_of_one_ra_are_shown_for_what_they_are(on, state_of):
    ra = texture_at(on(traced(strokes=12.0)).finishing.traces[0]).Ra
    plain = texture_at(on(traced(2, TrueTexture(1.0, 0.01, 400.0), seed=5)).finishing.traces[0]).Ra
    peaky = traced(2, TrueTexture(ra / plain, 0.01, 400.0), seed=5)  # ground without grooves, of the same Ra
    twins = twin_places(on(traced(strokes=12.0), peaky))
    assert twins is not None and twins.times > 1.5 and twins.second_job == "2036"
    assert twin_places(on(traced(strokes=12.0))) is None
    assert twin_places(state_of("2036"), [traced_on_job(state_of("2029"))]) is not None


# -- the plateau ---------------------------------------------------------------------------------------------------


def test_the_forecast_finds_what_the_strokes_take_and_reaches_the_windows(state_of):
    state = state_of("2036")
    found = plateau.foretold(state, 1, plateau.twice_traced(state_of("2029")))
    assert (
        len(found.rate.pairs) == 6 and found.rate.low_um < 0.0150 < found.rate.high_um
    )  # the made-up wall's own figure
    assert found.sure is not None and found.sure[0] <= 12 and found.stretch_um is not None
    told = found.figures_after(12.0)
    for name in ("Rk", "Rvk"):
        got = sum(getattr(texture_at(t).family, name) for t in counting_traces(state, 1)) / 3
        assert told[name] == pytest.approx(got, rel=0.25), name  # other spots than the one traced before
    assert found.takes_mm(12.0) == pytest.approx(2 * 12 * found.rate.um / 1000)
    page = finish_page_advice.plateau_page(state, 1, found, "", False, MM)
    assert "Traced after 12 strokes" in page.sentence and page.mark is Mark.SOUND


def test_before_the_plateau_it_says_how_many_strokes_and_what_they_take(on, state_of):
    state = on(traced(wall=TrueTexture(0.58, 1.70, 60.0, takes_um=0.0150, fine_um=0.17)))
    found = plateau.foretold(state, 1, plateau.twice_traced(state_of("2029")))
    page = finish_page_advice.plateau_page(state, 1, found, "", False, MM)
    assert "more plateau strokes" in page.sentence and found.stop_at > 0
    assert any(line.label.startswith("Rvk after") for line in page.figures)
    assert any("left before the redline" in line.label for line in page.figures)


def test_with_no_pairs_the_strokes_are_a_starting_point_and_the_spread_is_wide(on):
    found = plateau.foretold(on(traced()), 1)
    assert found.rate.pairs == () and found.rate.high_um / found.rate.low_um >= 4.0
    page = finish_page_advice.plateau_page(on(traced()), 1, found, "", False, MM)
    assert any("strokes are a starting point" in c for c in page.changes)


def test_one_pair_is_a_guess_and_more_draw_the_spread_in(on, state_of):
    one = plateau.rate_from(on(), [plateau.Pair("1", 1, 10.0, 0.15, 0.1)])
    two = plateau.rate_from(on(), [plateau.Pair("1", c, 10.0, 0.15 + 0.001 * c, 0.1) for c in (1, 2, 3, 4)])
    assert one.high_um - one.low_um > two.high_um - two.low_um and one.um == pytest.approx(0.015)
    assert two.low_um < 0.0152 < two.high_um and "jobs 1" in two.source
    only = plateau.pairs_of(plateau.twice_traced(state_of("2036")))
    assert [(p.cylinder, p.strokes) for p in only] == [(1, 12.0), (2, 12.0)]
    like = state_of("2029")
    other = replace(like.book_in, block=replace(like.book_in.block, material="ductile_iron"))
    assert plateau.plateau_key(like) != plateau.plateau_key(but(like, booking={"book_in": other}))  # another metal


def test_unreachable_is_said_with_the_coarser_step_and_whether_the_size_allows_it(on):
    state = on(traced(wall=SHALLOW))
    found = plateau.foretold(state, 1)
    assert found.stretch_um is None and any((f.parameter, f.side) == ("Rvk", "low") for f in found.failing)
    assert found.coarser is not None and found.coarser.fits is False  # 2.5 um from the redline
    page = finish_page_advice.plateau_page(state, 1, found, "", False, MM)
    assert page.mark is Mark.STOP and "does not allow a coarser step" in page.sentence
    assert any("the ways out of the hone step" in c for c in page.changes)
    room = replace(found, coarser=replace(found.coarser, left_mm=0.05))
    page = finish_page_advice.plateau_page(state, 1, room, "", False, MM)
    assert "A coarser step first" in page.sentence and "Unreachable from here" in page.sentence
    unknown = replace(found, coarser=replace(found.coarser, left_mm=None))
    assert any("not known" in c for c in finish_page_advice.plateau_page(state, 1, unknown, "", False, MM).changes)


def test_the_plateau_page_says_what_the_trace_page_says_where_the_valleys_are_missing(on, monkeypatch):
    """No “so many strokes and no more” beside “no plateau will bring them”."""
    from redline_bore.job.finish.finding import FinishCall
    from redline_bore.job.finish.finding import judge as judged
    from redline_bore.job.words import finish as finish_words

    state = on(traced(wall=SHALLOW))
    wall = judged(state, 1)
    assert wall.call is FinishCall.VALLEYS_MISSING
    found = plateau.foretold(state, 1)
    apart = replace(found, failing=tuple(replace(f, side=plateau.Side.APART) for f in found.failing), nearest_um=1.0)
    page = finish_page_advice.plateau_page(state, 1, apart, "", False, MM)
    assert page.sentence == finish_words.say(wall, MM).sentence and page.mark is Mark.STOP
    assert not any("strokes and no more" in c for c in page.changes)
    reachable = replace(found, stretch_um=(1.0, 2.0), failing=())
    assert finish_page_advice.plateau_page(state, 1, reachable, "", False, MM).mark is Mark.STOP


def test_what_is_missing_is_said(on, state_of):
    with pytest.raises(InputError, match="has not been traced: trace it before the plateau"):
        plateau.foretold(on(), 1)
    with pytest.raises(InputError, match="has not been traced: trace it as it is now"):
        plateau.foretold(on(*state_checks(11.0)), 1)
    page = finish_page_advice.plateau_page(on(), 1, None, "cylinder 1 has not been traced", False, MM)
    assert page.mark is Mark.LOOK
    assert "being worked out" in finish_page_advice.plateau_page(on(), 1, None, "", True, MM).sentence


def test_a_forecast_can_be_broken_off(on):
    class Enough(Exception):
        pass

    def tick(_share):
        raise Enough

    with pytest.raises(Enough):
        plateau.foretold(on(traced(seed=77)), 1, (), tick)


# -- crosshatch, probability ---------------------------------------------------------------------------------------


def test_the_crosshatch_is_held_against_the_one_the_hone_promised(state_of, on):
    page = finish_page_advice.hatch_page(state_of("2036"), 1)
    assert page.mark is Mark.SOUND and any("promised" in line.label for line in page.figures)
    odd = on(HatchSeen(cylinder=1, up_deg=30.0, down_deg=14.0, u_deg=1.0, confidence=0.6))
    page = finish_page_advice.hatch_page(odd, 1)
    assert page.mark is Mark.LOOK and any("The set-up promises" in c for c in page.changes)
    assert any("16° steeper than the other" in c for c in page.changes)
    assert "No picture" in finish_page_advice.hatch_page(on(), 1).sentence


def test_the_next_spot_and_the_booked_words(on):
    spots = spots_of(on())
    state = on(traced(strokes=0.0, depth=spots[0]))
    assert next_spot(state, 1, 0) == 1
    assert finish_advice.booked_words(state, 1, spots[0]) == "Traced: cylinder 1, top. Still to trace: middle, bottom."


def test_struck_traces_count_no_more(ledger_of, shipped):
    book = longer(ledger_of("2041"), traced(strokes=None))
    seq = book[-1].seq
    assert finish_of(after(book, shipped), 1).stage == "after"
    assert finish_of(after(book, shipped, EntryStruck(seq=seq)), 1).stage == "none"


def test_the_hone_asks_for_a_trace_before_the_plateau_and_stops_where_it_says_no(on):
    from redline_bore.job.words import hone as hone_advice

    begun = CheckLogged(cylinder=1, strokes=0.0, sizes_mm=(83.063, 83.063))
    asked = hone_advice.advise(on(begun), 1, MM)
    assert any("trace it before the plateau" in c for c in asked.changes)
    fine = hone_advice.advise(on(begun, traced()), 1, MM)
    assert not any("trace it before the plateau" in c for c in fine.changes) and fine.mark is not Mark.STOP
    stopped = hone_advice.advise(on(begun, traced(wall=SHALLOW)), 1, MM)
    assert stopped.mark is Mark.STOP and "No plateau yet" in stopped.sentence


# -- what is said in the rarer cases -----------------------------------------------------------------------------------


def test_the_windows_page_says_what_is_out_close_or_missing(on):
    assert "not traced as they are now" in finish_advice.windows_page(on(traced(strokes=12.0)), MM).sentence
    both = [traced(c, strokes=12.0, seed=c) for c in (1, 2)]
    rk = finish_of(on(*both), 1).of("Rk").mean
    close = on(*both, FinishWindowStated(parameter="Rk", low_um=0.1, high_um=rk * 1.01, source="x"))
    page = finish_advice.windows_page(close, MM)
    assert "too close to call. Trace more spots" in page.sentence and page.mark is Mark.LOOK
    assert any(", own" in line.value for line in page.figures)


def test_rz_that_may_be_short_asks_for_another_spot(on):
    state = on(traced())
    rz = finish_of(state, 1).of("Rz").mean
    close = on(traced(), FinishWindowStated(parameter="Rz", low_um=rz * 1.01, high_um=12.0, source="x"))
    advice = finish_advice.advise(close, 1, MM)
    assert advice.mark is Mark.LOOK and "Trace another spot before the plateau" in advice.sentence
    fine = on(traced(), FinishWindowStated(parameter="Rz", low_um=1.0, high_um=20.0, source="x"))
    assert "has the valleys it needs" in finish_advice.advise(fine, 1, MM).sentence


def test_flags_of_a_trace_are_told(on):
    import numpy as np

    z = replace(GOOD, strokes=12.0).trace(3)
    arc = z + 60.0 * np.linspace(-1, 1, len(z)) ** 2
    dirty = z.copy()
    dirty[5600:5604] += 9.0
    short = z[:9700]
    for heights, words in ((arc, "taken out by a parabola"), (dirty, "dirt perhaps"), (short, "less than 4 mm")):
        entry = TraceBooked(cylinder=1, step_um=STEP_UM, heights=packed(heights), depth_mm=10.0, plateau_strokes=12.0)
        assert any(words in c for c in finish_advice.advise(on(entry), 1, MM).changes), words


def path_page(state, found):
    return finish_page_advice.plateau_page(state, 1, found, "", False, MM)


def test_the_plateau_page_in_every_place_a_wall_can_stand(on):
    state = on(traced())
    found = plateau.foretold(state, 1)
    assert found.stretch_um is not None
    low, high = found.stretch_um
    done = replace(found, stretch_um=(0.0, high), had=0.0)
    assert "in its windows as traced" in path_page(state, done).sentence
    past = replace(found, stretch_um=(low, low + 1e-6), had=200.0)
    assert "past its windows. Stop" in path_page(state, past).sentence and path_page(state, past).mark is Mark.STOP
    wide = replace(found.rate, low_um=found.rate.um, high_um=found.rate.um)
    there = replace(found, rate=wide, stretch_um=(0.01, 5.0), had=40.0)
    assert "are done. Trace it" in path_page(state, there).sentence
    sure = replace(found, rate=wide, stretch_um=(0.2, 5.0), had=0.0)
    page = path_page(state, sure)
    assert "more plateau strokes, then trace" in page.sentence and page.mark is Mark.PLAIN
    narrow = replace(
        found, rate=replace(wide, low_um=wide.um / 3, high_um=wide.um * 3), stretch_um=(0.2, 0.21), had=0.0
    )
    assert narrow.sure is None and "strokes to metal is not known well" in path_page(state, narrow).sentence
    tight = replace(found.windows["Rk"], low=0.2, high=0.3)
    apart = replace(
        found, stretch_um=None, failing=(plateau.Failing("Rk", 1.0, Side.APART, tight),), windows=found.windows | {"Rk": tight},
        nearest_um=found.path[-1].removed_um,
    )  # fmt: skip
    page = path_page(state, apart)
    assert "Never all at once: nearest at " in page.sentence and "Rk" in page.sentence and "over 0.30" in page.sentence
    assert page.mark is Mark.LOOK
    never = replace(found, stretch_um=None, failing=(plateau.Failing("Rk", 3.0, "high", found.windows["Rk"]),))
    page = path_page(state, never)
    assert "Rk never comes into its window: 3.00 at the nearest" in page.sentence and page.mark is Mark.STOP


def test_probability_and_twins_are_told(on, state_of):
    state, other = state_of("2036"), state_of("2029")
    places = twin_places(state, [traced_on_job(other)])
    first = next(t for t in state.finishing.traces if t.seq == places.first)
    second = next(
        t for t in (other if places.second_job == "2029" else state).finishing.traces if t.seq == places.second
    )
    page = finish_page_advice.paper_page(state, 1, Twins(first, second, places.times, places.second_job), MM)
    assert any("Ra alone would call them alike" in c for c in page.changes)
    alone = finish_page_advice.paper_page(on(traced(strokes=12.0)), 1, None, MM)
    assert not any("alike" in c for c in alone.changes)
    assert "Trace cylinder 1 first" in finish_page_advice.paper_page(on(), 1, None, MM).sentence


def test_a_crosshatch_too_flat_or_too_steep_says_what_it_does(on):
    for up, words in ((9.0, "drags it up to burn"), (30.0, "wears them")):
        seen = HatchSeen(cylinder=1, up_deg=up, down_deg=up, u_deg=1.0, confidence=0.9)
        page = finish_page_advice.hatch_page(on(seen), 1)
        assert page.mark is Mark.LOOK and any(words in c for c in page.changes)
    unset = but(on(HatchSeen(cylinder=1, up_deg=17.0, down_deg=17.0, u_deg=1.0, confidence=0.9)), honing={"run": None})
    page = finish_page_advice.hatch_page(unset, 1)
    assert any(line.label == "promised by the set-up" and line.value == "not known" for line in page.figures)


def test_a_practice_without_a_plateau_has_nothing_to_foretell(on):
    for name in (p.name for p in options("honing")):
        other = on(PracticeChosen(topic="honing", name=name), traced(strokes=None))
        if stones_of(other)[-1] not in PEAKS_ONLY:
            with pytest.raises(InputError, match="no plateau step"):
                plateau.foretold(other, 1)
            assert strokes_had(other, 1) is None


def test_valleys_too_shallow_for_rvk_stop_it_though_rz_would_do(on):
    state = on(traced())
    rvk = finish_of(state, 1).of("Rvk")
    assert finish_of(state, 1).of("Rz").side != "low" and rvk.window is not None
    own = FinishWindowStated(parameter="Rvk", low_um=1.5 * rvk.mean, high_um=3.0 * rvk.mean, source="x")
    rz = FinishWindowStated(parameter="Rz", low_um=1.0, high_um=20.0, source="x")
    advice = finish_advice.advise(on(traced(), own, rz), 1, MM)
    assert advice.mark is Mark.STOP and advice.sentence.startswith("No plateau yet: Rvk")


def test_valleys_over_their_window_before_the_plateau_are_no_fault_yet(on):
    low = FinishWindowStated(parameter="Rvk", low_um=0.1, high_um=0.3, source="x")
    rz = FinishWindowStated(parameter="Rz", low_um=1.0, high_um=20.0, source="x")
    rvk = finish_of(on(traced(), low, rz), 1).of("Rvk")
    assert rvk.decision is None and rvk.window is not None
    assert finish_advice.advise(on(traced(), low, rz), 1, MM).mark is Mark.SOUND


def test_the_coarser_step_is_coarser_than_what_is_there(on):
    state = on(traced(wall=SHALLOW))
    rz = texture_at(state.finishing.traces[0]).Rz
    found = plateau.foretold(state, 1).coarser
    assert found.rz_um > rz and found.rz_um >= finish_windows(state)["Rz"].low and found.metal_mm >= 2 * rz / 1000
    deep = FinishWindowStated(parameter="Rz", low_um=40.0, high_um=48.0, source="x")
    none = plateau.foretold(on(traced(wall=SHALLOW), deep), 1)
    assert none.coarser.deep_enough is False
    told = finish_page_advice.plateau_page(on(traced(wall=SHALLOW), deep), 1, none, "", False, MM).changes
    assert any("no listed stone will do" in c for c in told)


def test_valleys_inside_their_window_before_the_plateau_are_in_whichever_half_they_lie(on):
    rvk = finish_of(on(traced()), 1).of("Rvk").mean
    upper = FinishWindowStated(parameter="Rvk", low_um=0.1 * rvk, high_um=1.5 * rvk, source="x")
    judged = finish_of(on(traced(), upper), 1).of("Rvk")
    assert judged.decision is Decision.IN and judged.side == "high"


def test_all_cylinders_side_by_side_stop_where_valleys_are_missing(on):
    page = finish_advice.windows_page(on(traced(wall=SHALLOW)), MM)
    assert page.mark is Mark.STOP and "No plateau yet: cylinder 1 without the valleys wanted" in page.sentence
    stroked = finish_advice.windows_page(on(traced(wall=SHALLOW), *state_checks(11.0)), MM)
    assert "not traced as they are now" in stroked.sentence and stroked.mark is Mark.LOOK


def test_a_crosshatch_at_the_edge_of_what_is_wanted_is_neither(on):
    seen = HatchSeen(cylinder=1, up_deg=15.2, down_deg=15.2, u_deg=1.2, confidence=0.9)
    page = finish_page_advice.hatch_page(on(seen), 1)
    assert page.mark is Mark.LOOK and "30° ± 1° lies at the edge" in page.sentence
