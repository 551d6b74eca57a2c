"""The chain: every entry carries a hash of itself and of the one before. Entries booked earlier are linked as they stand."""

import sqlalchemy as sa
from alembic import op

from redline_bore.store.chain import link
from redline_bore.store.migrations.guards import guard, unguard

revision = "0003"
down_revision = "0002"

_LINKED = sa.text("UPDATE entry SET hash = :hash WHERE job_id = :job_id AND seq = :seq")
_COLUMNS = "job_id, seq, at, person, instrument, block_c, typed, version, body"


def upgrade() -> None:
    connection = op.get_bind()
    unguard("entry", "UPDATE")
    op.add_column("entry", sa.Column("hash", sa.String, nullable=False, server_default=""))
    job, before = None, ""
    for row in connection.exec_driver_sql(f"SELECT {_COLUMNS} FROM entry ORDER BY job_id, seq").fetchall():
        if row[0] != job:
            job, before = row[0], ""
        before = link(before, *row[1:])
        connection.execute(_LINKED, {"hash": before, "job_id": row[0], "seq": row[1]})
    guard("entry", ("UPDATE",))
