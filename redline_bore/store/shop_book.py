"""What a logbook holds beside its jobs: the shop's own figures, photos, who is at which bench."""

from __future__ import annotations

import json
from collections.abc import Sequence
from contextlib import suppress
from datetime import UTC, datetime, timedelta
from typing import Any

import sqlalchemy as sa

from redline_bore.core.errors import InputError
from redline_bore.core.figures import Figures
from redline_bore.core.when import now
from redline_bore.job.kinds.defects import PhotoAttached
from redline_bore.job.kinds.entry import Record
from redline_bore.store.opened import Opened
from redline_bore.store.photos import PhotoBytes
from redline_bore.store.quick_read import newest_figures
from redline_bore.store.shop import shipped_figures
from redline_bore.store.tables import (
    bench_table,
    figure_table,
    photo_table,
)

GONE_AFTER = timedelta(seconds=45)  # a bench that said nothing for so long is not there


class ShopBook(Opened):
    """The shop's own, for all its jobs."""

    def figures(self) -> Figures:
        """Shipped figures with the shop's own laid over."""
        query = sa.select(figure_table.c.key, figure_table.c.value).order_by(figure_table.c.id)
        with self._reading() as connection:
            own = newest_figures(tuple(row) for row in connection.execute(query))
        return shipped_figures().with_own(own)

    def set_figure(self, key: str, value: Any, person: str) -> Figures:
        """Book the shop's own figure (None takes it back). Raises FaultyInput when it does not fit."""
        if value is not None:
            shipped_figures().with_own({key: value})
        else:
            shipped_figures().figure(key)
        with self._writing() as connection:
            connection.execute(
                sa.insert(figure_table).values(at=now(), person=person, key=key, value=json.dumps(value))
            )
        return self.figures()

    def keep_photo(self, photo: PhotoBytes) -> None:
        """Keep a picture; when this returns it is on the disk. Kept once, however often it is used."""
        with self._writing() as connection:
            self._keep_photo(connection, photo)

    def _keep_photo(self, connection: sa.Connection, photo: PhotoBytes) -> None:
        there = sa.select(photo_table.c.media).where(photo_table.c.sha256 == photo.sha256)
        if connection.execute(there).scalar() is None:
            connection.execute(sa.insert(photo_table).values(sha256=photo.sha256, media=photo.media, data=photo.data))

    def photo(self, sha256: str) -> PhotoBytes:
        """A kept picture. Raises InputError when there is none under that hash."""
        query = sa.select(photo_table.c.media, photo_table.c.data).where(photo_table.c.sha256 == sha256)
        with self._reading() as connection:
            row = connection.execute(query).first()
        if row is None:
            raise InputError(f"The photo {sha256[:12]} is not in this logbook")
        return PhotoBytes(sha256, row[0], bytes(row[1]))

    def photos_of(self, ledger: Sequence[Record]) -> tuple[PhotoBytes, ...]:
        """Every picture that a ledger names and that is here, once each; one that is missing keeps no job from going out."""
        named = dict.fromkeys(r.entry.sha256 for r in ledger if isinstance(r.entry, PhotoAttached))
        found = []
        for sha256 in named:
            with suppress(InputError):
                found.append(self.photo(sha256))
        return tuple(found)

    def say_present(self, bench: str, person: str, job_id: int) -> None:
        """Say who is at which job at a bench (0: at none); it is forgotten after a while."""
        b = bench_table.c
        row = {"person": person, "job_id": job_id, "at": now()}
        with self._writing(lasting=False) as connection:  # so that no reading waits for its way to the disk
            if not connection.execute(sa.update(bench_table).where(b.bench == bench).values(**row)).rowcount:
                connection.execute(sa.insert(bench_table).values(bench=bench, **row))

    def who_is_at(self, job_id: int, but: str = "") -> tuple[str, ...]:
        """Who is at a job just now, at other benches than ``but``; in the order of the alphabet."""
        b, since = bench_table.c, (datetime.now(UTC) - GONE_AFTER).isoformat(timespec="milliseconds")
        query = sa.select(b.person).where(b.job_id == job_id, b.bench != but, b.at > since).distinct()
        with self._reading() as connection:
            return tuple(sorted(connection.execute(query).scalars()))
