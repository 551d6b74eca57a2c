"""``make loop BLOCKS=1000 SEED=1``: a campaign; ``SEED=.. BLOCKS=1 STORY=1``: one block as a story, with truth beside belief."""

from __future__ import annotations

import argparse
import sys

from redline_bore.loop.campaign import campaign, faults_of, line_of, seeds_of, tables, worked

MOST_LISTED = 30


def main() -> int:
    """Run a campaign, or tell a block."""
    parser = argparse.ArgumentParser(prog="redline-bore loop", description=__doc__)
    parser.add_argument("--blocks", type=int, default=1000)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument(
        "--story", action="store_true", help="tell one block entry by entry; its seed is the one a campaign printed"
    )
    given = parser.parse_args()
    if given.story:
        block = worked(given.seed)
        print("\n".join([*block.story, "", *(faults_of(block) or ["Nothing went wrong."])]))
        return 0
    found = campaign(seeds_of(given.seed, given.blocks))
    print(tables(found))
    bad = sorted(((b.seed, fault) for b in found for fault in faults_of(b)), key=lambda f: "under the window" in f[1])
    print(f"\n{len({s for s, _ in bad})} blocks to look at" + (":" if bad else ""))
    for seed, fault in bad[:MOST_LISTED]:
        print(f"  SEED={seed} STORY=1   {fault}")
    print(f"\n{line_of(found)}")
    return 0


if __name__ == "__main__":
    sys.exit(main())
