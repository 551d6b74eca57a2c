"""The first logbook: jobs, their ledgers, the shop's own figures. A ledger can be added to and nothing else."""

import sqlalchemy as sa
from alembic import op

from redline_bore.store.migrations.guards import guard

revision = "0001"
down_revision = None


def upgrade() -> None:
    op.create_table(
        "job",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("number", sa.String, nullable=False, unique=True),
        sa.Column("owner", sa.String, nullable=False),
        sa.Column("engine", sa.String, nullable=False),
        sa.Column("opened_at", sa.String, nullable=False),
        sa.Column("step", sa.String, nullable=False),
    )
    op.create_table(
        "entry",
        sa.Column("job_id", sa.Integer, sa.ForeignKey("job.id"), primary_key=True),
        sa.Column("seq", sa.Integer, primary_key=True),
        sa.Column("at", sa.String, nullable=False),
        sa.Column("person", sa.String, nullable=False),
        sa.Column("instrument", sa.String, nullable=False),
        sa.Column("block_c", sa.Float),
        sa.Column("typed", sa.String, nullable=False),
        sa.Column("kind", sa.String, nullable=False),
        sa.Column("version", sa.Integer, nullable=False),
        sa.Column("body", sa.Text, nullable=False),
    )
    op.create_table(
        "shop_figure",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("at", sa.String, nullable=False),
        sa.Column("person", sa.String, nullable=False),
        sa.Column("key", sa.String, nullable=False),
        sa.Column("value", sa.Text, nullable=False),
    )
    for table in ("entry", "shop_figure"):
        guard(table)
