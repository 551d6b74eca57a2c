"""Theme: palette, scale and the shipped B612 type, in one object that every widget is handed."""

from __future__ import annotations

from pathlib import Path

from PyQt6.QtCore import QObject, Qt, pyqtSignal
from PyQt6.QtGui import QColor, QFont, QFontDatabase, QFontMetricsF
from PyQt6.QtWidgets import QApplication, QWidget

from redline_bore.ui.theme.palette import PALETTES, Palette

TOUCH_PX = 44.0
SCALES = (0.8, 0.9, 1.0, 1.1, 1.25, 1.4, 1.6, 1.8, 2.0)
_FACES = ("B612-Regular.ttf", "B612-Bold.ttf")
_LATER = ("B612-Italic.ttf", "B612Mono-Regular.ttf")  # after the proportional ones, or a monospaced face poses as B612


def load_fonts(app: QApplication) -> None:
    """Give Qt the faces that the first picture needs, and let nothing be measured by another one before it is styled."""
    _load(_FACES)
    usual = QFont("B612")
    usual.setPixelSize(14)
    app.setFont(usual)


def load_other_fonts() -> None:
    """Give Qt the rest of the shipped faces."""
    _load(_LATER)


def _load(names: tuple[str, ...]) -> None:
    folder = Path(__file__).parent / "fonts"
    for name in names:
        QFontDatabase.addApplicationFontFromData((folder / name).read_bytes())


def styled_anew(widget: QWidget) -> None:
    """Let a widget follow its style again, after a name or a property that the style goes by. One that was never styled will be, by itself."""
    if not widget.testAttribute(Qt.WidgetAttribute.WA_WState_Polished):
        return  # asking for the style costs a fiftieth of the start
    style = widget.style()
    assert style is not None
    style.unpolish(widget)
    style.polish(widget)


class Theme(QObject):
    """Colours and sizes. ``changed`` is emitted when either changes. clear: high contrast; touch: targets for fingers, and a pad to type on."""

    changed = pyqtSignal()

    def __init__(self, night: bool = False, scale: float = 1.0, clear: bool = False, touch: bool = False) -> None:
        super().__init__()
        self.night, self.scale, self.clear, self.touch = night, scale, clear, touch
        self._colours: dict[tuple[str, float, bool, bool], QColor] = {}
        self._maps: dict[tuple[bool, bool], list[QColor]] = {}
        self._fonts: dict[tuple[int, bool, bool], QFont] = {}
        self._metrics: dict[tuple[int, bool], QFontMetricsF] = {}
        self._widths: dict[tuple[int, bool, str], float] = {}

    @property
    def palette(self) -> Palette:
        return PALETTES[self.night, self.clear]

    def colour(self, role: str, alpha: float = 1.0) -> QColor:
        """The colour of a role, or of a literal #rrggbb."""
        key = (role, alpha, self.night, self.clear)
        if key not in self._colours:
            colour = QColor(role if role.startswith("#") else getattr(self.palette, role))
            colour.setAlphaF(alpha)
            self._colours[key] = colour
        return self._colours[key]

    def map_colour(self, share: float) -> QColor:
        """The colour of the tight-to-open map at a share of its scale: -1 tight, 0 at the reference, 1 open."""
        step = round(max(-1.0, min(1.0, share)) * 127)
        return self.map_colours()[step + 127]

    def map_colours(self) -> list[QColor]:
        """The 255 colours of the map, from tight through paper to open."""
        light = (self.night, self.clear)
        if light not in self._maps:
            middle = self.colour("map_middle").getRgb()[:3]
            found = []
            for step in range(-127, 128):
                end = self.colour("open" if step >= 0 else "tight").getRgb()[:3]
                a = (abs(step) / 127) ** 0.8
                found.append(QColor(*(round(m * (1 - a) + e * a) for m, e in zip(middle, end, strict=True))))
            self._maps[light] = found
        return self._maps[light]

    def px(self, length: float) -> int:
        """A length in pixels at the present scale."""
        return round(length * self.scale)

    def font(self, size: float = 14.0, bold: bool = False, mono: bool = False) -> QFont:
        """B612 at a pixel size (at 100 %)."""
        key = (max(1, self.px(size)), bold, mono)
        if key not in self._fonts:
            font = QFont("B612 Mono" if mono else "B612")
            font.setPixelSize(key[0])
            font.setBold(bold)
            self._fonts[key] = font
        return self._fonts[key]

    def metrics(self, size: float, bold: bool = False) -> QFontMetricsF:
        """Metrics of ``font(size, bold)``."""
        key = (self.px(size), bold)
        if key not in self._metrics:
            self._metrics[key] = QFontMetricsF(self.font(size, bold))
        return self._metrics[key]

    def text_width(self, text: str, size: float, bold: bool = False) -> float:
        """Width of a text in pixels; remembered, since the same figures are drawn again and again."""
        key = (self.px(size), bold, text)
        if key not in self._widths:
            if len(self._widths) > 4000:
                self._widths.clear()
            self._widths[key] = self.metrics(size, bold).horizontalAdvance(text)
        return self._widths[key]

    def set_night(self, night: bool) -> None:
        if night != self.night:
            self.night = night
            self.changed.emit()

    def set_clear(self, clear: bool) -> None:
        if clear != self.clear:
            self.clear = clear
            self.changed.emit()

    def set_touch(self, touch: bool) -> None:
        if touch != self.touch:
            self.touch = touch
            self.changed.emit()

    def target(self, usual: float) -> int:
        """How high something is that is touched: as usual, or large enough for a finger."""
        return self.px(max(usual, TOUCH_PX) if self.touch else usual)

    def set_scale(self, scale: float) -> None:
        if scale != self.scale:
            self.scale = scale
            self.changed.emit()

    def stepped(self, steps: int) -> float:
        """The scale a few steps up or down, kept between 80 and 200 %."""
        nearest = min(range(len(SCALES)), key=lambda i: abs(SCALES[i] - self.scale))
        return SCALES[max(0, min(len(SCALES) - 1, nearest + steps))]

    def style_sheet(self) -> str:
        """The style sheet of the whole window."""
        c, px = self.palette, self.px
        around = (3 * px(2), 2 * px(5) + 2, 2 * px(6) + 1)  # padding and edge of each
        edit, button, item = (self.target(0) - n if self.touch else 0 for n in around)
        rows = px(13) if self.touch else px(5)
        return f"""
        * {{ font-family: B612; font-size: {px(14)}px; color: {c.ink}; }}
        QMainWindow, QWidget#work {{ background: {c.paper}; }}
        QWidget#strip, QWidget#plan, QWidget#card, QWidget#sheet {{ background: {c.sheet}; }}
        QLineEdit, QComboBox, QPlainTextEdit {{
            background: {c.sheet}; border: 0; border-bottom: {px(2)}px solid {c.graphite};
            padding: {px(2)}px {px(4)}px; min-height: {edit}px; selection-background-color: {c.tight}; selection-color: {c.sheet};
        }}
        QLineEdit:focus, QComboBox:focus {{ border-bottom: {px(2)}px solid {c.tight}; background: {c.paper}; }}
        QLineEdit[faulty="true"] {{ background: {c.look_ground}; border-bottom: {px(2)}px dashed {c.look}; }}
        QComboBox QAbstractItemView {{ background: {c.sheet}; selection-background-color: {c.tight}; selection-color: {c.sheet}; }}
        QComboBox::drop-down {{ border: 0; width: {px(16)}px; }}
        QPushButton {{ background: {c.sheet}; border: 1px solid {c.graphite}; padding: {px(5)}px {px(12)}px; min-height: {button}px; min-width: {button}px; }}
        QPushButton:focus {{ border: {px(2)}px solid {c.tight}; }}
        QPushButton:hover {{ background: {c.iron}; }}
        QPushButton:checked {{ background: {c.bar}; color: {c.on_bar}; }}
        QPushButton#main {{ background: {c.ink}; color: {c.sheet}; font-size: {px(16)}px; font-weight: bold; border: 0; padding: {px(11)}px; }}
        QPushButton#main[unsure="true"] {{ background: {c.sheet}; color: {c.ink}; border: {px(2)}px solid {c.ink}; padding: {px(9)}px; }}
        QPushButton#main:focus {{ border: {px(2)}px solid {c.tight}; }}
        QPushButton#main:disabled {{ background: {c.rule}; color: {c.graphite}; }}
        QMenu {{ background: {c.sheet}; border: 1px solid {c.graphite}; padding: {px(4)}px; }}
        QMenu::item {{ padding: {rows}px {px(22)}px; }}
        QMenu::item:selected {{ background: {c.tight}; color: {c.sheet}; }}
        QMenu::item:disabled {{ color: {c.graphite}; }}
        QMenu::separator {{ height: 1px; background: {c.rule}; margin: {px(4)}px; }}
        QListWidget {{ background: {c.sheet}; border: 0; outline: 0; }}
        QListWidget::item {{ padding: {px(6)}px; min-height: {item}px; border-bottom: 1px solid {c.rule}; }}
        QListWidget::item:selected {{ background: {c.iron}; color: {c.ink}; border-left: {px(4)}px solid {c.ink}; }}
        QScrollArea {{ border: 0; background: {c.paper}; }}
        QTableWidget {{ outline: 0; background: {c.sheet}; gridline-color: {c.rule}; border: 0; font-size: {px(15)}px; selection-background-color: {c.iron}; selection-color: {c.ink}; }}
        QTableWidget::item {{ padding: 0 {px(10)}px; }}
        QTableWidget::item:focus {{ border: {px(2)}px solid {c.ink}; }}
        QHeaderView {{ background: {c.sheet}; }}
        QHeaderView::section {{ background: {c.sheet}; color: {c.graphite}; border: 0; border-bottom: 1px solid {c.graphite}; padding: {px(4)}px {px(10)}px; font-weight: normal; }}
        QScrollBar:vertical {{ background: {c.paper}; width: {px(10)}px; }}
        QScrollBar::handle:vertical {{ background: {c.rule}; min-height: {px(24)}px; }}
        QScrollBar::add-line, QScrollBar::sub-line {{ height: 0; }}
        QLabel {{ background: transparent; }}
        QToolTip {{ background: {c.look_ground}; color: {c.ink}; border: 1px solid {c.graphite}; }}
        """
