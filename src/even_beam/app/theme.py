"""The two themes: a studio that gives off little light, and paper for bright rooms. Neutral greys, one accent."""

from dataclasses import dataclass
from importlib.resources import files
from pathlib import Path

from PyQt6.QtCore import QByteArray, QRectF, QSize
from PyQt6.QtGui import QColor, QFont, QFontDatabase, QIcon, QPainter, QPalette, QPixmap
from PyQt6.QtSvg import QSvgRenderer
from PyQt6.QtWidgets import QApplication, QWidget

from even_beam.figures.chart import Tone
from even_beam.fonts import FAMILY, MONO_FAMILY, font_files


@dataclass(frozen=True, slots=True)
class Tokens:
    """The colours of a theme, by the part they play."""

    name: str
    ground: str
    panel: str
    raised: str
    hairline: str
    line: str
    text: str
    secondary: str
    coming: str
    accent: str
    accent_ground: str
    fault: str
    green: str
    magenta: str
    series: tuple[str, ...]

    def tone(self, tone: Tone) -> str:
        """The colour of a chart mark's tone."""
        return {
            Tone.PLAIN: self.text,
            Tone.QUIET: self.coming,
            Tone.ACCENT: self.accent,
            Tone.GREEN: self.green,
            Tone.MAGENTA: self.magenta,
        }[tone]

    def of_series(self, index: int) -> str:
        """The colour of a lamp."""
        return self.series[index % len(self.series)]


STUDIO = Tokens(
    "studio",
    "#111111",
    "#161616",
    "#1d1d1d",
    "#2a2a2a",
    "#3a3a3a",
    "#ececec",
    "#a6a6a6",
    "#8c8c8c",
    "#e6a23c",
    "#231c12",
    "#e2604b",
    "#5fb878",
    "#c86dd7",
    ("#56b4e9", "#f0e442", "#b9a3e3", "#ececec", "#e08f62", "#7fd1b9", "#c9a227", "#9fb8c8"),
)
PAPER = Tokens(
    "paper",
    "#f4f4f2",
    "#ebebe9",
    "#ffffff",
    "#d4d4d2",
    "#b4b4b2",
    "#1a1a1a",
    "#4c4c4c",
    "#646464",
    "#8f5400",
    "#f3e7d3",
    "#b3301c",
    "#276f40",
    "#943aa6",
    ("#0068a8", "#856400", "#6d4fb0", "#1a1a1a", "#b0500f", "#00785a", "#7a5a00", "#4f6f84"),
)

_active = STUDIO

SIZES = {"small": 12, "body": 13, "line": 17, "title": 24, "figure": 38, "prompt": 62}


def tokens() -> Tokens:
    """The colours in force."""
    return _active


def color(value: str, alpha: int = 255) -> QColor:
    """A Qt colour of a token."""
    colour = QColor(value)
    colour.setAlpha(alpha)
    return colour


def font(size: str = "body", *, mono: bool = False, bold: bool = False) -> QFont:
    """The shipped family in one of the sizes of the rhythm."""
    made = QFont(MONO_FAMILY if mono else FAMILY)
    made.setPixelSize(SIZES[size])
    made.setBold(bold)
    made.setHintingPreference(QFont.HintingPreference.PreferNoHinting)
    return made


def prepare(application: QApplication) -> None:
    """What is the same in every theme: the shipped fonts and the toolkit's own plain style, which is dear to set."""
    for file in font_files():
        QFontDatabase.addApplicationFontFromData(QByteArray(file.read_bytes()))
    application.setStyle("Fusion")
    application.setFont(font())


def apply(application: QApplication, name: str) -> None:
    """Put a theme in force; what is open is dressed in it with `dress`."""
    global _active  # noqa: PLW0603 - one theme for the whole application, as Qt has one palette
    _active = PAPER if name == "paper" else STUDIO
    application.setPalette(_palette(_active))


def dress(window: QWidget) -> None:
    """Give a window, and all that belongs to it, the sheet of the theme in force.

    The sheet is the window's, not the application's: the toolkit goes over every widget there is, and the charts keep
    hundreds that never show.
    """
    window.setStyleSheet("")  # one sheet after another takes the toolkit three times as long as after none
    window.setStyleSheet(_style_sheet(_active))


def _palette(t: Tokens) -> QPalette:
    palette = QPalette()
    roles = {
        QPalette.ColorRole.Window: t.ground,
        QPalette.ColorRole.WindowText: t.text,
        QPalette.ColorRole.Base: t.panel,
        QPalette.ColorRole.AlternateBase: t.raised,
        QPalette.ColorRole.Text: t.text,
        QPalette.ColorRole.Button: t.raised,
        QPalette.ColorRole.ButtonText: t.text,
        QPalette.ColorRole.Highlight: t.line,
        QPalette.ColorRole.HighlightedText: t.text,
        QPalette.ColorRole.ToolTipBase: t.raised,
        QPalette.ColorRole.ToolTipText: t.text,
        QPalette.ColorRole.PlaceholderText: t.coming,
        QPalette.ColorRole.Link: t.accent,
        QPalette.ColorRole.Accent: t.accent,
    }
    for role, value in roles.items():
        palette.setColor(role, QColor(value))
    return palette


def _style_sheet(t: Tokens) -> str:
    return f"""
    QWidget {{ color: {t.text}; background: {t.ground}; }}
    QLabel {{ background: transparent; }}
    QLabel[part="title"] {{ font-size: 24px; }}
    QLabel[part="countdown"] {{ font-size: 34px; color: {t.accent}; }}
    QLabel[part="line"] {{ font-size: 17px; color: {t.secondary}; }}
    QLabel[part="quiet"] {{ color: {t.secondary}; }}
    QLabel[part="coming"] {{ color: {t.coming}; font-size: 12px; }}
    QLabel[part="mark"] {{ color: {t.accent}; }}
    QPushButton[part="link"] {{ border: none; padding: 2px 0; text-align: left; text-decoration: underline; }}
    QPushButton[part="link"]:focus {{ color: {t.accent}; }}
    QLabel[part="fault"] {{ color: {t.fault}; }}
    QLineEdit, QPlainTextEdit, QComboBox, QSpinBox {{
        background: {t.panel}; border: none; border-bottom: 1px solid {t.line}; padding: 6px 4px;
        selection-background-color: {t.line};
    }}
    QLineEdit:focus, QPlainTextEdit:focus, QComboBox:focus, QSpinBox:focus {{ border-bottom: 2px solid {t.accent}; }}
    QComboBox {{ padding-right: 18px; }}
    QComboBox::drop-down {{ border: none; width: 22px; }}
    QComboBox::down-arrow {{ image: url({_icon_path("chevron-down")}); width: 14px; height: 14px; }}
    QComboBox QAbstractItemView {{
        background: {t.raised}; border: 1px solid {t.line}; selection-background-color: {t.line}; outline: none;
    }}
    QPushButton {{ background: transparent; border: 1px solid {t.line}; padding: 7px 16px; }}
    QPushButton:hover {{ background: {t.raised}; }}
    QPushButton:focus {{ border: 1px solid {t.accent}; }}
    QPushButton:default {{ border: 1px solid {t.accent}; }}
    QPushButton:disabled {{ color: {t.coming}; }}
    QCheckBox {{ background: transparent; spacing: 8px; }}
    QCheckBox::indicator, QListView::indicator {{
        width: 13px; height: 13px; border: 1px solid {t.secondary}; background: transparent;
    }}
    QCheckBox::indicator:checked, QListView::indicator:checked {{
        background: {t.accent}; border: 1px solid {t.accent}; image: url({_icon_path("check")});
    }}
    QRadioButton {{ background: transparent; spacing: 8px; }}
    QRadioButton::indicator {{
        width: 11px; height: 11px; border: 1px solid {t.secondary}; border-radius: 6px; background: transparent;
    }}
    QRadioButton::indicator:checked {{ background: {t.accent}; border: 1px solid {t.accent}; }}
    QListWidget::item {{ padding: 5px 4px; }}
    QListWidget::item:selected {{ background: {t.line}; color: {t.text}; }}
    QSpinBox::up-button, QSpinBox::down-button {{ width: 0; }}
    QDialog {{ background: {t.raised}; }}
    QDialog QLabel {{ background: transparent; }}
    QMenu {{ background: {t.raised}; border: 1px solid {t.line}; padding: 6px 0; }}
    QMenu::item {{ padding: 6px 28px 6px 18px; background: transparent; }}
    QMenu::item:selected {{ background: {t.line}; }}
    QMenu::item:disabled {{ color: {t.coming}; }}
    QMenu::separator {{ height: 1px; background: {t.hairline}; margin: 6px 0; }}
    QListView, QTableView, QTreeView {{ background: {t.ground}; border: none; outline: none; }}
    QHeaderView::section {{
        background: {t.ground}; color: {t.secondary}; border: none; border-bottom: 1px solid {t.line};
        padding: 6px 8px 6px 3px;
    }}
    QTableView {{ gridline-color: transparent; selection-background-color: {t.raised}; selection-color: {t.text}; }}
    QTableView::item {{ border-bottom: 1px solid {t.hairline}; padding: 5px 8px 5px 0; }}
    QTableView::item:selected {{ background: {t.raised}; color: {t.text}; }}
    QScrollBar:vertical {{ background: transparent; width: 8px; margin: 0; }}
    QScrollBar::handle:vertical {{ background: {t.line}; min-height: 24px; }}
    QScrollBar:horizontal {{ background: transparent; height: 8px; margin: 0; }}
    QScrollBar::handle:horizontal {{ background: {t.line}; min-width: 24px; }}
    QScrollBar::add-line, QScrollBar::sub-line {{ width: 0; height: 0; }}
    QScrollBar::add-page, QScrollBar::sub-page {{ background: transparent; }}
    QToolTip {{ background: {t.raised}; color: {t.text}; border: 1px solid {t.line}; padding: 4px 6px; }}
    QProgressBar {{ background: {t.hairline}; border: none; max-height: 3px; }}
    QProgressBar::chunk {{ background: {t.accent}; }}
    """


def _icon_path(name: str) -> str:
    """The path of an icon as a style sheet takes it; style sheets take files only."""
    return Path(str(files("even_beam.app.icons") / f"{name}.svg")).as_posix()


def icon(name: str, value: str, size: int = 20) -> QIcon:
    """A shipped icon in one colour."""
    svg = files("even_beam.app.icons").joinpath(f"{name}.svg").read_text(encoding="utf-8")
    renderer = QSvgRenderer(QByteArray(svg.replace("currentColor", value).encode()))
    pixmap = QPixmap(QSize(size * 2, size * 2))
    pixmap.setDevicePixelRatio(2.0)
    pixmap.fill(QColor(0, 0, 0, 0))
    painter = QPainter(pixmap)
    renderer.render(painter, QRectF(0.0, 0.0, size, size))
    painter.end()
    return QIcon(pixmap)
