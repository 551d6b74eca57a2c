"""Honing down to the redline in the real window."""

import pytest
from PyQt6.QtCore import Qt

from redline_bore.job.hone.progress import progress_of


@pytest.fixture
def honing(bench):
    bench.go("call")
    bench.session.set_rung(0.75)
    bench.take_call()
    bench.key(Qt.Key.Key_2)
    bench.type("105.675 20 C")
    bench.go("hone")
    bench.session.select(2)
    return bench


def test_without_a_redline_nothing_is_booked_and_nothing_lost(bench):
    bench.go("hone")
    assert "No redline yet: take the call first" in bench.call
    before = len(bench.session.records)
    bench.type("0 105.60")
    assert "no redline yet" in bench.said and bench.field.text() == "0 105.60" and len(bench.session.records) == before


def test_checks_run_down_to_the_redline(honing):
    for strokes in (0, 10, 20, 30, 40):
        honing.type(f"{strokes} {105.70 + 0.0007 * strokes:.3f}")
    p = progress_of(honing.session.state, 2)
    assert p.left_mm == pytest.approx(0.022, abs=5e-4)
    assert (
        "then stop and gauge" in honing.call
        and "0.022 mm left in cylinder 2" in honing.window.steps["hone"].page.stock.said()
    )
    assert "cylinder 2: 0.022 left" in honing.window.plan.said()
    assert honing.window.card.button.text().startswith("Book check 6")


def test_sizes_from_the_top_down_are_one_check(honing):
    honing.type("0 105.700 105.702 105.698")
    check = honing.session.state.honing.checks[0]
    assert len(check.sizes_mm) == 3 and check.largest_mm == pytest.approx(105.702, abs=1e-3)


def test_what_was_honed_is_booked_whatever_piston_was_measured_since(honing):
    honing.type("0 105.700")
    honing.type("20 105.714")
    honing.go("call")
    for _ in range(2):  # none of the call: asked about, then kept
        honing.type("piston 105.430")
    honing.go("hone")
    assert "No stroke: piston 2" in honing.call and progress_of(honing.session.job, 2).left_mm is None
    honing.type("30 105.721")
    assert len(progress_of(honing.session.job, 2).checks) == 3 and "No stroke" in honing.call
    assert (
        honing.window.plan.said().startswith("cylinder 1: ")
        and "cylinder 2: — wrong piston" in honing.window.plan.said()
    )
    honing.go("call")
    honing.type("piston 105.675")
    honing.go("hone")
    assert "then stop and gauge" in honing.call and progress_of(honing.session.job, 2).left_mm is not None


def test_crossing_the_redline_is_told_at_once(honing):
    honing.type("0 105.74")
    honing.type("12 105.762")
    assert honing.call.startswith("Stop.") and "past the redline" in honing.call
    assert "past: stop" in honing.window.plan.said()


def test_n_goes_to_the_next_step_and_strokes_begin_again(honing):
    honing.type("0 105.70")
    honing.type("60 105.7475")
    assert "N goes to plateau" in honing.call
    honing.key(Qt.Key.Key_N)
    assert (
        progress_of(honing.session.state, 2).step_name == "plateau" and "1 of 2" not in honing.window.line.where.text()
    )
    honing.type("0 105.7475")
    assert honing.session.state.honing.checks[-1].step == 1
    honing.key(Qt.Key.Key_N)
    assert "last step" in honing.said


def test_the_practice_stays_once_checks_are_booked(honing):
    honing.key(Qt.Key.Key_C)
    assert honing.session.state.booking.practice("honing") == "four steps"
    honing.type("0 105.60")
    honing.key(Qt.Key.Key_C)
    assert (
        honing.session.state.booking.practice("honing") == "four steps" and "kept once checks are booked" in honing.said
    )


def test_space_puts_the_gauges_size_behind_the_strokes(honing):
    honing.key(Qt.Key.Key_G, Qt.KeyboardModifier.ControlModifier)
    honing.bot.waitUntil(lambda: "gauge answers" in honing.said)
    honing.type("0 ", enter=False)  # behind a figure Space is a blank, behind a blank it reads
    honing.key(Qt.Key.Key_Space)
    honing.bot.waitUntil(lambda: len(honing.field.text().split()) == 2)
    size = float(honing.field.text().split()[1])
    assert 104.9 < size < 105.3
    honing.key(Qt.Key.Key_Space)
    honing.bot.waitUntil(lambda: len(honing.field.text().split()) == 3)
    honing.key(Qt.Key.Key_Return)
    assert [len(c.sizes_mm) for c in honing.session.state.honing.checks] == [2]
    honing.type("10 105.02")  # by hand, with the gauge there
    assert len(honing.session.state.honing.checks) == 2


def test_stock_left_is_the_biggest_figure_on_the_screen(honing):
    honing.type("0 105.70")
    image = honing.window.steps["hone"].page.stock.grab().toImage()
    ink = [
        y
        for y in range(30, 160)
        if any(image.pixelColor(x, y).lightness() < 60 for x in range(430, image.width() - 40))
    ]
    assert max(ink) - min(ink) >= 40  # digits of a 56 px type and more stand 40 px high


def test_at_size_the_next_cylinder_is_lit_and_after_the_last_one_the_step_is_stamped(bench_on):
    bench = bench_on("2044")
    bench.go("hone")
    bench.type("20 C")
    redline = {c: progress_of(bench.session.state, c).redline.size_mm for c in (1, 2)}
    for cylinder in (1, 2):
        bench.session.select(cylinder)
        bench.key(Qt.Key.Key_N)
        sizes = [f"{(redline[cylinder] - left) / 25.4:.5f}" for left in (0.009, 0.0085)]
        bench.type(f"0 {sizes[0]}")
        assert "Trace it first (PgDn)" in bench.call
        bench.type(f"10 {sizes[1]}")
        assert bench.call == "10 light strokes are done: stop, let it cool, gauge; then trace it."
        words = bench.window.card.button.text()
        assert words.startswith("Go to cylinder 2" if cylinder == 1 else "Stamp and go to the finish")
        bench.key(Qt.Key.Key_Return)
    assert bench.session.state.signing.stamp("hone").initials == "RM" and bench.session.bench.step == "finish"
    bench.go("hone")
    assert bench.window.card.button.text().startswith("Go to the finish")
    assert not any(c.startswith("Way out") for c in bench.window.card._advice.changes)


def test_a_cylinder_past_its_redline_is_told_but_has_nothing_left_to_hone(bench_on):
    bench = bench_on("2044")
    bench.go("hone")
    bench.type("20 C")
    for cylinder, over in ((2, 0.012), (1, -0.0058)):
        bench.session.select(cylinder)
        bench.key(Qt.Key.Key_N)
        redline = progress_of(bench.session.state, cylinder).redline.size_mm
        bench.type(f"0 {(redline - 0.006) / 25.4:.5f}")
        bench.type(f"9 {(redline + over) / 25.4:.5f}")
    assert "Stamp and go to the finish" in bench.window.card.button.text()
    assert "past: stop" in bench.window.plan.said()
    bench.session.select(2)
    assert bench.call.startswith("Stop. Cylinder 2 is") and any(
        "Way out" in c for c in bench.window.card._advice.changes
    )
    bench.go("sign_off")
    bench.settle()
    assert any("Cylinder 2: over the redline" in c for c in bench.window.card._advice.changes)


def test_a_check_booked_on_a_page_that_does_not_show_it_is_said(honing):
    honing.session.set_page("stock")
    size = honing.session.show.size(honing.session.job.block.bore_mm + 0.4)
    honing.type(f"0 {size} {size} {size}")
    assert len(honing.session.job.honing.checks_of(2)) == 1 and not honing.said.startswith("Booked")
    honing.session.set_page("set_up")
    honing.type(f"4 {size} {size} {size}")
    assert honing.said.startswith("Booked: 2: check at 4 strokes"), honing.said
