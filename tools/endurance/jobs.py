"""A logbook with large jobs to read: many cylinders, the race plan, nothing read yet."""

from __future__ import annotations

from pathlib import Path

from redline_bore.core.lengths import Units
from redline_bore.job.book_in.draft import book_in_from_draft, empty_draft
from redline_bore.job.kinds.book_in import JobOpened
from redline_bore.job.kinds.entry import Draft
from redline_bore.job.kinds.gauge import PlanChosen
from redline_bore.job.kinds.plans import standard_plan
from redline_bore.job.profiles.practice import shop_practices
from redline_bore.store.logbook import Logbook
from redline_bore.store.shop import shipped_figures

CYLINDERS = 12
ZERO_MM = 105.0


def made_jobs(path: Path, count: int) -> list[str]:
    """Write so many jobs; returns their numbers."""
    figures, book, numbers = shipped_figures(), Logbook(path), list[str]()
    draft = empty_draft(Units.METRIC, figures) | {
        "owner": "Tarn mill", "engine": "twelve", "layout": "vee", "cylinders": str(CYLINDERS), "bore_mm": f"{ZERO_MM:g}",
        "stroke_mm": "110", "length_mm": "190",
    }  # fmt: skip
    for n in range(count):
        number = f"{5000 + n}"
        book_in = book_in_from_draft(draft | {"number": number})
        opening = JobOpened(
            number=number, units=Units.METRIC, book_in=book_in, figures=figures.plain(), practices=shop_practices(figures)
        )  # fmt: skip
        plan = standard_plan(book_in, figures, "race")
        chosen = PlanChosen(name=plan.name, depths_mm=plan.depths_mm, clocks_deg=plan.clocks_deg)
        book.take_ledger([Draft(opening, "RM"), Draft(chosen, "RM")])
        numbers.append(number)
    book.close()
    return numbers
