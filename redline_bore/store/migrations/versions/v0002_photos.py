"""Photos: pictures kept with a job, under their own hash. As with a ledger, nothing is changed or deleted."""

import sqlalchemy as sa
from alembic import op

from redline_bore.store.migrations.guards import guard

revision = "0002"
down_revision = "0001"


def upgrade() -> None:
    op.create_table(
        "photo",
        sa.Column("sha256", sa.String, primary_key=True),
        sa.Column("media", sa.String, nullable=False),
        sa.Column("data", sa.LargeBinary, nullable=False),
    )
    guard("photo")
