"""The help panel: keys by group, and every line that may be typed, read from the declarations of commands and kinds."""

from __future__ import annotations

from base64 import b64encode
from collections.abc import Sequence
from html import escape
from typing import TYPE_CHECKING

from PyQt6.QtCore import QBuffer, QPoint, Qt
from PyQt6.QtGui import QColor, QPixmap, QRegion
from PyQt6.QtWidgets import QWidget

from redline_bore.job.kinds.forms import form_words
from redline_bore.job.kinds.grammar import phrases_at
from redline_bore.job.kinds.phrase import At, Where
from redline_bore.job.state.job_state import STEP_TITLES, JobState

if TYPE_CHECKING:
    from redline_bore.ui.commands.command import Command
    from redline_bore.ui.commands.words import Word

MOST_WORDS = 8
ARROWS = (
    "Arrows walk the reading ring, or move the redline; Shift and arrows read the maps, or move one cylinder alone in the call. "
    "Alt+1 to 9 and 0 pick a cylinder, Alt+Shift goes on from 11; in the call and at sign-off plain digits do."
)


def help_html(
    commands: Sequence[Command], words: Sequence[Word], state: JobState | None, where: Where, size_px: int, grey: str
) -> str:
    """The panel as HTML; with a job open, examples are made from it."""
    groups = [_group(commands, name, grey) for name in dict.fromkeys(c.group for c in commands)]
    left = "".join(g for i, g in enumerate(groups, start=1) if i in (1, 4))
    right = "".join(g for i, g in enumerate(groups, start=1) if i not in (1, 4))
    every = "".join(_row(w.example, w.help) for w in words)
    steps = "".join(_step(step, title, state, where, grey) for step, title in STEP_TITLES.items())
    return (
        f"<table width='100%'><tr><td width='50%' valign='top'>{left}</td><td valign='top'>{right}</td></tr></table><p>{ARROWS}</p>"
        f"<p style='color:{grey}'>What may be typed in any step; M first where it begins with a letter, or in the call with a figure</p>"
        f"<table cellpadding='2' style='font-size:{size_px}px'>{every}</table>"
        f"<div style='font-size:{size_px}px'>{steps}</div>"
    )


def _group(commands: Sequence[Command], name: str, grey: str) -> str:
    rows = "".join(
        f"<tr><td style='padding-right:18px; white-space:nowrap'><b>{' '.join(c.keys)}</b></td><td>{c.words}</td></tr>"
        for c in commands
        if c.group == name
    )
    return f"<p style='color:{grey}'>{name}</p><table cellpadding='2'>{rows}</table>"


def _step(step: str, title: str, state: JobState | None, where: Where, grey: str) -> str:
    """What may be typed in a step: an example from this job, or the form while none is open."""
    rows = []
    for phrase in phrases_at(step):
        shown = form_words(phrase.form) if state is None else phrase.example(_at(state, where))
        rows.append(_row(shown, phrase.help))
    return f"<p style='color:{grey}'>{title}</p><table cellpadding='2'>{''.join(rows)}</table>"


def _at(state: JobState, where: Where) -> At:
    from redline_bore.job.proposals import StepProposals  # when help is asked for, not at the start

    return At(state, where, StepProposals())


def _row(typed: str, words: str) -> str:
    return f"<tr><td style='padding-right:18px'><b>{escape(typed)}</b></td><td>{escape(words)}</td></tr>"


def picture_html(widget: QWidget, width_px: int, ground: str) -> str:
    """What a widget shows just now, small and on its ground, to stand in a text."""
    whole = QPixmap(widget.size())
    whole.fill(QColor(ground))
    widget.render(whole, QPoint(), QRegion(), QWidget.RenderFlag.DrawChildren)
    seen = whole.scaledToWidth(width_px, Qt.TransformationMode.SmoothTransformation)
    held = QBuffer()
    held.open(QBuffer.OpenModeFlag.WriteOnly)
    seen.save(held, "PNG")
    return f"<img src='data:image/png;base64,{b64encode(held.data().data()).decode()}' width='{width_px}'>"


def page_html(step: str, page: str, size_px: int, grey: str, picture: str = "") -> tuple[str, str]:
    """The title and the text of a page's help. picture: of the page, as a text holds it."""
    from redline_bore.ui.help.text import ASKED, help_of, words_in
    from redline_bore.ui.steps.declared import STEPS

    told = help_of(step, page)
    title = " · ".join(t for t in (STEP_TITLES[step], STEPS[step].titles().get(page, "")) if t)
    if told is None:
        return title, "<p>Nothing is written of this page.</p>"
    parts = "".join(
        f"<p style='font-size:{size_px}px'><span style='color:{grey}'>{asked}</span><br>{escape(getattr(told, name))}</p>"
        for name, asked in ASKED.items()
    )
    words = words_in(" ".join((told.see, told.read, told.next, told.wrong)))
    rows = "".join(_row(word, meaning) for word, meaning in list(words.items())[:MOST_WORDS])
    keys = (
        f"<p style='color:{grey}'>E books or changes anything here by hand, F finds by a word, ? shows every key.</p>"
    )
    beside = (
        f"<table><tr><td>{parts}</td><td style='padding-left:{size_px}px'>{picture}</td></tr></table>"
        if picture
        else parts
    )
    return title, f"{beside}<p style='color:{grey}'>Words</p><table cellpadding='2'>{rows}</table>{keys}"


def words_html() -> str:
    """Every word of the shop."""
    from redline_bore.ui.help.text import shop_words

    return f"<table cellpadding='2'>{''.join(_row(word, meaning) for word, meaning in shop_words().items())}</table>"
