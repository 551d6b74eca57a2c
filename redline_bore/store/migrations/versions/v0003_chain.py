"""The chain: every entry carries a hash of itself and of the one before. Entries booked earlier are linked as they stand."""

import sqlalchemy as sa
from alembic import op

from redline_bore.store.chain import link

revision = "0003"
down_revision = "0002"

_COLUMNS = "job_id, seq, at, person, instrument, block_c, typed, version, body"


def upgrade() -> None:
    connection = op.get_bind()
    op.execute("DROP TRIGGER entry_no_update")
    op.add_column("entry", sa.Column("hash", sa.String, nullable=False, server_default=""))
    job, before = None, ""
    for row in connection.exec_driver_sql(f"SELECT {_COLUMNS} FROM entry ORDER BY job_id, seq").fetchall():
        if row[0] != job:
            job, before = row[0], ""
        before = link(before, *row[1:])
        connection.exec_driver_sql("UPDATE entry SET hash = ? WHERE job_id = ? AND seq = ?", (before, row[0], row[1]))
    op.execute(
        "CREATE TRIGGER entry_no_update BEFORE UPDATE ON entry "
        "BEGIN SELECT RAISE(ABORT, 'nothing in a ledger is changed or deleted'); END"
    )
