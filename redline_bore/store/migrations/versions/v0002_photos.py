"""Photos: pictures kept with a job, under their own hash. As with a ledger, nothing is changed or deleted."""

import sqlalchemy as sa
from alembic import op

revision = "0002"
down_revision = "0001"


def upgrade() -> None:
    op.create_table(
        "photo",
        sa.Column("sha256", sa.String, primary_key=True),
        sa.Column("media", sa.String, nullable=False),
        sa.Column("data", sa.LargeBinary, nullable=False),
    )
    for act in ("UPDATE", "DELETE"):
        op.execute(
            f"CREATE TRIGGER photo_no_{act.lower()} BEFORE {act} ON photo "
            f"BEGIN SELECT RAISE(ABORT, 'nothing in a ledger is changed or deleted'); END"
        )
