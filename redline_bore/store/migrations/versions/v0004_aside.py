"""Jobs set aside: one that cannot be shown, or is not wanted in the list. Kept as everything is, and brought back the same way."""

import sqlalchemy as sa
from alembic import op

from redline_bore.store.migrations.guards import guard

revision = "0004"
down_revision = "0003"


def upgrade() -> None:
    op.create_table(
        "job_aside",
        sa.Column("id", sa.Integer, primary_key=True),
        sa.Column("at", sa.String, nullable=False),
        sa.Column("person", sa.String, nullable=False),
        sa.Column("job_id", sa.Integer, sa.ForeignKey("job.id"), nullable=False),
        sa.Column("aside", sa.Boolean, nullable=False),
    )
    guard("job_aside")
