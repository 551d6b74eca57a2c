"""Times as people at this place read them: kept in UTC, shown local; with the zone where a sheet leaves the shop."""

from __future__ import annotations

from datetime import UTC, datetime


def now() -> str:
    """The time it is, as it is kept: ISO 8601, UTC, to the millisecond."""
    return datetime.now(UTC).isoformat(timespec="milliseconds")


def hours_between(before: str, after: str) -> float | None:
    """From one kept time to another; under nought where the second comes first, None where one is none. A time without a zone counts as UTC.

    >>> hours_between("2026-11-30T08:00:00.000+00:00", "2026-11-30T09:30:00.000+00:00")
    1.5
    """
    try:
        first, second = (datetime.fromisoformat(at) for at in (before, after))
    except ValueError:
        return None
    first, second = (t if t.tzinfo is not None else t.replace(tzinfo=UTC) for t in (first, second))
    return (second - first).total_seconds() / 3600.0


def local(at: str) -> datetime | None:
    """A kept time (ISO 8601) at this place; None where it is none: it is then shown as it stands."""
    try:
        return datetime.fromisoformat(at).astimezone()
    except ValueError:
        return None


def _written(at: str, pattern: str) -> str:
    here = local(at)
    return at[:40] if here is None else here.strftime(pattern)


def day(at: str) -> str:
    """The day at this place, as 2026-10-12."""
    return _written(at, "%Y-%m-%d")


def day_words(at: str) -> str:
    """A day as it is said: Sat 12 Dec 2026; as it stands where it is none."""
    return _written(at, "%a %d %b %Y")


def moment(at: str) -> str:
    """Day and time at this place, as 2026-10-12 08:15."""
    return _written(at, "%Y-%m-%d %H:%M")


def clock(at: str) -> str:
    """The time of day at this place, as 08:15."""
    return _written(at, "%H:%M")


def zoned(at: str) -> str:
    """Day, time and zone, as 2026-10-12 08:15 CEST: for what leaves the shop."""
    return _written(at, "%Y-%m-%d %H:%M %Z")
