"""What the jobs of an engine family in a logbook taught."""

from __future__ import annotations

from redline_bore.core.figures import Figures
from redline_bore.job.kinds.fold import folded
from redline_bore.job.sign_off.learned import family_lessons
from redline_bore.job.state.booking import Lesson
from redline_bore.store.logbook import Logbook


def lessons_in(logbook: Logbook, engine: str, figures: Figures) -> tuple[Lesson, ...]:
    """The lessons of the signed jobs of ``engine``, the oldest job first; none where no job of it was signed."""
    of_family = sorted(line.job_id for line in logbook.jobs() if line.engine == engine)
    return family_lessons(folded((logbook.ledger(job_id) for job_id in of_family), figures), engine)
