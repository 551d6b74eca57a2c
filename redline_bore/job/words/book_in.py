"""Advice at book in: what is still not known of the block, and what that leaves open."""

from __future__ import annotations

from collections.abc import Sequence

from redline_bore.core.block import MATERIALS, room_below
from redline_bore.core.figures import cited
from redline_bore.core.show import Show
from redline_bore.core.volumes import swept_cm3
from redline_bore.job.card import Advice, FigureLine, Mark, Note, WorkLine
from redline_bore.job.lessons import MINUTES
from redline_bore.job.state.booking import Lesson
from redline_bore.job.state.job_state import JobState
from redline_bore.job.words.lessons import jobs_said, lesson_words

CARE = "Blocks crush: rated lifting gear, and clamp before cutting."


def family_told(lessons: Sequence[Lesson]) -> str:
    """How much an engine family taught, and which jobs did."""
    jobs = jobs_said(tuple(dict.fromkeys(number for x in lessons for number in x.jobs)))
    if count := sum(x.what != MINUTES for x in lessons):
        return f"This family taught {count} figure{'s' if count > 1 else ''}, in {jobs}: {'they are' if count > 1 else 'it is'} proposed until this block's own are known."
    return f"How long the steps of this family take is known from {jobs}."


def family_working(lessons: Sequence[Lesson], show: Show) -> tuple[WorkLine, ...]:
    """Each lesson of the family on a line."""
    return tuple(
        WorkLine(
            lesson_words(x, show), "the times in its ledgers" if x.what == MINUTES else "signed jobs of this family"
        )
        for x in lessons
    )


def advise(state: JobState, show: Show) -> Advice:
    """What the book-in step says of a job that exists."""
    block, travel = state.block, state.travel
    room = room_below(block)
    open_points = []
    if not travel.top_stated:
        open_points.append("Where the top ring stops is a starting point; measure it.")
    if not travel.pack_stated:
        open_points.append("How far the lowest ring is from the top one is a starting point; measure it on the piston.")
    if room is None:
        open_points.append("Room below is not known: measure it before a stone or a bar goes through.")
    if not state.book_in.oversizes_mm:
        open_points.append("No piston sizes are listed; ask which oversizes exist.")
    if any(x.what != MINUTES for x in state.booking.lessons):
        open_points.append(Note(f"{family_told(state.booking.lessons)} W lists them."))
    figures = (
        FigureLine("cylinders", f"{block.cylinders}, {block.layout}"),
        FigureLine("bore × stroke", show.unit(f"{show.rough(block.bore_mm)} × {show.rough(block.stroke_mm)}")),
        FigureLine("swept, all", show.volume(swept_cm3(block.bore_mm, block.stroke_mm) * block.cylinders)),
        FigureLine(
            "ring travel",
            show.unit(f"{show.depth(travel.top_mm)}–{show.depth(travel.bottom_mm)}"),
            Mark.PLAIN if travel.stated else Mark.LOOK,
        ),
        FigureLine(
            "room below",
            show.unit(show.depth(room)) if room is not None else "not known",
            Mark.PLAIN if room is not None else Mark.LOOK,
        ),
    )
    starts = (("ring_top", travel.top_stated), ("ring_pack", travel.pack_stated))
    guessed = [f"gauging.{what}" for what, known in starts if not known]
    working = (
        WorkLine(
            f"ring travel = top ring {show.depth(travel.top_mm)} down to {show.depth(travel.top_mm)} + stroke "
            f"{show.depth(block.stroke_mm)} + ring pack = {show.unit(show.depth(travel.bottom_mm))}",
            "as stated" if travel.stated else cited(*guessed),
        ),
        WorkLine(
            f"{MATERIALS[block.material]} grows {show.growth(state.coefficient_1e6)}",
            state.figures.figure(f"thermal.{block.material}").source,
        ),
        *family_working(state.booking.lessons, show),
    )
    sentence = "Booked in. Gauge every cylinder." if not state.gauging.readings else "Booked in and gauging has begun."
    return Advice("Call · block", sentence, figures, tuple(open_points), working, "Go to gauge", CARE, leads_on=True)
