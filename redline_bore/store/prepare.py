"""Making a server's database ready for the benches: its tables, and what a bench may do there. Done once, by whoever keeps the server."""

from __future__ import annotations

import sqlalchemy as sa
from sqlalchemy.exc import DatabaseError

from redline_bore.core.errors import EnvironmentTrouble, InputError
from redline_bore.store.logbook import Logbook
from redline_bore.store.places import is_server
from redline_bore.store.tables import APPENDED

BENCHES = "redline_benches"  # the role that every bench is a member of
BESIDE = ("job_line", "job_kept", "bench")  # made anew at any time: these a bench may write over


def prepare(where: str) -> str:
    """Make the tables of a server's logbook, and let the benches append and read, and nothing else; returns what was done, in words.

    Raises InputError where ``where`` is no server, EnvironmentTrouble where the server refuses.
    """
    if not is_server(where):
        raise InputError(
            f"{where} is a file: only a server is made ready for benches, like postgresql://shop-server/redline"
        )
    logbook = Logbook(where)
    try:
        logbook.run(_grant)
        return f"The logbook {logbook.where} is ready. A bench's login is made a member of {BENCHES} by: GRANT {BENCHES} TO the_login"
    except DatabaseError as error:
        raise EnvironmentTrouble(
            f"The server {logbook.where} refuses to make the role of the benches: {error.orig}"
        ) from error
    finally:
        logbook.close()


def _grant(connection: sa.Connection) -> None:
    there = connection.exec_driver_sql("SELECT 1 FROM pg_roles WHERE rolname = %s", (BENCHES,)).first()
    if there is None:
        connection.exec_driver_sql(f"CREATE ROLE {BENCHES} NOLOGIN")
    for line in (
        "REVOKE ALL ON ALL TABLES IN SCHEMA public FROM PUBLIC",
        f"GRANT USAGE ON SCHEMA public TO {BENCHES}",
        f"GRANT SELECT, INSERT ON {', '.join(APPENDED)} TO {BENCHES}",
        f"GRANT SELECT, INSERT, UPDATE ON {', '.join(BESIDE)} TO {BENCHES}",
        f"GRANT SELECT ON alembic_version TO {BENCHES}",
        f"GRANT USAGE, SELECT ON ALL SEQUENCES IN SCHEMA public TO {BENCHES}",
    ):
        connection.exec_driver_sql(line)
