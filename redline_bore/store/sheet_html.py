"""The sheet as HTML, for the browser and, in a plainer dress, for printing."""

from __future__ import annotations

from collections.abc import Mapping

from redline_bore.core.block import MATERIALS
from redline_bore.job.advice import Show
from redline_bore.job.analysis import start_of
from redline_bore.job.book_in import ALLOYS
from redline_bore.job.hone_ledger import ledger_of
from redline_bore.job.sign_off import Sheet
from redline_bore.job.state import STEP_TITLES
from redline_bore.store.templating import template


def sheet_html(sheet: Sheet, show: Show, pictures: Mapping[str, str], printing: bool = False) -> str:
    """The sheet as an HTML document.

    pictures: markup by name (``wall_1`` ...: an <svg> for the browser, a placeholder for the printer).
    printing: leave out what a paper page does not need.
    """
    state = sheet.state
    return template("sheet.html").render(
        sheet=sheet, state=state, show=show, pictures=pictures, printing=printing, material=MATERIALS[state.block.material],
        alloy=ALLOYS[state.book_in.piston_alloy], titles=STEP_TITLES, ledger={row.cylinder: row.cells for row in ledger_of(state).rows},
        began={c: start_of(state, c) for c in state.cylinders}, struck=len(state.struck),
    )  # fmt: skip
