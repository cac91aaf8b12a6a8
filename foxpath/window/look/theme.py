"""Tokens of the look: neutral greys, one russet, one typeface, in a day and an evening set."""

from dataclasses import dataclass
from functools import cache

from PySide6.QtGui import QColor, QFont, QFontDatabase, QFontMetricsF

from foxpath import fonts

WEIGHTS = {400: QFont.Weight.Normal, 500: QFont.Weight.Medium, 600: QFont.Weight.DemiBold, 700: QFont.Weight.Bold}


@dataclass(frozen=True, slots=True)
class Theme:
    """Colours by their use; every surface has equal red, green and blue."""

    name: str
    base: str
    plate: str
    raised: str
    sunk: str
    hover: str
    line: str
    dim: str
    text: str
    quiet: str
    walked: str
    frame: str
    russet: str
    russet_plate: str
    russet_hover: str
    russet_pressed: str
    russet_text: str
    well: str = "#777777"
    on_russet: str = "#FFFFFF"
    over_light: str = "#FAFAFA"
    over_dark: str = "#0A0A0A"
    over_plate: str = "#1E1E1E"
    over_text: str = "#F2F2F2"


DAY = Theme(
    "day", "#E2E2E2", "#F0F0F0", "#FBFBFB", "#D9D9D9", "#E9E9E9", "#C6C6C6", "#A2A2A2", "#1E1E1E", "#555555",
    "#4A4A4A", "#6A6A6A", "#C05A25", "#A94C18", "#97431A", "#823A16", "#9A4316",
)  # fmt: skip
EVENING = Theme(
    "evening", "#282828", "#353535", "#404040", "#222222", "#2F2F2F", "#4A4A4A", "#6E6E6E", "#EDEDED", "#B8B8B8",
    "#C6C6C6", "#161616", "#D8733A", "#B4541F", "#C05F28", "#98461A", "#EBA676",
)  # fmt: skip

_current = DAY


def theme() -> Theme:
    """Return the set in use."""
    return _current


def use(chosen: Theme) -> None:
    """Change the set; the caller repaints."""
    global _current  # noqa: PLW0603  (one window, one look)
    _current = chosen


@cache
def _colour(name: str, alpha: float, owner: Theme) -> QColor:
    found = QColor(name if name.startswith("#") else getattr(owner, name))
    if alpha < 1:
        found.setAlphaF(alpha)
    return found


def colour(name: str, alpha: float = 1.0) -> QColor:
    """Return a token (``"russet"``) or a literal (``"#123456"``) as a colour, which must not be changed."""
    return _colour(name, alpha, _current)


@cache
def font(px: float, weight: int = 400) -> QFont:
    """Return the typeface at a size in logical pixels; it must not be changed."""
    made = QFont("Lato")
    if px == int(px):
        made.setPixelSize(int(px))
    else:
        made.setPointSizeF(px * 72 / 96)
    made.setWeight(WEIGHTS[weight])
    made.setHintingPreference(QFont.HintingPreference.PreferNoHinting)
    # Subpixel antialiasing would tint the surround of the picture.
    made.setStyleStrategy(QFont.StyleStrategy.NoSubpixelAntialias)
    return made


@cache
def metrics(px: float, weight: int = 400) -> QFontMetricsF:
    """Return the measures of the typeface at a size."""
    return QFontMetricsF(font(px, weight))


def load_fonts() -> None:
    """Make the bundled typeface known to Qt. Needs an application."""
    for weight in fonts.WEIGHTS:
        QFontDatabase.addApplicationFont(str(fonts.path(weight)))


def style_sheet() -> str:
    """Return the sheet for the few stock widgets in use: menus, text fields, tips, scroll bars, dialogs."""
    t = _current
    return f"""
    * {{ font-family: Lato; }}
    QMainWindow, QDialog {{ background: {t.base}; color: {t.text}; }}
    QLabel {{ color: {t.text}; background: transparent; }}
    QLabel#quiet {{ color: {t.quiet}; font-size: 13px; }}
    QLabel#key {{ background: {t.raised}; border: 1px solid {t.line}; border-radius: 4px; padding: 0 6px;
        font-size: 12px; font-weight: 600; }}
    QMenu {{ background: {t.raised}; color: {t.text}; border: 1px solid {t.line}; padding: 6px; font-size: 13px; }}
    QMenu::item {{ padding: 6px 28px 6px 12px; border-radius: 6px; }}
    QMenu::item:selected {{ background: {t.sunk}; }}
    QMenu::item:disabled {{ color: {t.quiet}; }}
    QMenu::separator {{ height: 1px; background: {t.line}; margin: 5px 10px; }}
    QToolTip {{ background: {t.over_plate}; color: {t.over_text}; border: none; padding: 6px 8px; font-size: 13px; }}
    QLineEdit {{ background: {t.raised}; color: {t.text}; border: 1px solid {t.line}; border-radius: 6px;
        padding: 3px 8px; font-size: 14px; selection-background-color: {t.russet_plate};
        selection-color: {t.on_russet}; }}
    QLineEdit:focus {{ border: 2px solid {t.text}; padding: 2px 7px; }}
    QScrollArea {{ border: none; }}
    QScrollArea, QScrollArea > QWidget, QScrollArea > QWidget > QWidget {{ background: transparent; }}
    QScrollBar:vertical {{ background: transparent; width: 8px; margin: 2px; }}
    QScrollBar::handle:vertical {{ background: {t.dim}; border-radius: 2px; min-height: 40px; }}
    QScrollBar::add-line, QScrollBar::sub-line, QScrollBar::add-page, QScrollBar::sub-page {{
        background: transparent; height: 0; }}
    """


def hex_of(lab: tuple[float, float, float]) -> str:
    """Return a CIELAB colour as the screen shows it, "#RRGGBB"."""
    import numpy as np

    from foxpath.core.colour import rgb8_from_lab

    r, g, b = rgb8_from_lab(np.asarray(lab, np.float32)[None])[0]
    return f"#{r:02X}{g:02X}{b:02X}"
