"""The command line: the window, and the same jobs and papers without one."""

from redline_bore.cli.main import main

__all__ = ["main"]
