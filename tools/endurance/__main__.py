"""``make endurance MINUTES=10``: two windows, two gauges and a command line at once; ``make soak MINUTES=60``: one window, 20 readings a second."""

from __future__ import annotations

import argparse
import sys
import tempfile
from pathlib import Path

from tools.endurance.soak import MOST_FRAME_MS, soak
from tools.endurance.together import together


def main() -> int:
    """Run one of the two; the line of counts last."""
    parser = argparse.ArgumentParser(prog="endurance", description=__doc__)
    parser.add_argument("what", choices=("together", "soak"))
    parser.add_argument("--minutes", type=float, default=10.0)
    parser.add_argument("--a-second", type=float, default=0.0, help="readings a second at each gauge (1; the soak 20)")
    given = parser.parse_args()
    with tempfile.TemporaryDirectory() as folder:
        if given.what == "together":
            found = together(Path(folder), 60.0 * given.minutes, given.a_second or 1.0)
            line = f"{found.readings} readings of two gauges and {found.lines} lines from the command line"
            faults = found.faults
        else:
            s = soak(Path(folder), 60.0 * given.minutes, given.a_second or 20.0)
            line = (
                f"{s.readings} readings, memory {s.growth_mb:+.1f} MB after the first minutes, {s.frames} frames: "
                f"99 % under {s.late_ms:.1f} ms of CPU, the longest {s.longest_ms:.1f}, {s.over} over {MOST_FRAME_MS:g}; "
                f"of two that did the same, the longest in both {s.longest_both_ms:.1f}, {s.over_both} over"
            )
            faults = s.faults
            if s.over_both:  # judged here and not in a test: a test is never timed
                faults = (*faults, f"{s.over_both} frames were long in both")
    for fault in faults[:20]:
        print(fault)
    print(f"{line}: {len(faults)} faults (refused, lost, doubled, misplaced, grown)")
    return 1 if faults else 0


if __name__ == "__main__":
    sys.exit(main())
