"""``python -m redline_bore``."""

import sys

from redline_bore.cli import main

sys.exit(main())
