"""The finish as CSV: a row for each trace, its figures in um unless the head says otherwise."""

from __future__ import annotations

import csv
import io

from redline_bore.core.texture.parameters import PARAMETERS, unit_of
from redline_bore.job.finish.judgement import spot_name, texture_at
from redline_bore.job.state.job_state import JobState
from redline_bore.store.exports import cell


def _head(name: str) -> str:
    unit = unit_of(name).replace("%", "pct").replace("/", "_")
    return f"{name}_{unit}" if unit else name


def finish_csv(state: JobState) -> str:
    """Every trace of a job with all its figures; empty cells are figures that a trace does not have."""
    out = io.StringIO()
    rows = csv.writer(out, lineterminator="\n")
    rows.writerow(
        [
            "entry",
            "cylinder",
            "spot",
            "depth_mm",
            "plateau_strokes",
            "source",
            "person",
            "at",
            *(_head(n) for n in PARAMETERS),
            "flags",
        ]
    )
    for t in state.finishing.traces:
        x = texture_at(t)
        values = ["" if (v := x.value(n)) is None else f"{v:.5g}" for n in PARAMETERS]
        depth = "" if t.depth_mm is None else f"{t.depth_mm:g}"
        had = "" if t.plateau_strokes is None else f"{t.plateau_strokes:g}"
        place = [str(t.seq), str(t.cylinder), spot_name(state, t.depth_mm), depth, had]
        rows.writerow([*place, cell(t.source), cell(t.person), t.at, *values, " ".join(x.flags)])
    return out.getvalue()
