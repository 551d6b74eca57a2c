"""The bore step in the real window: the bar set up, holes bored in order, the hone next."""

import pytest
from PyQt6.QtCore import Qt

from redline_bore.job import bore

K = Qt.Key


@pytest.fixture
def boring(bench):
    bench.go("call")
    bench.key(K.Key_Return)
    for cylinder in range(1, 6):
        bench.session.select(cylinder)
        bench.type("105.670 20 C")
    bench.go("bore")
    bench.session.select(2)
    return bench


def test_the_bar_is_asked_for_and_the_setting_stands_in_big_digits(boring):
    assert boring.call == "Say what is in the bar before it turns: its insert, feed and speed."
    view = boring.window.step
    assert "no setting yet" in view.setting.said()
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
        boring.type("105.640 105.641 105.639")
        assert "is left for the hone" in boring.call
        if len(walked) < 5:
            boring.key(K.Key_Return)
    assert walked == order
    boring.key(K.Key_Return)
    assert boring.session.bench.step == "hone" and boring.session.job.stamp("bore").initials == "RM"


def test_enter_without_a_figure_says_what_is_wanted(boring):
    before = len(boring.session.records)
    boring.key(K.Key_Return)
    assert "bore it, measure it" in boring.said and len(boring.session.records) == before
    boring.type("bar nonsense")
    assert "typed as" in boring.said and boring.field.text() == "bar nonsense"


def test_arrows_pick_a_cylinder_and_a_temperature_is_still_one(boring):
    boring.key(K.Key_Right)
    assert boring.session.bench.cylinder == 3
    boring.type("24.5 C")
    assert boring.session.job.block_c == 24.5


def test_the_step_draws_a_job_without_a_call(bench_on):
    bench = bench_on("2047")
    bench.go("bore")
    assert "take the call first" in bench.call
    for view in (bench.window.step.setting, bench.window.step.layers, bench.window.step.feed):
        assert len(bench.colours(view)) > 2 and view.said()


def test_a_struck_hole_is_to_bore_again(boring):
    boring.type("bar TPG 321 feed 0.1 rpm 900 mains")
    boring.type("105.640")
    assert "is bored" in boring.call
    boring.key(K.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert boring.call.startswith("Set ") and boring.session.job.bored == ()


@pytest.mark.parametrize("percent", [80, 150])
@pytest.mark.parametrize("night", [False, True])
def test_the_bore_step_stands_any_light_and_scale(bench_on, percent, night):
    bench = bench_on("2036")
    if night:
        bench.key(K.Key_D, Qt.KeyboardModifier.ControlModifier)
    bench.window.theme.set_scale(percent / 100)
    bench.go("bore")
    view = bench.window.step
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
    boring.bot.wait(30)
    assert not asked
    boring.go("call")
    boring.bot.wait(30)
    assert asked


def test_a_call_that_bores_nothing_leaves_the_bar_idle(bench_on):
    bench = bench_on("2047")
    bench.go("call")
    bench.session.set_page("options")
    bench.settle()
    bench.key(K.Key_Return)
    bench.go("bore")
    assert "to bore nothing" in bench.call and not bench.window.card.button.isVisible()
    with pytest.raises(Exception, match="has no setting"):
        bench.window.step.entered("78.1")
