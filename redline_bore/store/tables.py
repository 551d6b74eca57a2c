"""The tables of a logbook, the same in a file and on a server.

What is booked stands in ``job``, ``entry``, ``photo``, ``figure_set``, ``shop_figure`` and ``job_aside``: added to, and nothing else.
What is kept beside it, so that nothing need be folded to be found, stands in ``job_line`` and ``job_kept``; it can be made anew at any time. ``bench`` says
who is at which job just now.
"""

from __future__ import annotations

import sqlalchemy as sa

metadata = sa.MetaData()

job_table = sa.Table(
    "job",
    metadata,
    sa.Column("id", sa.Integer, primary_key=True),
    sa.Column("number", sa.String, nullable=False, unique=True),
    sa.Column("opened_at", sa.String, nullable=False),
)
entry_table = sa.Table(
    "entry",
    metadata,
    sa.Column("job_id", sa.ForeignKey("job.id"), primary_key=True),
    sa.Column("seq", sa.Integer, primary_key=True),
    sa.Column("at", sa.String, nullable=False),
    sa.Column("person", sa.String, nullable=False),
    sa.Column("instrument", sa.String, nullable=False),
    sa.Column("block_c", sa.Float),
    sa.Column("typed", sa.String, nullable=False),
    sa.Column("kind", sa.String, nullable=False),
    sa.Column("version", sa.Integer, nullable=False),
    sa.Column("body", sa.Text, nullable=False),
    sa.Column("hash", sa.String, nullable=False),
)
photo_table = sa.Table(
    "photo",
    metadata,
    sa.Column("sha256", sa.String, primary_key=True),
    sa.Column("media", sa.String, nullable=False),
    sa.Column("data", sa.LargeBinary, nullable=False),
)
figure_set_table = sa.Table(
    "figure_set",
    metadata,
    sa.Column("sha256", sa.String, primary_key=True),
    sa.Column("body", sa.Text, nullable=False),
)
figure_table = sa.Table(
    "shop_figure",
    metadata,
    sa.Column("id", sa.Integer, primary_key=True),
    sa.Column("at", sa.String, nullable=False),
    sa.Column("person", sa.String, nullable=False),
    sa.Column("key", sa.String, nullable=False),
    sa.Column("value", sa.Text, nullable=False),
)
aside_table = sa.Table(
    "job_aside",
    metadata,
    sa.Column("id", sa.Integer, primary_key=True),
    sa.Column("at", sa.String, nullable=False),
    sa.Column("person", sa.String, nullable=False),
    sa.Column("job_id", sa.ForeignKey("job.id"), nullable=False),
    sa.Column("aside", sa.Boolean, nullable=False),
)
line_table = sa.Table(
    "job_line",
    metadata,
    sa.Column("job_id", sa.ForeignKey("job.id"), primary_key=True),
    sa.Column("number", sa.String, nullable=False),
    sa.Column("owner", sa.String, nullable=False),
    sa.Column("engine", sa.String, nullable=False),
    sa.Column("notes", sa.Text, nullable=False),  # what was noted, for the search
    sa.Column("opened_at", sa.String, nullable=False),
    sa.Column("last_at", sa.String, nullable=False),
    sa.Column("seq", sa.Integer, nullable=False),  # of the newest entry, and its hash
    sa.Column("link", sa.String, nullable=False),
    sa.Column("turn", sa.Integer, nullable=False),  # grows with every booking in the logbook: the newest is the largest
    sa.Column("step", sa.String, nullable=False),
    sa.Column("done", sa.Text, nullable=False),  # a JSON list, as are people and machines
    sa.Column("promised", sa.String, nullable=False),
    sa.Column("due", sa.String, nullable=False),  # the day promised, while it is not signed off
    sa.Column("waits_for", sa.String, nullable=False),
    sa.Column("people", sa.Text, nullable=False),
    sa.Column("machines", sa.Text, nullable=False),
    sa.Column("aside", sa.String, nullable=False),  # who set it aside, and when
    sa.Column("models", sa.Integer, nullable=False),  # by which version of the program's models it was kept
)
kept_table = sa.Table(
    "job_kept",
    metadata,
    sa.Column("job_id", sa.ForeignKey("job.id"), primary_key=True),
    sa.Column("name", sa.String, primary_key=True),
    sa.Column("key", sa.String, nullable=False),  # by which others look for it; empty: nothing is kept
    sa.Column("body", sa.Text, nullable=False),
)
bench_table = sa.Table(
    "bench",
    metadata,
    sa.Column("bench", sa.String, primary_key=True),
    sa.Column("person", sa.String, nullable=False),
    sa.Column("job_id", sa.Integer, nullable=False),  # 0: at none
    sa.Column("at", sa.String, nullable=False),
)
LINE_SAYS = (  # the columns of a line that its job says
    "owner", "engine", "notes", "step", "done", "promised", "due", "waits_for", "people", "machines",
)  # fmt: skip
APPENDED = ("job", "entry", "photo", "figure_set", "shop_figure", "job_aside")  # nobody changes or deletes in these
