"""What the keys and the menu do: each command is declared beside the function that does it. Importing this package declares all."""

from redline_bore.ui.commands import begin, bench, files, find, instruments, looking  # noqa: F401  (importing declares)
from redline_bore.ui.commands.command import Command, commands

__all__ = ["Command", "commands"]
