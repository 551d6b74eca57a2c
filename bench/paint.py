"""The start of the program on a logbook: up to its first paint, and on until the block plan stands, too, which is painted right behind it."""

import gc
import os
import sys

gc.disable()  # as the command line does before it loads the window
from pathlib import Path  # noqa: E402

from PyQt6.QtCore import QEvent, QObject, QSettings  # noqa: E402

from redline_bore.app import application, build_window  # noqa: E402
from redline_bore.store.kept_answers import keep_answers  # noqa: E402


class Painted(QObject):
    """Notes that a widget was asked to paint itself."""

    seen = False

    def eventFilter(self, widget: QObject | None, event: QEvent | None) -> bool:
        self.seen = self.seen or (event is not None and event.type() == QEvent.Type.Paint)
        return False


app = application()
window = build_window(
    Path(sys.argv[1]),
    (sys.argv[2] or None) if len(sys.argv) > 2 else None,
    QSettings(sys.argv[1] + ".ini", QSettings.Format.IniFormat),
)
painted = Painted()
window.card.care.installEventFilter(painted)  # the last words of the card, painted with all the rest
window.show()
while not painted.seen:
    app.processEvents()
print("painted" if window.session.state is not None else "no job is open", flush=True)
while not window.plan.words and window.session.state is not None:
    app.processEvents()
print("whole", flush=True)
if len(sys.argv) > 3:  # as a window that is closed does: what it worked out is there the next time
    keep_answers()
os._exit(0)
