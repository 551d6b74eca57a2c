"""Where things are kept: the XDG data folder of the person at the bench."""

from __future__ import annotations

from pathlib import Path


def default_logbook() -> Path:
    """The logbook used when none is named."""
    return data_folder() / "logbook.sqlite"


def data_folder() -> Path:
    """This program's folder under the XDG data folder."""
    from platformdirs import user_data_path

    return user_data_path("redline-bore", appauthor=False)
