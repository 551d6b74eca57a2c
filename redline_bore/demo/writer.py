"""Books the entries of a sample job one after another, as a person at the bench would have."""

from __future__ import annotations

import random
from collections.abc import Iterator
from datetime import datetime, timedelta
from importlib import resources

from redline_bore.core.figures import Figures
from redline_bore.core.show import Show
from redline_bore.demo import pictures
from redline_bore.desk.calls import call_at
from redline_bore.desk.desk import Desk
from redline_bore.job.kinds.book_in import JobOpened
from redline_bore.job.kinds.bore import MachineStated
from redline_bore.job.kinds.defects import PhotoAttached
from redline_bore.job.kinds.entry import Draft, Entry, Record
from redline_bore.job.kinds.finish import TraceBooked
from redline_bore.job.kinds.gauge import ReadingBooked
from redline_bore.job.kinds.hone import CheckLogged
from redline_bore.job.kinds.sign_off import FinalGauged, StepStamped
from redline_bore.job.state.calling import Apart
from redline_bore.job.state.job_state import JobState
from redline_bore.store.logbook import Logbook
from redline_bore.store.photos import photo_of
from redline_bore.truth.wall import TrueWall

SEED = 2041
GAUGE_SD_MM = 0.0008
WHO = "RM"
NORTH = MachineStated(
    name="north", thick_mm=60.0, reach_mm=250.0, speeds_rpm=(110.0, 150.0, 210.0, 300.0, 420.0, 600.0, 850.0, 1200.0)
)


class Writer:
    """Books entries one after another, a little later each."""

    def __init__(self, logbook: Logbook, opening: JobOpened, at: str, shipped: Figures) -> None:
        self.at, self.logbook, self.shipped = datetime.fromisoformat(at), logbook, shipped
        self.drafts: list[Draft] = []
        job_id = logbook.open_job(opening, WHO, self.stamp(0))
        self.job = Desk(lambda: logbook, shipped, WHO).take_up(job_id, logbook.ledger(job_id))

    def stamp(self, seconds: float) -> str:
        self.at += timedelta(seconds=seconds)
        return self.at.isoformat(timespec="milliseconds")

    def book(self, entry: Entry, block_c: float | None = None, typed: str = "", after_s: float = 20.0) -> None:
        instrument = "bore gauge" if isinstance(entry, (ReadingBooked, CheckLogged, FinalGauged)) else ""
        instrument = "profilometer" if isinstance(entry, TraceBooked) else instrument
        self.drafts.append(Draft(entry, WHO, instrument, block_c, typed, self.stamp(after_s)))

    def picture(self, entry: Entry, name: str) -> None:
        """Book an entry and keep the picture of demo/pictures it was read from."""
        photo = photo_of((resources.files(pictures) / name).read_bytes(), name)
        self.logbook.keep_photo(photo)
        self.book(entry, typed=f"picture {name}", after_s=90.0)
        of = self.ledger()[-1].seq
        self.book(PhotoAttached(seq=of, name=name, media=photo.media, sha256=photo.sha256), typed=name, after_s=1.0)

    def flush(self) -> None:
        if self.drafts:
            self.job.book_drafts(self.drafts)
        self.drafts = []

    def ledger(self) -> tuple[Record, ...]:
        self.flush()
        return tuple(self.job.records)

    def state(self) -> JobState:
        """The job as it stands so far."""
        self.flush()
        return self.job.state

    def decide(self, oversize_mm: float, apart: tuple[Apart, ...] = ()) -> None:
        """Take the call with the words the program itself has for it, and stamp it."""
        state = self.state()
        self.book(call_at(state, 1, oversize_mm, apart, Show(state.units)))
        self.book(StepStamped(step="call", initials=WHO))


def gauging(
    wall: TrueWall, depths: tuple[float, ...], clocks: tuple[float, ...], plate_on: bool, block_c: float, seed: int
) -> Iterator[tuple[ReadingBooked, str]]:
    """Readings of every place with the gauge's own error, and what was typed for each."""
    chance = random.Random(seed)
    for cylinder in range(1, len(wall.cylinders) + 1):
        for depth in depths:
            for clock in clocks:
                true = wall.diameter_at(cylinder, depth, clock, plate_on, block_c)
                read = round((true + chance.gauss(0.0, GAUGE_SD_MM)) / 0.0005) * 0.0005
                yield (
                    ReadingBooked(
                        cylinder=cylinder, depth_mm=depth, clock_deg=clock, diameter_mm=round(read, 4), plate_on=plate_on
                    ),
                    f"{read:.4f}",
                )  # fmt: skip
