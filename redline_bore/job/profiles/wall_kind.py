"""What a cylinder's wall is made as."""

from __future__ import annotations

from redline_bore.core.block import WallKind
from redline_bore.core.frozen import frozen
from redline_bore.job.profiles.data import table


@frozen
class WallProfile:
    """sleeved: there is a sleeve that can come out. flanged: it hangs by a flange."""

    kind: WallKind
    sleeved: bool = False
    flanged: bool = False


PROFILES = {kind: WallProfile(kind, **table("wall_kind")[kind.value]) for kind in WallKind}


def wall_profile(kind: WallKind) -> WallProfile:
    """The profile of a kind of wall."""
    return PROFILES[kind]
