"""A logbook on a PostgreSQL server that the shop names: several benches book into it at once."""

from __future__ import annotations

from typing import TYPE_CHECKING, Any

import sqlalchemy as sa
from sqlalchemy.engine import make_url
from sqlalchemy.exc import ArgumentError, DBAPIError

from redline_bore.core.errors import EnvironmentTrouble, InputError, LogbookBusy, ServerAway
from redline_bore.store.base import Base

CONNECT_S = 4  # how long a server is waited for
KEPT_ALIVE: dict[str, Any] = {
    "keepalives_idle": 5,
    "keepalives_interval": 2,
    "keepalives_count": 2,
    "tcp_user_timeout": 4000,
}  # a cut wire is noticed
HELD_MS = 5000  # how long another bench that books into the same job is waited for
CHANNEL = "redline_bore"
if TYPE_CHECKING:
    import psycopg

MAY_NOT = "42501"
HELD = ("55P03", "57014", "40P01", "40001")  # another bench holds it: wait for a lock, deadlock, serialisation


class PostgresServer(Base):
    """The logbook in a database of a server. Benches append and read; what else they may not, the database itself refuses."""

    _ear: psycopg.Connection[Any] | None  # listens to what others book

    def __init__(self, url: str, busy_s: float | None = None) -> None:
        try:
            made = make_url(url.replace("postgres://", "postgresql://", 1)).set(drivername="postgresql+psycopg")
        except (ArgumentError, ValueError) as error:
            raise InputError(f"{url} is no address of a server; like postgresql://shop-server/redline") from error
        super().__init__()
        self.where = made.set(drivername="postgresql").render_as_string(hide_password=True)
        self.url, self._ear = made, None
        options = f"-c lock_timeout={HELD_MS if busy_s is None else int(1000 * busy_s)} -c timezone=UTC"
        self.engine = self._pooled(sa.create_engine(
            made, pool_pre_ping=False, pool_size=3, connect_args={"connect_timeout": CONNECT_S, "options": options, "application_name": "redline-bore", **KEPT_ALIVE}
        ))  # fmt: skip
        self.driver_error = self.engine.dialect.loaded_dbapi.Error
        try:
            with self.told(), self.engine.connect() as connection:
                self.version = self._version(connection)
        except BaseException:
            self.engine.dispose()
            raise

    def _version(self, connection: sa.Connection) -> str:
        """Of the tables there; empty where there are none. Raises EnvironmentTrouble where they are another program's."""
        names = set(sa.inspect(connection).get_table_names())
        if names and "alembic_version" not in names:
            raise EnvironmentTrouble(f"The database {self.where} is another program's; nothing in it was touched")
        row = connection.exec_driver_sql("SELECT version_num FROM alembic_version").first() if names else None
        return "" if row is None else str(row[0])

    def trouble(self, error: Exception) -> EnvironmentTrouble:
        its = error.orig if isinstance(error, DBAPIError) else error
        said, state = str(its).strip().splitlines()[0:1], getattr(its, "sqlstate", None)
        if state in HELD:
            return LogbookBusy(f"Another bench books into the logbook {self.where}. Nothing was booked; try it again")
        if state == MAY_NOT:
            return EnvironmentTrouble(
                f"The server does not let this bench do that in {self.where}: {''.join(said)}. Whoever keeps the server makes it ready by "
                f"redline-bore prepare, and makes this login a member of the benches"
            )
        lost = isinstance(its, self.driver_error) and (
            getattr(error, "connection_invalidated", False) or state is None or state[:2] in ("08", "57")
        )
        kind = ServerAway if lost else EnvironmentTrouble
        return kind(f"The logbook {self.where} cannot be used: {''.join(said)}. Nothing was booked")

    def hold(self, connection: sa.Connection, job_id: int) -> None:
        connection.exec_driver_sql("SELECT pg_advisory_xact_lock(%s)", (job_id,))

    def hold_and_say(self, connection: sa.Connection, job_id: int) -> None:
        """In one way there and back; nobody hears of a transaction that is given up."""
        connection.exec_driver_sql(
            "SELECT pg_advisory_xact_lock(%s), pg_notify(%s, %s)", (job_id, CHANNEL, str(job_id))
        )

    def number_behind(self, connection: sa.Connection) -> None:
        for table in ("job", "shop_figure", "job_aside"):
            connection.exec_driver_sql(
                f"SELECT setval(pg_get_serial_sequence('{table}', 'id'), (SELECT coalesce(max(id), 0) + 1 FROM {table}), false)"
            )

    def say(self, connection: sa.Connection, job_id: int) -> None:
        connection.exec_driver_sql("SELECT pg_notify(%s, %s)", (CHANNEL, str(job_id)))

    def listen(self, seconds: float) -> bool:
        """The server tells by itself."""
        import psycopg

        try:
            if self._ear is None:
                self._ear = psycopg.connect(
                    self.url.set(drivername="postgresql").render_as_string(hide_password=False), autocommit=True, connect_timeout=CONNECT_S,
                    application_name="redline-bore listens", **KEPT_ALIVE,
                )  # fmt: skip
                self._ear.execute(f"LISTEN {CHANNEL}")
                return True  # what came before nobody heard
            return any(True for _ in self._ear.notifies(timeout=seconds, stop_after=1))
        except psycopg.Error as error:
            self.stop_listening()
            raise ServerAway(f"The logbook {self.where} cannot be heard: {error}") from error

    def stop_listening(self) -> None:
        if self._ear is not None:
            self._ear.close()
            self._ear = None

    def damage(self, connection: sa.Connection) -> tuple[str, ...]:
        """A server checks its own pages; the entries' hashes are checked one by one wherever they lie."""
        connection.exec_driver_sql("SELECT 1")
        return ()

    def keep_copy(self) -> None:
        """A server's own backups are its keeper's; nothing is copied here."""

    def words(self, connection: sa.Connection, job_id: int, words: str) -> None:
        """The index of the server follows the columns by itself."""

    def holding(self, word: str, line: sa.Table) -> sa.ColumnElement[bool]:
        return sa.or_(*(line.c[n].icontains(word, autoescape=True) for n in ("number", "owner", "engine", "notes")))
