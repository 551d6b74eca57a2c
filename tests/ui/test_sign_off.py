"""The sheet as it prints, and the files it becomes."""

import json
import re
from pathlib import Path

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QFileDialog, QPushButton

from redline_bore.ui.commands import files
from redline_bore.ui.exports import EXPORTS
from tests.ui.gauging import connect


@pytest.fixture
def signing(bench_on):
    bench = bench_on("2036")
    bench.go("sign_off")
    bench.settle()
    return bench


def test_the_pages_are_shown_and_can_be_read_aloud(signing):
    step = signing.window.steps["sign_off"]
    labels = [step.pages.itemAt(i).widget() for i in range(step.pages.count())]
    assert [label.accessibleName() for label in labels] == [
        f"Page {i + 1} of {len(labels)}" for i in range(len(labels))
    ]
    assert all(label.pixmap().width() > 600 for label in labels)
    before = step.scroller.verticalScrollBar().value()
    signing.key(Qt.Key.Key_Down)
    assert step.scroller.verticalScrollBar().value() > before


def test_everything_is_written_into_a_folder(signing, tmp_path):
    signing.do(files.export_to, tmp_path, "2036")
    for file in EXPORTS.values():
        assert (tmp_path / f"2036-{file}").stat().st_size > 300
    assert json.loads((tmp_path / "2036-job.json").read_text())["format"] == "redline-bore-job"
    pdf = (tmp_path / "2036-shop.pdf").read_bytes()
    assert pdf.startswith(b"%PDF") and b"B612" in pdf
    assert not re.search(rb"/Subtype\s*/Image.{0,200}/DCTDecode", pdf, re.S)  # the pictures are no JPEGs
    assert "Written to" in signing.said


def test_a_folder_that_cannot_be_written_is_said(signing, tmp_path, monkeypatch):
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a: (str(tmp_path / "none" / "x.pdf"), ""))
    signing.key(Qt.Key.Key_P, Qt.KeyboardModifier.ControlModifier)
    assert "cannot be written" in signing.said


def test_a_signed_job_is_not_signed_twice(signing):
    assert signing.call.startswith("Signed off by RM") and not signing.window.card.button.isVisible()
    before = len(signing.session.records)
    signing.key(Qt.Key.Key_Return)
    assert len(signing.session.records) == before and "is signed off already" in signing.said


def test_a_login_name_books_and_does_not_sign(signing):
    signing.type("reopen the gap of 2 is filed again")
    signing.session.who_is_said = False
    before = len(signing.session.records)
    signing.key(Qt.Key.Key_Return)
    assert len(signing.session.records) == before and "Who signs?" in signing.said
    signing.type("who KB")
    signing.key(Qt.Key.Key_Return)
    assert signing.session.state.signing.stamp("sign_off").initials == "KB" and signing.session.state.signing.closed


def test_reopening_and_signing_again(signing):
    signing.type("reopen")
    assert "Say why" in signing.said and signing.session.state.signing.closed
    signing.key(Qt.Key.Key_Escape)
    signing.type("reopen the second ring is filed again")
    assert not signing.session.state.signing.closed and "Sign off" in signing.window.card.button.text()
    assert signing.window.card.button.property("unsure") is False
    signing.type("rings 0.014 0.016")
    assert signing.session.state.signing.rings_of(1).second_mm == pytest.approx(0.016 * 25.4)
    signing.type("who JT")
    signing.key(Qt.Key.Key_Return)
    state = signing.session.state
    assert state.signing.closed and state.signing.stamp("sign_off").initials == "JT"
    assert (
        sum(type(r.entry).__name__ == "StepStamped" and r.entry.step == "sign_off" for r in signing.session.records)
        == 2
    )


def test_an_unfinished_job_cannot_be_signed_off(bench):
    bench.go("sign_off")
    bench.key(Qt.Key.Key_Return)
    assert "without a final size" in bench.said and bench.session.state.signing.stamp("sign_off") is None


@pytest.fixture
def railcar(bench_on):
    """Job 2044 at its sign-off, nothing finished."""
    bench = bench_on("2044")
    bench.go("sign_off")
    bench.settle()
    return bench


def test_v_shows_the_other_sheet_and_the_buttons_write_the_one_shown(signing, tmp_path, monkeypatch):
    step = signing.window.steps["sign_off"]
    assert step.audience == "customer"
    pages = step.pages.count()
    offered = []
    monkeypatch.setattr(
        QFileDialog, "getSaveFileName", lambda *a: offered.append(a[2]) or (str(tmp_path / Path(a[2]).name), "")
    )
    buttons = {b.accessibleName(): b for b in step.findChildren(QPushButton)}
    signing.bot.mouseClick(buttons["Export HTML"], Qt.MouseButton.LeftButton)
    signing.key(Qt.Key.Key_V)
    signing.settle()
    assert step.audience == "shop" and step.pages.count() > pages
    signing.bot.mouseClick(buttons["Export PDF"], Qt.MouseButton.LeftButton)
    assert [Path(o).name for o in offered] == ["2036-customer.html", "2036-shop.pdf"]
    assert (tmp_path / "2036-customer.html").read_text().startswith("<!DOCTYPE html>")
    assert (tmp_path / "2036-shop.pdf").read_bytes().startswith(b"%PDF")
    signing.key(Qt.Key.Key_V)
    signing.settle()
    assert step.pages.count() == pages  # pages that are there no more are not left standing


def test_open_points_are_numbered_and_closed_one_by_one(railcar):
    assert railcar.call == "Seven open points before it can be signed off."
    railcar.type("washed")
    railcar.type("oiled")
    assert railcar.call.startswith("Five open points") and "Booked: oiled" in railcar.said or "oiled" in railcar.said
    railcar.type("accept 9 why not")
    assert "There is no open point 9" in railcar.said
    railcar.key(Qt.Key.Key_Escape)
    railcar.type("accept 2")
    assert "with its reason" in railcar.said
    railcar.key(Qt.Key.Key_Escape)
    railcar.type("accept all the owner fetches it as it is")
    assert railcar.session.state.signing.accepted and "Sign off" in railcar.window.card.button.text()
    railcar.key(Qt.Key.Key_Backspace)
    assert "open point" in railcar.call  # struck, and open again
    railcar.type("23.4 C")
    assert railcar.session.state.clamped.block_c == 23.4


def test_the_gauge_reads_the_finished_hole_into_the_field(bench_on):
    bench = bench_on("2036")
    bench.go("sign_off")
    bench.type("reopen to gauge it again")
    connect(bench, Qt.Key.Key_G)
    bench.go("sign_off")
    bench.field.clear()
    for count in (1, 2):
        bench.key(Qt.Key.Key_Space)
        bench.bot.waitUntil(lambda n=count: len(bench.field.text().split()) == n + 1)
    assert bench.field.text().startswith("final ")
    before = len(bench.session.state.signing.finals)
    bench.key(Qt.Key.Key_Return)
    assert len(bench.session.state.signing.finals) == before + 1, bench.said
    assert len(bench.session.state.signing.finals[-1].sizes_mm) == 2


def test_a_final_size_that_cannot_be_is_refused(railcar):
    before = len(railcar.session.records)
    for words in ("final 2.1", "final 88", "rings 4", "rings"):
        railcar.type(words)
        assert len(railcar.session.records) == before and railcar.said.startswith("Look here"), words
        railcar.key(Qt.Key.Key_Escape)


def test_the_sheet_follows_the_units_and_the_night(signing):
    step = signing.window.steps["sign_off"]
    day = step.pages.itemAt(0).widget().pixmap().toImage()
    signing.key(Qt.Key.Key_D, Qt.KeyboardModifier.ControlModifier)
    signing.settle()
    night = step.pages.itemAt(0).widget().pixmap().toImage()
    assert day.pixelColor(3, 3) == night.pixelColor(3, 3)  # paper stays paper
    signing.key(Qt.Key.Key_U)
    signing.settle()
    assert step.pages.itemAt(0).widget().pixmap().toImage() != night


def test_a_closed_job_offers_no_button_that_books_and_says_how_to_open_it(signing):
    for step in ("gauge", "call", "bore", "hone", "finish"):
        signing.go(step)
        card = signing.window.card
        assert not card.button.isVisible() or card.button.text().startswith("Go to"), step
        assert "Signed off by RM, 2026-10-12, and closed" in card._advice.changes[0]
    signing.go("hone")
    before = len(signing.session.records)
    signing.type("60 3.2703")
    assert len(signing.session.records) == before and "reopen" in signing.said
    signing.key(Qt.Key.Key_Escape)
    signing.key(Qt.Key.Key_Backspace)
    assert len(signing.session.records) == before  # nothing is struck either
    signing.go("sign_off")
    signing.type("reopen to hone a hair more")
    signing.go("hone")
    assert signing.window.card.button.isVisible()


def test_the_arrows_pick_the_cylinder_and_enter_is_offered_only_when_it_signs(railcar):
    assert railcar.session.bench.cylinder == 1 and "← → cylinder" in railcar.window.line.keys.text()
    railcar.key(Qt.Key.Key_Right)
    assert railcar.session.bench.cylinder == 2
    railcar.type("rings 0.014 0.016")
    assert "2: ring gaps 0.014, 0.016 in" in railcar.said and railcar.session.state.signing.rings_of(2)
    railcar.key(Qt.Key.Key_Right)
    assert railcar.session.bench.cylinder == 1
    railcar.type("accept all as agreed")
    railcar.settle()
    assert "Enter signs as RM" in railcar.window.line.keys.text()
