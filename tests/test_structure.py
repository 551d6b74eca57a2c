"""The arrows point one way, and the contract that says so can fail."""

import ast
import importlib
import importlib.util
import os
import shutil
import subprocess
import sys
from pathlib import Path

import pytest

ROOT = Path(__file__).parent.parent
LINT = Path(sys.executable).with_name("lint-imports")


def lint(folder: Path) -> subprocess.CompletedProcess:
    return subprocess.run(
        [LINT, "--no-cache"],
        cwd=folder,
        capture_output=True,
        text=True,
        env={"PYTHONPATH": str(folder), "PATH": "/usr/bin:/bin"},
    )


def test_contracts_are_kept():
    found = lint(ROOT)
    assert found.returncode == 0, found.stdout + found.stderr


@pytest.mark.parametrize(
    "file, line, contract",
    [
        ("core/fit.py", "import PyQt6.QtCore", "only the interface knows Qt"),
        ("job/gauge/readings.py", "import redline_bore.store.logbook", "arrows point one way"),
        ("core/stock.py", "import pydantic", "the core needs NumPy and SciPy only"),
        ("store/shop.py", "import redline_bore.ui.session", "arrows point one way"),
        ("desk/desk.py", "import PyQt6.QtCore", "only the interface knows Qt"),
        (
            "job/redline.py",
            "import redline_bore.job.gauge.doubt",
            "the packages of a job stand in a row, without a circle",
        ),
        (
            "job/hone/steps.py",
            "import redline_bore.job.finish.judgement",
            "the packages of a job stand in a row, without a circle",
        ),
        (
            "job/hone/finding.py",
            "import redline_bore.job.words.hone",
            "the packages of a job stand in a row, without a circle",
        ),
        (
            "ui/commands/files.py",
            "import redline_bore.ui.main_window",
            "the window knows its commands, and no command the window",
        ),
    ],
)
def test_a_broken_contract_is_noticed(tmp_path, file, line, contract):
    shutil.copytree(ROOT / "redline_bore", tmp_path / "redline_bore", ignore=shutil.ignore_patterns("__pycache__"))
    shutil.copy(ROOT / "pyproject.toml", tmp_path)
    target = tmp_path / "redline_bore" / file
    target.write_text(
        target.read_text().replace(
            "from __future__ import annotations\n", f"from __future__ import annotations\n\n{line}\n", 1
        )
    )
    found = lint(tmp_path)
    assert found.returncode != 0 and f"{contract} BROKEN" in found.stdout, found.stdout


BLOCKER = """
import sys, importlib.abc
class NoWindow(importlib.abc.MetaPathFinder):
    def find_spec(self, name, path=None, target=None):
        if name.split('.')[0] in ('PyQt6', 'sqlalchemy', 'pydantic', 'serial', 'jinja2'):
            raise ImportError(f'{name} is not here')
sys.meta_path.insert(0, NoWindow())
import importlib, pkgutil
from redline_bore import core
for module in pkgutil.walk_packages(core.__path__, 'redline_bore.core.'):
    importlib.import_module(module.name)
import pytest
# every module is there; of the tests all but the slowest, which need the same modules as the others
slow = ['tests/core/texture/test_crosshatch.py', 'tests/core/test_stroke_plan.py', 'tests/core/test_sweep.py']
plain = [*(f'--ignore={name}' for name in slow), '-q', '-p', 'no:pytest-qt', '-p', 'no:cacheprovider', '--hypothesis-profile', 'few', '-c', sys.argv[1], '--rootdir', '.']
sys.exit(pytest.main([*plain, 'tests/core']))
"""


def test_core_tests_pass_where_qt_cannot_be_imported(tmp_path):
    ini = tmp_path / "core.ini"
    ini.write_text("[pytest]\n")
    few = os.environ | {
        "HYPOTHESIS_PROFILE": "few"
    }  # they were tried in full already; here it is only where that matters
    found = subprocess.run([sys.executable, "-c", BLOCKER, str(ini)], cwd=ROOT, capture_output=True, text=True, env=few)
    assert found.returncode == 0, found.stdout[-3000:] + found.stderr[-2000:]


@pytest.mark.parametrize("path", sorted([*(ROOT / "tools").rglob("*.py"), *(ROOT / "bench").rglob("*.py")]), ids=lambda p: str(p.relative_to(ROOT)))  # fmt: skip
def test_what_the_tools_take_from_the_program_is_there(path):
    for node in ast.walk(ast.parse(path.read_text("utf-8"))):
        if isinstance(node, ast.ImportFrom) and (node.module or "").split(".")[0] == "redline_bore":
            module = importlib.import_module(node.module)
            for name in node.names:
                there = hasattr(module, name.name) or importlib.util.find_spec(f"{node.module}.{name.name}") is not None
                assert there, f"line {node.lineno}: {node.module} has no {name.name}"
