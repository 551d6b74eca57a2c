"""The sheets as HTML, for the browser and, in a plainer dress, for printing: the customer's on two pages at most, the shop's
with everything."""

from __future__ import annotations

from collections.abc import Mapping

from redline_bore.core.block import MATERIALS
from redline_bore.core.show import Show, cylinders
from redline_bore.job.finish.judgement import TraceStage, finish_windows, shown_parameters, spot_name
from redline_bore.job.gauge.analysis import start_of
from redline_bore.job.hone.stock_ledger import ledger_of
from redline_bore.job.kinds.kind import sheet_lines
from redline_bore.job.profiles.alloys import ALLOYS
from redline_bore.job.sign_off.learned import TaughtOnJob, family_lessons, taught_on_job
from redline_bore.job.sign_off.sheet import Sheet, UnplatedBy, pictures_a_row
from redline_bore.job.state.job_state import STEP_TITLES, JobState
from redline_bore.job.words.call import taken_words
from redline_bore.job.words.instruments_used import instruments_used
from redline_bore.job.words.lessons import lesson_words
from redline_bore.job.words.sign_off import clearance_words, point_words
from redline_bore.job.words.texture import texture_figure, texture_unit


def sheet_html(sheet: Sheet, show: Show, pictures: Mapping[str, str], audience: str, printing: bool = False, new_page: bool = False) -> str:  # fmt: skip
    """A sheet as an HTML document.

    pictures: markup by name (``wall_1``, ``finish_1`` ...: an <svg> for the browser, a placeholder for the printer).
    audience: whose sheet, job.sign_off.CUSTOMER or SHOP. printing: leave out what a paper page does not need.
    new_page: the customer's pictures begin a page of their own.
    """
    state = sheet.state
    names = shown_parameters(state, TraceStage.AFTER)
    from redline_bore.store.templating import template  # where a sheet is laid out: the first picture does without

    return template(f"{audience}.html").render(
        sheet=sheet, open_points=[point_words(p) for p in sheet.open_points], state=state, show=show, pictures=pictures, printing=printing, new_page=new_page, material=MATERIALS[state.block.material],
        alloy=ALLOYS[state.book_in.piston_alloy], titles=STEP_TITLES, ledger={row.cylinder: row.cells for row in ledger_of(state).rows},
        began={c: start_of(state, c) for c in state.cylinders}, struck=len(state.struck), unit=texture_unit(show),
        figure=texture_figure, windows=finish_windows(state), names=names, spot=spot_name,
        plated=[r.cylinder for r in sheet.rows if r.final is not None], cylinders=cylinders, unplated=_unplated(sheet),
        across=pictures_a_row(len(sheet.rows)), instruments=instruments_used(state, show),
        declared=sheet_lines(state, show), clearance=clearance_words, call=taken_words(state, show),
        lessons=[lesson_words(x, show) for x in family_lessons(_taught(state))],
    )  # fmt: skip


def _taught(state: JobState) -> list[TaughtOnJob]:
    taught = taught_on_job(state)
    return [] if taught is None else [taught]


def _unplated(sheet: Sheet) -> list[str]:
    """How the sizes with no plate on are known, each way once."""
    ways = {UnplatedBy.MEASURED: "as measured", UnplatedBy.FORETOLD: "as foretold from gauging both ways"}
    return list(dict.fromkeys(ways[r.unplated_by] for r in sheet.rows if r.unplated_mm is not None))
