"""The examples in the core's docstrings are true."""

import doctest
import importlib
import pkgutil

import pytest

from redline_bore import core

MODULES = [m.name for m in pkgutil.walk_packages(core.__path__, "redline_bore.core.")]


@pytest.mark.parametrize("name", MODULES)
def test_the_examples_of_a_module(name):
    assert doctest.testmod(importlib.import_module(name)).failed == 0


def test_there_are_examples_to_try():
    finder = doctest.DocTestFinder()
    tried = sum(1 for name in MODULES for t in finder.find(importlib.import_module(name)) if t.examples)
    assert tried >= 20
