"""The sheet as HTML, for the browser and, in a plainer dress, for printing."""

from __future__ import annotations

from collections.abc import Mapping
from functools import lru_cache

from jinja2 import Environment, PackageLoader, StrictUndefined, Template

from redline_bore.core.block import MATERIALS
from redline_bore.job.advice import Show
from redline_bore.job.book_in import ALLOYS
from redline_bore.job.sign_off import Sheet
from redline_bore.job.state import STEP_TITLES


@lru_cache(maxsize=2)
def _template(name: str) -> Template:
    environment = Environment(
        loader=PackageLoader("redline_bore.store", "templates"), autoescape=True, undefined=StrictUndefined,
        trim_blocks=True, lstrip_blocks=True,
    )  # fmt: skip
    return environment.get_template(name)


def sheet_html(sheet: Sheet, show: Show, pictures: Mapping[str, str], printing: bool = False) -> str:
    """The sheet as an HTML document.

    pictures: markup by name (``wall_1`` ...: an <svg> for the browser, a placeholder for the printer).
    printing: leave out what a paper page does not need.
    """
    state = sheet.state
    return _template("sheet.html").render(
        sheet=sheet, state=state, show=show, pictures=pictures, printing=printing, material=MATERIALS[state.block.material],
        alloy=ALLOYS[state.book_in.piston_alloy], titles=STEP_TITLES, struck=len(state.struck),
    )  # fmt: skip
