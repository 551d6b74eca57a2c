"""Blocks of the loop, worked to the letter: each as a story, and what is said along the ledgers of some of them.

``python -m tests.job.said.worked`` writes the files beside this one anew; read the difference before it is committed.
"""

import tempfile
from collections.abc import Sequence
from pathlib import Path

from redline_bore.desk.desk import Desk
from redline_bore.job.kinds.entry import Record
from redline_bore.loop.machinist import Machinist
from redline_bore.loop.reckoning import ladder_told, reckon
from redline_bore.store.logbook import Logbook
from redline_bore.truth.block import true_block
from tests.job.said.everything import HERE, JOBS, said

TOLD = tuple(
    range(900001, 900025)
)  # singles, twins, vees, flats; wear of every kind; bored, given up, left as they are
SAID = (900007, 900008, 900012, 900019)  # a vee of lobed holes, dry sleeves, none that cleans up, iron in aluminium
STOPS = 6


def worked(seed: int) -> tuple[list[str], Sequence[Record]]:
    """The story of a block, and its ledger."""
    with tempfile.TemporaryDirectory() as folder:
        desk = Desk(lambda: Logbook(Path(folder) / "logbook.sqlite"), person="LOOP")
        try:
            machinist = Machinist(desk, true_block(seed))
            found = reckon(machinist)
            story = [*found.story, *ladder_told(machinist.state)]
            return story, desk.logbook.ledger(desk.logbook.job_id(machinist.state.number))
        finally:
            desk.close()


def stories() -> list[str]:
    """What came of every block."""
    return [line for seed in TOLD for line in worked(seed)[0]]


def elsewhere() -> set[str]:
    """What is said of the sample jobs is not kept twice."""
    return {line for number in JOBS for line in (HERE / f"{number}.txt").read_text("utf-8").splitlines()}


def main() -> None:
    """Write the stories, and what is said along the way."""
    from redline_bore.store.shop import shipped_figures

    (HERE / "stories.txt").write_text("\n".join(stories()) + "\n", "utf-8")
    known = elsewhere()
    for seed in SAID:
        more = [x for x in said(worked(seed)[1], shipped_figures(), STOPS) if x not in known]
        (HERE / f"block-{seed}.txt").write_text("\n".join(more) + "\n", "utf-8")


if __name__ == "__main__":
    main()
