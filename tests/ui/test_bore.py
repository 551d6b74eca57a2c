"""The bore step in the real window: the bar set up, holes bored in order, the hone next."""

import pytest
from PyQt6.QtCore import Qt

from redline_bore.job.bore import plan as bore
from redline_bore.job.kinds.call import DecisionTaken, PistonMeasured
from redline_bore.job.state.calling import Apart

K = Qt.Key


@pytest.fixture
def boring(bench):
    bench.go("call")
    bench.key(K.Key_Up)
    bench.take_call()
    for cylinder in range(1, 6):
        bench.session.select(cylinder)
        bench.type("105.670 20 C")
    bench.go("bore")
    bench.session.select(2)
    return bench


def test_the_bar_is_asked_for_and_the_setting_stands_in_big_digits(boring):
    assert boring.call == "Say what is in the bar before it turns: its insert, feed and speed."
    view = boring.window.step.page
    assert "no setting before the bar is set up" in view.setting.said()
    boring.type("bar TPG 321 feed 0.1 rpm 900 mains")
    assert boring.call == "Set 105.625 and bore cylinder 2. Prove this first hole before trusting the setting."
    assert view.setting.said() == "Cylinder 2: set the tool to 105.625" and view.feed.said() == "The feed in window"
    assert view.layers.said() == "1 passes" and "cylinder 2: 105.640 bore to" in boring.window.plan.said()


def test_a_block_is_bored_in_the_order_that_spreads_the_heat(boring):
    boring.type("bar TPG 321 feed 0.1 rpm 900 mains")
    order = [n for numbers in bore.still_to_bore(boring.session.job) for n in numbers]
    assert order[0] == boring.session.bench.cylinder == 2
    walked = []
    for _ in range(5):
        walked.append(boring.session.bench.cylinder)
        boring.type("105.640 105.641 105.639 across 105.640 105.641 105.640")
        assert "is left for the hone" in boring.call
        if len(walked) < 5:
            boring.key(K.Key_Return)
    assert walked == order
    boring.key(K.Key_Return)
    assert boring.session.bench.step == "hone" and boring.session.job.signing.stamp("bore").initials == "RM"


def test_enter_without_a_figure_says_what_is_wanted(boring):
    before = len(boring.session.records)
    boring.key(K.Key_Return)
    assert "bore it, measure it" in boring.said and len(boring.session.records) == before
    boring.type("bar nonsense")
    assert "typed by" in boring.said and boring.field.text() == "bar nonsense"


def test_arrows_pick_a_cylinder_and_a_temperature_is_still_one(boring):
    boring.key(K.Key_Right)
    assert boring.session.bench.cylinder == 3
    boring.type("24.5 C")
    assert boring.session.job.clamped.block_c == 24.5


def test_the_step_draws_a_job_without_a_call(bench):
    bench.go("bore")
    assert "take the call first" in bench.call
    page = bench.window.step.page
    for view in (page.setting, page.layers, page.feed):
        assert len(bench.colours(view)) > 2 and view.said()


def test_a_struck_hole_is_to_bore_again(boring):
    boring.type("bar TPG 321 feed 0.1 rpm 900 mains")
    boring.type("105.640 105.640 105.640 across 105.640 105.640 105.640")
    assert "is bored" in boring.call
    boring.key(K.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert boring.call.startswith("Set ") and boring.session.job.boring.holes == ()


@pytest.mark.parametrize("percent", [80, 150])
@pytest.mark.parametrize("night", [False, True])
def test_the_bore_step_stands_any_light_and_scale(bench_on, percent, night):
    bench = bench_on("2036")
    if night:
        bench.key(K.Key_D, Qt.KeyboardModifier.ControlModifier)
    bench.window.theme.set_scale(percent / 100)
    bench.go("bore")
    view = bench.window.step.page
    assert view.setting.said() == "Cylinder 1: left for the hone 0.0024" and "left for the hone" in bench.call
    red = bench.window.theme.palette.redline.lower()
    assert bench.colours(view.layers).get(red, 0) > 4  # everything is shown as distance to the redline
    assert all(len(bench.colours(v)) > 3 for v in (view.setting, view.layers, view.feed))


def test_inches_are_set_in_tenths(bench_on):
    bench = bench_on("2036")
    bench.go("bore")
    bench.key(K.Key_Z, Qt.KeyboardModifier.ControlModifier)  # strikes what the owner said last, nothing of the bar
    state = bench.session.job
    setting = bore.setting_for(state, 83.0, "2026-10-12") / 0.00254
    assert setting == pytest.approx(round(setting), abs=1e-6)


def test_a_hidden_picture_works_nothing_out(boring, monkeypatch):
    from redline_bore.ui.steps.call_pages.ladder import LadderView

    asked = []
    monkeypatch.setattr(LadderView, "said", lambda self: asked.append(1) or "")
    boring.type("24.0 C")
    boring.bot.wait(400)  # longer than a picture rests before it is told of
    assert not asked
    boring.go("call")
    boring.bot.waitUntil(lambda: bool(asked))


def test_a_call_that_bores_nothing_takes_the_bar_off_the_route(bench_on):
    bench = bench_on("2047")
    bench.go("call")
    bench.session.set_page("options")
    bench.settle()
    bench.key(K.Key_Return)
    bench.go("bore")
    assert bench.session.bench.step == "call" and "bore" not in bench.session.steps


# -- the run sheet -----------------------------------------------------------------------------------------------------


def test_every_check_is_stamped_by_one_key_in_its_order(boring):
    boring.type("bar TPG 321")
    boring.session.set_page("run")
    page = boring.window.step.page
    assert page.view.said() == "next: Chips off the locating faces"
    stamped = []
    for _ in range(5):
        boring.key(K.Key_K)
        stamped.append(boring.session.records[-1].entry.check)
    assert stamped == ["faces", "feeler", "centred", "stop", "bit"]
    assert page.view.said().startswith("next: Tool set to")
    boring.type("105.640 105.638 105.639 across 105.641 105.637 105.640")
    for _ in range(2):
        boring.key(K.Key_K)
        stamped.append(boring.session.records[-1].entry.check)
    assert stamped[-2:] == ["proved", "chamfer"] and page.view.said() == "all done"
    boring.key(K.Key_K)
    assert "Every check of cylinder 2 is stamped" in boring.said
    boring.session.select(4)
    assert page.view.said().startswith("next: Centred")  # the block stands as it stood
    boring.key(K.Key_Backspace)
    assert "struck out" in boring.said


def test_a_deep_cut_is_set_pass_by_pass(boring, monkeypatch):
    monkeypatch.setattr("redline_bore.job.bore.finding.call_stands", lambda state, cylinder: True)  # thin walls and all
    far = Apart(cylinder=2, way="own", oversize_mm=2.0)
    boring.session.book(DecisionTaken(oversize_mm=0.75, sentence="Bore.", apart=(far,)))
    boring.session.book(PistonMeasured(cylinder=2, size_mm=107.0, piston_c=20.0))
    boring.type("bar TPG 321")
    plan = bore.plan_of(boring.session.job, 2, "")
    assert len(plan.settings_mm) == 2 and boring.call.startswith("Pass 1 of 2 in cylinder 2: set")
    first = boring.window.step.page.setting.said()
    for _ in range(5):
        boring.key(K.Key_K)
    assert boring.session.records[-1].entry.check == "pass 1"
    assert boring.window.step.page.setting.said() != first and "Set " in boring.call


def test_the_first_hole_is_not_trusted_on_one_figure(boring):
    boring.type("bar TPG 321")
    boring.type("105.640")
    assert boring.call.startswith("This first hole proves nothing yet")
    boring.key(K.Key_Backspace)
    boring.type("105.640 105.641 105.640 across 105.640 105.640 105.640")
    assert "is bored" in boring.call
    assert any("was a cold tool's" in text for text in boring.window.step.advice().changes)


def test_what_was_heard_at_the_cut_is_noted_and_says_what_it_means(boring):
    boring.type("note hit and skip at 120")
    assert any("are a shadow: gauge it there" in text for text in boring.window.step.advice().changes)
    boring.type("note bang")
    assert "note hit and skip at" in boring.said


# -- inserts and bar ---------------------------------------------------------------------------------------------------


def test_the_bar_learns_from_the_jobs_before(boring):
    boring.type("bar TPG 321")
    assert "Taught by 2029, 2036, 2044" in boring.said
    bar = boring.session.job.boring.bar
    assert bar.machine == "north" and bar.holes >= 1 and bar.firsts >= 1
    assert boring.session.job.boring.machine.name == "north"  # the shop's machine is kept with this job


def test_another_insert_has_nothing_to_go_by(boring):
    boring.type("bar radius 0.8 positive")
    bar = boring.session.job.boring.bar
    assert bar.taught_by == () and bar.first_mm is None and bore.correction_of(boring.session.job).holes == 0


def test_edges_are_counted_over_all_jobs(boring):
    boring.type("bar TPG 321")
    boring.session.set_page("inserts")
    view = boring.window.step.page.view
    assert view.said() == "TPG 321, 1 used, 14 left"
    boring.type("turn chipped")
    boring.type("insert SNMG 433 coated 2")
    assert "TPG 321, 2 used, 13 left" in view.said() and "SNMG 433, 0 used, 16 left" in view.said()
    boring.key(K.Key_Backspace)
    assert "SNMG 433" not in view.said()
    assert len(boring.colours(view)) > 5


def test_speeds_are_snapped_to_the_machine_that_was_stated(boring):
    boring.type("machine south thick 40 reach 220 speeds 200 500 900")
    boring.type("bar TPG 321 feed 0.1 rpm 950")
    assert boring.session.job.boring.bar.rpm == 900.0 and boring.session.job.boring.bar.machine == "south"
    assert any("The bar will sing" in text for text in boring.window.step.advice().changes)
    boring.type("bar TPG 321 feed 0.02 rpm 900")
    assert boring.window.step.page.feed.said() == "The feed rubs"


def test_the_path_over_the_block_is_on_the_plan_at_the_bar_only(boring):
    boring.type("bar TPG 321")
    assert boring.window.plan._path(boring.session.job) == ((2, 4, 1, 5, 3),)
    boring.go("hone")
    assert boring.window.plan._path(boring.session.job) == ()


def test_a_hole_that_decides_the_size_is_bored_first_and_looked_at(boring, monkeypatch):
    """Cylinder 3 decides: the others show no setting and wait; once it is bored, Enter asks for the look; clean, the others go on."""
    from redline_bore.job.bore import finding, plan
    from redline_bore.job.call import asks
    from redline_bore.ui.frame import block_plan
    from redline_bore.ui.steps import bore as step

    def still(state):
        return () if any(k.cylinder == 3 for k in state.boring.looks) else (3,)

    for module in (plan, finding, step, asks):
        monkeypatch.setattr(module, "to_look_at", still)
    bench = boring
    bench.type("bar TPG 321 feed 0.1 rpm 900 mains")
    bench.session.select(1)
    assert bench.call == "Cylinder 1 waits: bore 3 first and look, it decides the size."
    assert bench.window.step.page.setting._words() == ("—", "waits: bore 3 first and look")
    assert {k.cylinder: k.word for k in block_plan.looks_of(bench.session.job, "bore", bench.session.show)}[
        1
    ] == "waits for a look"
    bench.type("", enter=False)
    bench.key(Qt.Key.Key_Return, on=bench.field)
    assert bench.session.bench.cylinder == 3
    bench.type("look clean")
    assert "not bored yet" in bench.said
    bench.field.clear()
    size = bench.session.show.size(plan.plan_of(bench.session.job, 3).target_mm)
    bench.type(f"{size} {size} {size} across {size} {size} {size}")
    assert bench.call.startswith("Look into cylinder 3.")
    bench.key(Qt.Key.Key_Return, on=bench.field)
    assert "look clean, or look shadow" in bench.said
    assert {
        k.cylinder: (k.word, str(k.mark)) for k in block_plan.looks_of(bench.session.job, "bore", bench.session.show)
    }[3][0] == "look into it"
    bench.type("look clean")
    assert "waits" not in bench.call and "Look into" not in bench.call
    bench.session.select(1)
    assert "waits" not in bench.call


def test_the_block_plan_says_of_every_hole_what_its_card_says(boring):
    """Even at both ends, one end tight, measured at one place, past the redline, not bored yet: the mark of the card, and a word of its own."""
    from redline_bore.job.bore.plan import plan_of
    from redline_bore.job.kinds.bore import HoleBored
    from redline_bore.job.words.bore import advise
    from redline_bore.ui.frame import block_plan

    boring.type("bar TPG 321 feed 0.1 rpm 900 mains")
    session, holes = boring.session, {2: (0.0, 0.0, 0.0), 4: (0.0, 0.0, -0.09), 1: (0.0,), 5: (1.0, 1.0, 1.0)}
    for cylinder, places in holes.items():
        size = session.job.as_read(plan_of(session.job, cylinder).target_mm)
        down = tuple(size + p for p in places)
        across = down if len(down) == 3 else ()
        session.book(HoleBored(cylinder=cylinder, set_mm=size, sizes_mm=down, across_mm=across))
    looks = {k.cylinder: k for k in block_plan.looks_of(session.job, "bore", session.show)}
    words = {c: k.word for c, k in looks.items()}
    assert words == {2: "left to hone", 4: "uneven", 1: "left to hone", 5: "past: stop", 3: "bore to"}
    assert {c: k.mark for c, k in looks.items()} == {c: advise(session.job, c, session.show).mark for c in looks}
