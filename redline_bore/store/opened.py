"""A logbook that is open: where it stands, and how it is read and written; in a file, or on a server."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from contextlib import AbstractContextManager, contextmanager
from pathlib import Path
from typing import Any

import sqlalchemy as sa

from redline_bore.core.errors import EnvironmentTrouble
from redline_bore.store.base import Base, SqliteFile
from redline_bore.store.places import is_server, server_path
from redline_bore.store.schema import SCHEMA_VERSION


class Opened:
    """Every method raises EnvironmentTrouble when the logbook cannot be read or written."""

    def __init__(self, where: Path | str, make: bool = True, busy_s: float | None = None) -> None:
        """busy_s: how long another program is waited for at an append; None: a few seconds."""
        self._base = base_of(where, make, busy_s)
        self._figure_sets: dict[str, dict[str, Any]] = {}
        try:
            if not self._base.current:
                self._migrate()
            with self._base.told():
                self._base.opened()
        except BaseException:
            self._base.close()
            raise

    @property
    def path(self) -> Path:
        """The file; on a server, what a file kept for it here is named after."""
        return self._base.path if isinstance(self._base, SqliteFile) else server_path(self._base.where)

    @property
    def where(self) -> str:
        """Where it stands, as it is told to people."""
        return self._base.where

    @property
    def read_only(self) -> bool:
        """Whether it can only be looked at."""
        return self._base.read_only

    def close(self) -> None:
        """Let go of it."""
        self._base.close()

    def _migrate(self) -> None:
        from alembic import command  # here: half a second that only a new or old logbook needs
        from alembic.config import Config
        from alembic.util import CommandError

        if self._base.version > SCHEMA_VERSION:
            raise EnvironmentTrouble(
                f"The logbook {self.where} was written by a newer version of this program; nothing in it was touched"
            )
        if not self._base.new and not self.read_only:
            self._base.keep_copy()
        config = Config()
        config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
        with self._writing() as connection:
            connection.begin()  # else it would be kept after every version on the way
            config.attributes["connection"] = connection
            try:
                command.upgrade(config, "head")
            except CommandError as error:
                raise EnvironmentTrouble(
                    f"The logbook {self.where} was written by a newer version of this program; nothing in it was touched"
                ) from error

    @contextmanager
    def _reading(self) -> Iterator[sa.Connection]:
        """One look at everything as it stands: no lock that anybody waits for."""
        with self._base.told(), self._base.engine.begin() as connection:
            yield connection

    def _writing(self, lasting: bool = True) -> AbstractContextManager[sa.Connection]:
        """The write lock, in the file that was opened and in no other. lasting: it must outlive a power cut, and waits for the disk."""
        if self.read_only:
            raise EnvironmentTrouble(f"The logbook {self.where} can only be read. Nothing was booked")
        return self._base.writing(lasting)

    def damage(self) -> tuple[str, ...]:
        """What the database finds wrong with its own pages and indexes, a sentence each."""
        with self._reading() as connection:
            return self._base.damage(connection)

    @property
    def is_file(self) -> bool:
        """Whether it stands in a file of this machine."""
        return isinstance(self._base, SqliteFile)

    def rows(self, query: sa.Select[Any]) -> list[Any]:
        """What a query finds, for what carries a whole logbook elsewhere."""
        with self._reading() as connection:
            return list(connection.execute(query).fetchall())

    def run(self, work: Callable[[sa.Connection], None]) -> None:
        """Whatever else must be done in the database itself, in one transaction."""
        with self._writing() as connection:
            work(connection)

    def heard(self, seconds: float) -> bool:
        """Wait so long at the most; whether something was booked meanwhile, here or at another bench. For a thread of its own."""
        return self._base.listen(seconds)

    def stop_listening(self) -> None:
        """Listen no more."""
        self._base.stop_listening()

    def reach(self) -> None:
        """Raises ServerAway, EnvironmentTrouble where the logbook cannot be reached just now."""
        with self._reading() as connection:
            connection.execute(sa.select(sa.literal(1)))


def base_of(where: Path | str, make: bool = True, busy_s: float | None = None) -> Base:
    """The place a logbook is named by: the address of a server, else a file. Raises EnvironmentTrouble, InputError."""
    if is_server(where):
        from redline_bore.store.server import PostgresServer

        return PostgresServer(str(where), busy_s)
    return SqliteFile(Path(where), make, busy_s)
