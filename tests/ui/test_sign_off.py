"""The sheet as it prints, and the files it becomes."""

import json
import re

import pytest
from PyQt6.QtCore import Qt
from PyQt6.QtWidgets import QFileDialog

from redline_bore.ui.exports import EXPORTS


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
    before = step.scroll.verticalScrollBar().value()
    signing.key(Qt.Key.Key_Down)
    assert step.scroll.verticalScrollBar().value() > before


def test_everything_is_written_into_a_folder(signing, tmp_path):
    signing.window.commands.export_to(tmp_path, "2036")
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
    assert len(signing.session.records) == before and "cannot be signed off" in signing.said


def test_reopening_and_signing_again(signing):
    signing.type("reopen")
    assert "Say why" in signing.said and signing.session.state.closed
    signing.key(Qt.Key.Key_Escape)
    signing.type("reopen the second ring is filed again")
    assert not signing.session.state.closed and "Sign off" in signing.window.card.button.text()
    signing.type("rings 0.014 0.016")
    assert signing.session.state.rings_of(1).second_mm == pytest.approx(0.016 * 25.4)
    signing.type("who JT")
    signing.key(Qt.Key.Key_Return)
    state = signing.session.state
    assert state.closed and state.stamp("sign_off").initials == "JT"
    assert (
        sum(type(r.entry).__name__ == "StepStamped" and r.entry.step == "sign_off" for r in signing.session.records)
        == 2
    )


def test_an_unfinished_job_cannot_be_signed_off(bench):
    bench.go("sign_off")
    bench.key(Qt.Key.Key_Return)
    assert "without a final size" in bench.said and bench.session.state.stamp("sign_off") is None
