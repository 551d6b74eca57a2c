"""Help on every page: a screen each, in the window and in the manual, from one text."""

import re
from base64 import b64decode
from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtGui import QImage

from redline_bore.ui.commands.find import all_drawers
from redline_bore.ui.help.text import ASKED, help_of, shop_words, words_in
from redline_bore.ui.steps.declared import STEPS
from tools.manual import PICTURES, chapters

DOCS = Path(__file__).parents[2] / "docs"
PAGES = [(step, page) for step in STEPS for page in (STEPS[step].titles() or {next(iter(PICTURES[step])): ""})]


@pytest.mark.parametrize(("step", "page"), PAGES)
def test_every_page_has_a_screen_of_help(step, page):
    told = help_of(step, page)
    assert told is not None
    for name in ASKED:
        text = getattr(told, name)
        assert 20 < len(text) < 330 and text.endswith(".") and "!" not in text


def test_no_help_is_of_a_page_that_is_gone():
    from redline_bore.ui.help.text import _pages

    assert {(s, p) for s, pages in _pages().items() for p in pages} == set(PAGES)


def test_f1_shows_the_page_that_is_on(bench):
    for step, page in (("gauge", "readings"), ("call", "pistons"), ("hone", "stock")):
        bench.go(step)
        bench.session.set_page(page)
        bench.key(Qt.Key.Key_F1)
        panel = bench.window.over.panel
        assert (
            panel.isVisible()
            and help_of(step, page).next[:30] in panel.body.text()
            and STEPS[step].titles()[page] in panel.title.text()
        )
        bench.key(Qt.Key.Key_F1)
        assert not panel.isVisible()


def test_a_new_job_has_help_before_there_is_one(bench):
    bench.session.begin_new_job()
    bench.key(Qt.Key.Key_F1)
    assert "section on the left" in bench.window.over.panel.body.text()


def test_words_are_found_and_shown(bench):
    assert "crosshatch" in words_in("the crosshatch wanted") and len(shop_words()) > 30
    bench.key(Qt.Key.Key_F, Qt.KeyboardModifier.ControlModifier)
    bench.bot.keyClicks(bench.field, "torque plate")
    assert any(d.kind == "read" for d in bench.window.over.chest.found)


def test_the_manual_is_what_the_help_says():
    for name, text in chapters().items():
        assert (DOCS / "manual" / name).read_text("utf-8") == text, f"{name}: make manual"
    for pictures in PICTURES.values():
        assert all((DOCS / "screenshots" / f"{p}.png").exists() for p in pictures.values())


@pytest.mark.parametrize(("step", "page"), [("call", "ladder"), ("gauge", "readings"), ("sign_off", "")])
def test_the_help_of_a_page_shows_it_as_it_stands(bench_on, step, page):
    bench = bench_on("2041")
    bench.go(step)
    if page:
        bench.session.set_page(page)
    bench.settle()
    bench.window.do("this_page")
    html = bench.window.over.panel.body.text()
    found = re.search(r"src='data:image/png;base64,([^']+)' width='(\d+)'", html)
    image = QImage.fromData(b64decode(found[1]))
    assert image.width() == int(found[2]) == bench.window.step.width() * 2 // 5
    assert len({image.pixel(x, y) for x in range(0, image.width(), 7) for y in range(0, image.height(), 7)}) > 5
    assert "What to do next" in html


def test_the_manual_is_found_by_a_word_of_it_and_opens_on_its_page(bench_on):
    bench = bench_on("2041")
    drawers = {d.title: d for d in all_drawers(bench.window) if d.lives == "Manual"}
    assert len(drawers) >= 25
    bench.window.do("find")
    bench.bot.keyClicks(bench.field, "wholly under the red line")
    assert [d.title for d in bench.window.over.chest.found] == ["How size ladder is read"]
    bench.window.over.left()
    drawers["How size ladder is read"].open()
    assert bench.session.bench.step == "call" and bench.window.over.is_read
    assert "Cylinders side by side" in bench.window.over.panel.body.text()
