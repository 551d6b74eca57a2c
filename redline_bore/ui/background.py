"""Work off the interface thread: one job a name, newest wins, older ones are cancelled."""

from __future__ import annotations

from collections.abc import Callable
from threading import Event
from typing import Any

from PyQt6.QtCore import QEvent, QObject, QRunnable, QThreadPool, QTimer, pyqtSignal
from PyQt6.QtWidgets import QWidget

QUICK_S = 0.04  # how long the interface thread waits for what is mostly there at once; 0: not at all


class Cancelled(Exception):
    """The work was no longer wanted."""


class Token:
    """Handed to the work; it asks now and then whether to go on."""

    def __init__(self) -> None:
        self._cancelled = False  # written once, read by the work: a plain flag will do

    def cancel(self) -> None:
        self._cancelled = True

    @property
    def cancelled(self) -> bool:
        return self._cancelled

    def check(self) -> None:
        """Raises Cancelled when the work is no longer wanted."""
        if self.cancelled:
            raise Cancelled


class Runner(QObject):
    """Runs named work on a thread pool. Results arrive on the interface thread, through the callback given."""

    _done = pyqtSignal(str, object, object, object)
    busy = pyqtSignal(str, bool)

    def __init__(self) -> None:
        super().__init__()
        self._pool = QThreadPool()
        self._pool.setMaxThreadCount(2)
        self._quick = QThreadPool()  # not behind a wall that takes a second
        self._quick.setMaxThreadCount(1)
        self._tokens: dict[str, Token] = {}
        self._callbacks: dict[Token, tuple[Callable[[Any], None], Callable[[BaseException], None] | None]] = {}
        self._done.connect(self._finish)

    def start(
        self, name: str, work: Callable[[Token], Any], then: Callable[[Any], None],
        failed: Callable[[BaseException], None] | None = None, after_ms: int = 0, painted: QWidget | None = None,
    ) -> None:  # fmt: skip
        """Run ``work(token)`` off the thread; older work of that name is cancelled and its result dropped.

        after_ms: wait that long first, so that what has just changed is painted before the work competes for time. painted: wait until that has been;
        where it is hidden first, nobody wants it any more.
        """
        self.cancel(name)
        token = Token()
        self._tokens[name] = token
        self._callbacks[token] = (then, failed)
        self.busy.emit(name, True)
        task = _Task(name, token, work, self._done.emit)

        def begin() -> None:
            if not token.cancelled:
                self._pool.start(task)

        if painted is not None:
            _AfterPaint(painted, begin, lambda: None if token.cancelled else self.cancel(name))
        elif after_ms:
            QTimer.singleShot(after_ms, begin)
        else:
            self._pool.start(task)

    def quickly(
        self, name: str, work: Callable[[Token], Any], then: Callable[[Any], None],
        failed: Callable[[BaseException], None] | None = None,
    ) -> None:  # fmt: skip
        """``start``, for what is mostly there at once: where the result comes within a frame or two it is handed over before this returns, else when
        it comes. For what touches the disk or another machine."""
        self.cancel(name)
        token = Token()
        self._tokens[name] = token
        self._callbacks[token] = (then, failed)
        task = _Task(name, token, work, self._done.emit)
        ready, outcome = task.ready, task.outcome  # the pool takes the task away when it is done
        self._quick.start(task)
        if QUICK_S > 0.0 and ready.wait(QUICK_S) and outcome:
            self._finish(name, token, *outcome[0])

    def cancel(self, name: str) -> None:
        """Ask the work of that name to stop; its result will not be delivered."""
        token = self._tokens.pop(name, None)
        if token is not None:
            token.cancel()
            self._callbacks.pop(token, None)
            self.busy.emit(name, False)

    def stop(self) -> None:
        """Cancel everything and wait for the threads to end."""
        for name in list(self._tokens):
            self.cancel(name)
        self._pool.waitForDone()
        self._quick.waitForDone()

    def _finish(self, name: str, token: Token, result: Any, error: BaseException | None) -> None:
        callbacks = self._callbacks.pop(token, None)
        if callbacks is None or token.cancelled:
            return
        self._tokens.pop(name, None)
        self.busy.emit(name, False)
        then, failed = callbacks
        if error is None:
            then(result)
        elif failed is not None:
            failed(error)
        else:
            raise error


class _AfterPaint(QObject):
    """Does something once a widget has been painted, with all that is painted in its turn; something else where it is hidden first."""

    def __init__(self, widget: QWidget, then: Callable[[], None], hidden: Callable[[], None]) -> None:
        super().__init__(widget)
        self._after = {QEvent.Type.Paint: then, QEvent.Type.Hide: hidden}
        widget.installEventFilter(self)
        widget.update()

    def eventFilter(self, widget: QObject | None, event: QEvent | None) -> bool:
        if widget is not None and event is not None and (act := self._after.get(event.type())) is not None:
            widget.removeEventFilter(self)
            QTimer.singleShot(0, act)
            self.deleteLater()
        return False


class _Task(QRunnable):
    def __init__(self, name: str, token: Token, work: Callable[[Token], Any], done: Callable[..., None]) -> None:
        super().__init__()
        self._name, self._token, self._work, self._done = name, token, work, done
        self.ready, self.outcome = Event(), list[tuple[Any, BaseException | None]]()

    def run(self) -> None:
        result, error = None, None
        try:
            self._token.check()
            result = self._work(self._token)
        except BaseException as caught:  # handed over, and raised again on the interface thread
            error = caught
        if not isinstance(error, Cancelled):
            self.outcome.append((result, error))
        self.ready.set()
        if not isinstance(error, Cancelled):
            self._done(self._name, self._token, result, error)
