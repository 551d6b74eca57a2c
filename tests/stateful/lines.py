"""What people type: the forms there are, with slips in them."""

import string

from hypothesis import strategies as st

from redline_bore.core.gauging import Place
from redline_bore.core.lengths import Units
from redline_bore.job.kinds.grammar import phrases_at
from redline_bore.job.kinds.phrase import At, Where
from redline_bore.job.proposals import StepProposals
from redline_bore.job.state.job_state import STEPS, JobState

TODAY = "2026-11-29"
SLIPS = (
    "",
    " ",
    "-",
    "9",
    ".",
    ",",
    "1²",
    "-0.0",
    "1e9",
    "nan",
    " 16 to 45",
    " across",
    "mm",
    " in",
    "…",
    "½",
    "9" * 40,
)


def examples_of(state: JobState, step: str, cylinder: int = 1, units: Units = Units.METRIC) -> list[str]:
    """An example of every line that a step takes, made from the job."""
    at = At(state, Where(cylinder, Place(0, 0), units), StepProposals(), TODAY)
    return [p.example(at) for p in phrases_at(step)]


steps = st.sampled_from(STEPS)
slips = st.one_of(st.just(""), st.sampled_from(SLIPS), st.text(string.printable, max_size=6))
picks = st.integers(0, 200)
sizes = st.one_of(
    st.integers(-9_999_999, 9_999_999).map(lambda n: f"{n / 10_000:.4f}"),
    st.sampled_from(("105.214", "4.1412", "0", "5")),
)
