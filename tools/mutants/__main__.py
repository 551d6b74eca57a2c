"""python -m tools.mutants [--count 500] [--seed 1] [--package core job]: how many random faults the tests notice.

Which tests are asked about a line is learned once by coverage (``--learn``, kept in build/mutants). Each fault is tried in a fork
of a process that has loaded everything but the program, so that a try costs little more than its tests.
"""

from __future__ import annotations

import argparse
import os
import random
import shutil
import signal
import sqlite3
import subprocess
import sys
import time
import tomllib
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from pathlib import Path

from tools.mutants.sites import Site, sites_in

ROOT = Path(__file__).parent.parent.parent
BUILD = ROOT / "build" / "mutants"
DATA = BUILD / "coverage"
JUDGED = ROOT / "tests" / "survivors.toml"
LEAST = {"core": 90.0, "job": 85.0}
LONGEST_S = 90
MOST_TESTS = 60
SAID = {
    f"tests/job/said/test_said.py::{name}"
    for name in ("test_what_is_declared_of_the_kinds_is_what_was", "test_everything_that_is_said_is_what_was_said")
}
PLAIN = ["-q", "-x", "-p", "no:pytest-qt", "-p", "no:cacheprovider", "--no-header", "-W", "ignore"]


@dataclass(frozen=True)
class Tried:
    """A fault that was tried. ``how``: noticed, not noticed, too slow, or no test comes there."""

    site: Site
    how: str

    @property
    def killed(self) -> bool:
        """Whether a test noticed."""
        return self.how in ("noticed", "too slow")


def learn() -> None:
    """Run the tests of core and job once, and keep which test comes to which line."""
    BUILD.mkdir(parents=True, exist_ok=True)
    config = BUILD / "coveragerc"
    config.write_text(
        f"[run]\nsource = {ROOT / 'redline_bore'}\ndynamic_context = test_function\ndata_file = {DATA}\nbranch = False\n"
    )
    demo = [sys.executable, "-m", "redline_bore", "demo", "--logbook", str(BUILD / "demo.sqlite")]
    (BUILD / "demo.sqlite").unlink(missing_ok=True)
    subprocess.run(demo, cwd=ROOT, check=True, stdout=subprocess.DEVNULL)
    asked = [sys.executable, "-m", "coverage", "run", f"--rcfile={config}", "-m", "pytest", *PLAIN, "-c", str(ini())]
    subprocess.run([*asked, "--rootdir", str(ROOT), "tests/core", "tests/job"], cwd=ROOT, check=True, env=environment())


def ini() -> Path:
    """A pytest set-up without the window's."""
    path = BUILD / "pytest.ini"
    path.write_text("[pytest]\n")
    return path


def environment(every: bool = False) -> dict[str, str]:
    """Fewer examples, and the sample jobs as they were written once; two of them, or every one, for what is said."""
    told = {"REDLINE_DEMO": str(BUILD / "demo.sqlite"), "HYPOTHESIS_PROFILE": "few"}
    return os.environ | told | ({} if every else {"REDLINE_SAID": "2036 2044"})


def tests_of_lines() -> dict[str, dict[int, set[str]]]:
    """For every file, the tests that come to each of its lines, as pytest names them."""
    found: dict[str, dict[int, set[str]]] = {}
    from coverage.numbits import numbits_to_nums

    with sqlite3.connect(DATA) as kept:
        rows = kept.execute(
            "SELECT file.path, context.context, line_bits.numbits FROM line_bits JOIN file ON file.id = file_id "
            "JOIN context ON context.id = context_id WHERE context.context != ''"
        )
        for path, context, bits in rows:
            module, _, function = context.rpartition(".")
            test = f"{module.replace('.', '/')}.py::{function}"
            for line in numbits_to_nums(bits):
                found.setdefault(path, {}).setdefault(line, set()).add(test)
    return found


def chosen(package: str, count: int, seed: int) -> list[Site]:
    """So many faults of a package, at random."""
    every = every_fault(package)
    return random.Random(seed).sample(every, min(count, len(every)))


def every_fault(package: str) -> list[Site]:
    """Every fault that can be put into a package."""
    files = sorted((ROOT / "redline_bore" / package).rglob("*.py"))
    return [site for path in files for site in sites_in(path, ROOT)]


def in_order(site: Site, tests: Iterable[str], every: bool = False) -> list[str]:
    """The tests of a fault, those of its own package first, so many at most, or every one; what is said of whole jobs is asked last."""
    package = f"tests/{site.path.parent.relative_to('redline_bore')}/"
    near = sorted(
        (t for t in tests if "/said/" not in t), key=lambda t: (not t.startswith(package), "/findings/" not in t, t)
    )
    return [*(near if every else near[:MOST_TESTS]), *(t for t in tests if "/said/" in t)]


def survivors_of(path: Path) -> set[str]:
    """The faults named in what an earlier run printed: file, what was there, what was put there."""
    found = set()
    for line in path.read_text("utf-8").splitlines():
        name = line.strip().rpartition("   [")[0] or line.strip()
        file, _, rest = name.partition(":")
        found.add(f"{file}: {rest.partition(': ')[2].strip()}")
    return found


def attempt(site: Site, tests: Iterable[str], folder: Path, every: bool = False) -> int:
    """Try a fault in a fork; returns the child's number. The child leaves with pytest's exit code."""
    child = os.fork()
    if child:
        return child
    os.setsid()
    with open(os.devnull, "w") as nowhere:
        os.dup2(nowhere.fileno(), 1)
        os.dup2(nowhere.fileno(), 2)
    try:
        target = folder / site.path
        before = target.read_text("utf-8")
        target.write_text(site.source, "utf-8")
        os.chdir(folder)
        sys.path[:] = [str(folder), *(p for p in sys.path if p not in ("", str(ROOT)))]
        sys.dont_write_bytecode = True
        os.environ.update(environment(every))
        import pytest

        try:
            code = int(pytest.main([*PLAIN, "-c", str(BUILD / "pytest.ini"), "--rootdir", str(folder), *tests]))
        finally:
            target.write_text(before, "utf-8")
    except BaseException:
        code = 3  # a fault that keeps the tests from starting is noticed
    os._exit(code)


def run(sites: Sequence[Site], workers: int) -> list[Tried]:
    """Try every fault, some at a time: on the tests that are likeliest to notice, and what lives on every test that comes there."""
    first = _run(sites, workers, every=False)
    alive = [t.site for t in first if t.how == "not noticed"]
    return [t for t in first if t.how != "not noticed"] + _run(alive, workers, every=True)


def _run(sites: Sequence[Site], workers: int, every: bool) -> list[Tried]:
    import hypothesis  # noqa: F401  (loaded before the forks)
    import numpy  # noqa: F401
    import pytest  # noqa: F401
    import scipy.interpolate  # noqa: F401
    import scipy.optimize  # noqa: F401
    import scipy.signal  # noqa: F401
    import sqlalchemy  # noqa: F401

    lines = tests_of_lines()
    free, running, done = [_copy(i) for i in range(workers)], {}, []
    waiting = list(sites)
    while waiting or running:
        while waiting and free:
            site = waiting.pop()
            of_file = lines.get(str(ROOT / site.path), {})
            # a line that runs at import belongs to no test: every test that comes to the file is asked, and what is said of all
            tests = of_file.get(site.line) or set().union(*of_file.values(), SAID)
            if not tests:
                done.append(Tried(site, "no test comes there"))
                continue
            folder = free.pop()
            order = in_order(site, tests, every)
            running[attempt(site, order, folder, every)] = (site, folder, time.monotonic())
        time.sleep(0.02)
        for child, (site, folder, began) in list(running.items()):
            ended, status = os.waitpid(child, os.WNOHANG)
            slow = not ended and time.monotonic() - began > LONGEST_S * (3 if every else 1)
            if slow:
                os.killpg(child, signal.SIGKILL)
                os.waitpid(child, 0)
                shutil.copy(ROOT / site.path, folder / site.path)
            if ended or slow:
                how = "too slow" if slow else "not noticed" if os.waitstatus_to_exitcode(status) == 0 else "noticed"
                done.append(Tried(site, how))
                print(f"\r{len(done)} of {len(sites)}, {sum(t.killed for t in done)} noticed ", end="", file=sys.stderr)
                if how == "not noticed":  # told at once: whoever waits can begin on it
                    print(f"\n  {site.name}", file=sys.stderr)
                free.append(folder)
                del running[child]
    print(file=sys.stderr)
    return done


def _copy(number: int) -> Path:
    folder = BUILD / f"worker{number}"
    shutil.rmtree(folder, ignore_errors=True)
    skip = shutil.ignore_patterns("__pycache__", "ui", "screenshots")
    shutil.copytree(ROOT / "redline_bore", folder / "redline_bore", ignore=shutil.ignore_patterns("__pycache__"))
    shutil.copytree(ROOT / "tests", folder / "tests", ignore=skip)
    shutil.copytree(ROOT / "docs", folder / "docs", ignore=skip)
    return folder


def judged() -> dict[str, str]:
    """The survivors that somebody judged, by the text of the fault (line numbers move): equivalent, or wanted, and why."""
    if not JUDGED.exists():
        return {}
    return {
        f"{s['file']}: {s['fault']}": s["why"] for s in tomllib.loads(JUDGED.read_text("utf-8")).get("survivor", ())
    }


def main() -> int:
    """Returns 1 where a package falls short, or a survivor was not judged."""
    parser = argparse.ArgumentParser(description=__doc__)
    parser.add_argument("--count", type=int, default=500)
    parser.add_argument("--seed", type=int, default=1)
    parser.add_argument("--package", nargs="+", default=["core", "job"])
    parser.add_argument("--workers", type=int, default=os.cpu_count() or 1)
    parser.add_argument("--learn", action="store_true", help="learn anew which tests come to which line")
    parser.add_argument(
        "--again", type=Path, help="only the faults that this earlier run (its output) left alive; they may have moved"
    )
    given = parser.parse_args()
    if given.learn or not DATA.exists():
        learn()
    ini()
    short, known, told = False, judged(), []
    for package in given.package:
        sites = chosen(package, given.count, given.seed) if given.again is None else every_fault(package)
        if given.again is not None:
            alive = survivors_of(given.again)
            sites = list({site.text: site for site in sites if site.text in alive}.values())
        tried = run(sites, given.workers)
        share = 100.0 * sum(t.killed for t in tried) / max(len(tried), 1)
        unjudged = 0
        for t in sorted((t for t in tried if not t.killed), key=lambda t: t.site.name):
            why = known.get(t.site.text, "")
            unjudged += not why
            print(f"  {t.site.name}   [{t.how}]   {why}")
        short |= share < LEAST.get(package, 0.0)
        told.append(f"{package}: {share:.1f} % of {len(tried)} noticed, {unjudged} survivors not judged")
    print("; ".join(told))
    return 1 if short else 0


if __name__ == "__main__":
    sys.exit(main())
