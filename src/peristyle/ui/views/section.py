"""Section: the box cut through, from the bottom up."""

from PySide6.QtWidgets import QVBoxLayout, QWidget

from peristyle.drawing.section import section_drawing
from peristyle.model import edits
from peristyle.model.design import Design
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
        bar.tick(
            "Bottom in a groove",
            lambda: session.design.bottom is not None,
            lambda on: bar.edit(
                "Add the bottom" if on else "Leave out the bottom", lambda d: edits.with_bottom(d, on)
            ),
            "A panel in a groove all round",
        )
        bar.tick(
            "Lid sawn free",
            lambda: session.design.lid is not None,
            lambda on: bar.edit(
                "Add the lid" if on else "Leave out the lid", lambda d: edits.with_lid(d, on)
            ),
            "The closed box is sawn round after glue-up",
        )
        bar.choice(
            "Bottom made of",
            lambda: (("one", "one piece"), ("pie", "a pie of triangles"), ("ring", "a ring of trapezoids")),
            lambda: _style(session.design),
            lambda style: bar.edit("Change how the bottom is made", lambda d: edits.with_segments(d, style)),
            "Glued up of segments, or in one piece",
        )
        bar.only_when(lambda: session.design.bottom is not None)
        bar.count(
            "Segments",
            3,
            24,
            lambda: (
                session.design.bottom.segments.count
                if session.design.bottom and session.design.bottom.segments
                else 0
            ),
            lambda n: bar.edit("Change the segments", lambda d: edits.with_segments(d, _style(d), n)),
            "How many segments make the bottom",
        )
        bar.only_when(lambda: _style(session.design) != "one")
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(bar)
        layout.addWidget(self.sheet, 1)

    def dress(self, theme: Theme) -> None:
        """Take on a theme's colours."""
        self.sheet.dress(theme)


def _style(design: Design) -> str:
    segments = design.bottom.segments if design.bottom else None
    return segments.style if segments else "one"
