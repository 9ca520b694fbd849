"""Section: the box cut through, from the bottom up."""

from PySide6.QtWidgets import QVBoxLayout, QWidget

from peristyle.drawing.section import section_drawing
from peristyle.model import edits
from peristyle.model.design import Panel
from peristyle.ui.pictures import panel_picture
from peristyle.ui.session import Session
from peristyle.ui.theme import Theme
from peristyle.ui.widgets.choices import Choices
from peristyle.ui.widgets.sheet import Sheet
from peristyle.ui.wood import WoodStore


class View(QWidget):
    """Heights, groove, panel and lid line."""

    def __init__(self, session: Session, wood: WoodStore) -> None:
        super().__init__()
        self.sheet = Sheet(
            session, wood, lambda: section_drawing(session.plan, session.format), "Section", margin_px=26
        )
        bar = Choices(session)
        for part in ("bottom", "top"):
            self._panel_choices(session, bar, part)
        bar.tick(
            "Lid sawn free",
            lambda: session.design.lid is not None,
            lambda on: bar.edit(
                "Add the lid" if on else "Leave out the lid", lambda d: edits.with_lid(d, on)
            ),
            "The closed box is sawn round after glue-up",
        )
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(bar)
        layout.addWidget(self.sheet, 1)

    def _panel_choices(self, session: Session, bar: Choices, part: str) -> None:
        """Whether there is a bottom or top panel, and what it is made of."""

        def panel() -> Panel | None:
            found: Panel | None = getattr(session.design, part)
            return found

        def style() -> str:
            made = panel()
            return made.segments.style if made and made.segments else "one"

        def count() -> int:
            made = panel()
            return made.segments.count if made and made.segments else 0

        bar.tick(
            f"{part.capitalize()} in a groove",
            lambda: panel() is not None,
            lambda on: bar.edit(
                f"Add the {part}" if on else f"Leave out the {part}", lambda d: edits.with_panel(d, part, on)
            ),
            "A panel in a groove all round",
        )
        bar.choice(
            "of",
            lambda: (("one", "one piece"), ("pie", "a pie of triangles"), ("ring", "a ring of trapezoids")),
            style,
            lambda kind: bar.edit(
                f"Change how the {part} is made", lambda d: edits.with_segments(d, kind, part=part)
            ),
            "Glued up of segments, or in one piece",
            name=f"{part.capitalize()} made of",
            picture=panel_picture,
        )
        bar.only_when(lambda: panel() is not None)
        bar.count(
            "Segments" if part == "bottom" else "Top segments",
            3,
            24,
            count,
            lambda n: bar.edit("Change the segments", lambda d: edits.with_segments(d, style(), n, part)),
            f"How many segments make the {part}",
        )
        bar.only_when(lambda: style() != "one")

    def dress(self, theme: Theme) -> None:
        """Take on a theme's colours."""
        self.sheet.dress(theme)
