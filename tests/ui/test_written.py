"""Figures as the shop writes them: a comma in a comma shop, on every page, in what is typed and in what leaves; Letter or A4."""

import csv
import re

import pytest
from PyQt6.QtCore import QSettings, Qt
from PyQt6.QtWidgets import QLabel, QLineEdit

from redline_bore.app import build_window
from redline_bore.core.errors import InputError
from redline_bore.core.written import write_with_comma
from redline_bore.ui.exports import write_export, write_opinion
from redline_bore.ui.paint.sheet_print import SheetPages

POINTED = re.compile(r".{0,12}\d\.\d.{0,12}")


@pytest.fixture
def comma(bench_on):
    def opened(number="2036"):
        bench = bench_on(number)
        bench.window.do("comma")
        return bench

    yield opened
    write_with_comma(False)


def pointed(window):
    """What is written with a point somewhere in the window: labels, hints, and whatever was drawn."""
    texts = [w.text() for w in window.findChildren(QLabel) if w.isVisible() and not w.text().startswith("<style")]
    texts += [w.placeholderText() + w.text() for w in window.findChildren(QLineEdit) if w.isVisible()]
    texts += [key[2] for key in window.theme._widths]
    return [m[0] for t in texts for m in POINTED.finditer(re.sub(r"<[^>]*>", " ", t))]


@pytest.mark.parametrize("number", ["2036", "2041"])
def test_no_page_writes_a_point_in_a_comma_shop(comma, number):
    bench = comma(number)
    window = bench.window
    window.theme._widths.clear()
    for step in bench.session.steps:
        bench.go(step)
        for page in getattr(window.step, "titles", {"": ""}):
            if page:
                bench.session.set_page(page)
            bench.settle()
            window.grab()
            assert pointed(window) == [], (step, page)
            for laid in ("working", "keys", "this_page"):
                window.do(laid)
                assert pointed(window) == [], (step, page, laid)
                bench.key(Qt.Key.Key_Escape)
    for opened in ("figures", "jobs", "find", "by_hand"):
        window.do(opened)
        bench.settle()
        window.grab()
        assert pointed(window) == [], opened


def test_what_is_typed_with_a_comma_is_the_figure_and_what_stands_in_the_field_is_taken_back(comma):
    bench = comma("2047")
    bench.go("gauge")
    bench.type("78,059", enter=False)
    assert "78,059" in bench.said
    bench.key(Qt.Key.Key_Return)
    assert bench.session.state.gauging.readings[-1].raw_mm == 78.059
    bench.window.do("simulated")
    bench.settle()
    bench.field.setFocus()
    before = len(bench.session.state.gauging.readings)
    bench.key(Qt.Key.Key_Space)
    bench.bot.waitUntil(lambda: bench.field.text() != "")
    assert "," in bench.field.text()
    bench.key(Qt.Key.Key_Return)
    assert len(bench.session.state.gauging.readings) == before + 1
    bench.type("78.061")  # a point is read too
    assert bench.session.state.gauging.readings[-1].raw_mm == 78.061


def test_a_tag_and_the_card_are_filled_with_commas(comma):
    bench = comma("2041")
    bench.window.change("block_temperature")
    tag = bench.window.over.tag
    field = next(iter(tag.fields.values()))
    field.setText("22,5 C")
    assert tag.said().can and "22,5" in tag.preview.text()
    bench.key(Qt.Key.Key_Escape)
    bench.window.do("new")
    step = bench.window.steps["book_in"]
    step.fields["bore_mm"].setText("95,5")
    assert step.draft()["bore_mm"] == "95.5"


def test_papers_and_tables_leave_as_the_shop_writes_them_and_the_job_file_does_not(comma, tmp_path):
    bench = comma("2036")
    write_export(bench.session, "Customer HTML", tmp_path / "a.html")
    body = re.sub(r"<style.*?</style>|<[^>]*>", "", (tmp_path / "a.html").read_text("utf-8"), flags=re.DOTALL)
    assert "3,2" in body and not POINTED.search(body)
    write_export(bench.session, "Readings CSV", tmp_path / "r.csv")
    rows = list(csv.reader((tmp_path / "r.csv").read_text("utf-8").splitlines(), delimiter=";"))
    assert rows[0][0] == "cylinder" and re.fullmatch(r"\d+,\d+", rows[1][3]) and "T" in rows[1][8]
    write_export(bench.session, "Job JSON", tmp_path / "j.json")
    assert '"diameter_mm": 8' in (tmp_path / "j.json").read_text("utf-8")
    bench.session.open_job("2041")
    write_export(bench.session, "Readings CSV", tmp_path / "r.csv")
    utf16 = (tmp_path / "r.csv").read_text("utf-8").encode("utf-16")
    (tmp_path / "r16.csv").write_bytes(utf16)  # as spreadsheets write it
    for name in ("r.csv", "r16.csv"):  # our own table comes back in, and holds nothing new
        with pytest.raises(InputError, match="in this job already"):
            bench.session.desk.take_readings(bench.session.opened, tmp_path / name)


def test_letter_or_a4(bench_on, tmp_path, qtbot, demo_path):
    bench = bench_on("2036")
    bench.go("sign_off")
    bench.window.do("paper")
    assert bench.session.paper == "Letter" and bench.window.settings.value("paper") == "Letter"
    write_opinion(bench.session.job, bench.session.show, tmp_path / "o.pdf", bench.session.paper)
    assert b"612" in re.search(rb"/MediaBox \[[^\]]*\]", (tmp_path / "o.pdf").read_bytes())[0]
    write_opinion(bench.session.job, bench.session.show, tmp_path / "o.pdf")
    assert b"595" in re.search(rb"/MediaBox \[[^\]]*\]", (tmp_path / "o.pdf").read_bytes())[0]
    from redline_bore.job.sign_off.sheet import sheet_of

    a4, letter = (
        SheetPages(sheet_of(bench.session.job), bench.session.show, "customer", paper=p) for p in ("A4", "Letter")
    )
    assert letter.page.width() > a4.page.width() and letter.page.height() < a4.page.height() and letter.count <= 3
    kept = QSettings(str(tmp_path / "kept.ini"), QSettings.Format.IniFormat)
    kept.setValue("paper", "Letter")
    window = build_window(demo_path, "2041", kept)
    qtbot.addWidget(window)
    assert window.session.paper == "Letter"
    window.close()
