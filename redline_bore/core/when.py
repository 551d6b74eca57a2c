"""Times as people at this place read them: kept in UTC, shown local; with the zone where a sheet leaves the shop."""

from __future__ import annotations

from datetime import datetime


def local(at: str) -> datetime:
    """A kept time (ISO 8601) at this place."""
    return datetime.fromisoformat(at).astimezone()


def day(at: str) -> str:
    """The day at this place, as 2026-10-12."""
    return f"{local(at):%Y-%m-%d}"


def moment(at: str) -> str:
    """Day and time at this place, as 2026-10-12 08:15."""
    return f"{local(at):%Y-%m-%d %H:%M}"


def zoned(at: str) -> str:
    """Day, time and zone, as 2026-10-12 08:15 CEST: for what leaves the shop."""
    return f"{local(at):%Y-%m-%d %H:%M %Z}"
