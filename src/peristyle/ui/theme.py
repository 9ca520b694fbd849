"""Colours and type: quiet, so that wood is the most colourful thing on the screen.

One hue for what the maker decided, ink for what follows, one hue for the blade, one for caution.
Weight, dash or hatch always says the same besides.
"""

from pathlib import Path
from typing import Final, NamedTuple

from PySide6.QtCore import Qt
from PySide6.QtGui import QColor, QFont, QFontDatabase, QGuiApplication, QPalette
from PySide6.QtWidgets import QApplication


class Theme(NamedTuple):
    """Named colours; contrast on `paper` at least 4.5 : 1 for everything that is read."""

    dark: bool
    window: QColor
    paper: QColor
    ink: QColor
    quiet: QColor
    faint: QColor
    decided: QColor
    blade: QColor
    caution: QColor
    wood: QColor
    panel: QColor
    inside: QColor

    def of(self, role: str) -> QColor:
        """The colour that says a role."""
        colour: QColor = getattr(self, _LINES.get(role, role))
        return colour

    def filling(self, role: str) -> QColor:
        """The colour an area of a role is filled with."""
        colour: QColor = getattr(self, _AREAS.get(role) or _LINES.get(role, role))
        return colour


# Which colour stands for a role, where the two are not of one name.
_LINES: Final = {
    "select": "decided", "follows": "ink", "wood": "ink", "inside": "quiet", "panel": "quiet",
    "key": "ink", "machine": "quiet",
}  # fmt: skip
_AREAS: Final = {"wood": "wood", "inside": "inside", "panel": "panel", "machine": "faint"}

LIGHT: Final = Theme(
    False, QColor("#ecebe7"), QColor("#faf9f6"), QColor("#26282c"), QColor("#63666c"),
    QColor("#c9c8c3"), QColor("#1d57a8"), QColor("#a8234b"), QColor("#7d5200"),
    QColor("#e7d8bd"), QColor("#f9e9cc"), QColor("#f1efe9"),
)  # fmt: skip
DARK: Final = Theme(
    True, QColor("#1b1c1f"), QColor("#232528"), QColor("#e9e7e2"), QColor("#a6a9ae"),
    QColor("#4b4e54"), QColor("#8ab8ff"), QColor("#ff93ab"), QColor("#e6bb5a"),
    QColor("#6b5a43"), QColor("#756249"), QColor("#2b2d31"),
)  # fmt: skip

_TICKED: Final = QColor("#6c7077")  # a box to tick in the dark: 3.4 : 1 on the window
STYLED: Final = "peristyle-styled"  # set on an application that has its style already
FAMILY: Final = "Source Sans 3"
_FONTS: Final = Path(__file__).parents[1] / "data" / "fonts"


def load_fonts() -> QFont:
    """Register the shipped typeface; the application's font. Set before any widget is made."""
    for name in ("SourceSans3-Regular.ttf", "SourceSans3-Semibold.ttf"):
        QFontDatabase.addApplicationFont(str(_FONTS / name))
    font = QFont(FAMILY)
    font.setPointSizeF(10.5)
    font.setHintingPreference(QFont.HintingPreference.PreferNoHinting)
    return font


def wanted(choice: str) -> Theme:
    """The theme for `light`, `dark` or `desktop` (as the desktop has it)."""
    if choice == "desktop":
        scheme = QGuiApplication.styleHints().colorScheme()
        return DARK if scheme == Qt.ColorScheme.Dark else LIGHT
    return DARK if choice == "dark" else LIGHT


def apply(app: QApplication, theme: Theme) -> None:
    """Dress the application's ordinary controls in the theme."""
    # Asking for the style, or setting it here, loads a hundred of Qt's enumerations: see make_application.
    if not app.property(STYLED):
        app.setStyle("Fusion")
        app.setProperty(STYLED, True)
    roles = QPalette.ColorRole
    palette = QPalette()
    for role, colour in (
        (roles.Window, theme.window), (roles.WindowText, theme.ink), (roles.Base, theme.paper),
        (roles.AlternateBase, theme.window), (roles.Text, theme.ink), (roles.Button, theme.window),
        (roles.ButtonText, theme.ink), (roles.ToolTipBase, theme.paper),
        (roles.ToolTipText, theme.ink), (roles.PlaceholderText, theme.quiet),
        (roles.Highlight, theme.decided), (roles.HighlightedText, theme.paper),
        (roles.Link, theme.decided), (roles.BrightText, theme.blade),
        (roles.Light, theme.paper), (roles.Midlight, theme.window), (roles.Mid, theme.faint),
        (roles.Dark, theme.faint.darker(115)), (roles.Shadow, theme.faint.darker(160)),
    ):  # fmt: skip
        palette.setColor(role, colour)
    for role in (roles.Text, roles.ButtonText, roles.WindowText):
        palette.setColor(QPalette.ColorGroup.Disabled, role, theme.quiet)
    app.setPalette(palette)
    boxes = QPalette(palette)
    if theme.dark:  # the style outlines boxes to tick in a darker shade, which cannot be seen there
        boxes.setColor(roles.Base, _TICKED)
    app.setPalette(boxes, "QCheckBox")  # type: ignore[arg-type]  # the stubs say bytes, what runs takes a name
