"""The second opinion as half a page to hand to the other person: what each read, what explains it, what is left."""

from __future__ import annotations

from redline_bore.core.errors import InputError
from redline_bore.core.show import Show
from redline_bore.job.gauge.second_opinion import comparisons, newest, settle_next
from redline_bore.job.state.job_state import JobState
from redline_bore.job.words.second_opinion import PLATE, SETTLES, assumed_words, ours_words
from redline_bore.store.templating import template

MOST_COLUMNS = 6  # as many readings as half a page is wide


def opinion_html(state: JobState, show: Show, printing: bool = False) -> str:
    """The half page. Raises InputError when nobody else's readings can be set against ours."""
    shop, rows = newest(state), comparisons(state)
    if shop is None or not rows:
        raise InputError("There is no second opinion to write: book their readings first")
    shown = sorted(sorted(rows, key=lambda r: -abs(r.opinion.gap_mm))[:MOST_COLUMNS], key=rows.index)
    return template("opinion.html").render(
        state=state, show=show, shop=shop, rows=shown, left_out=len(rows) - len(shown), next=SETTLES[settle_next(state, rows)], ours=ours_words(rows[0]), plate=PLATE[rows[0].plate_from], assumed=assumed_words(rows[0], show), printing=printing,
        all_explained=all(r.opinion.explained for r in rows),
    )  # fmt: skip
