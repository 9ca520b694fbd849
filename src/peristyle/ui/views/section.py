"""Section: the box cut through, from the bottom up."""

from typing import get_args

from PySide6.QtWidgets import QVBoxLayout, QWidget

from peristyle.drawing.section import section_drawing
from peristyle.model import edits
from peristyle.model.design import GrooveWay, Panel, leans, replace
from peristyle.model.job import decide, decided
from peristyle.ui.pictures import groove_picture, panel_picture
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
            lambda: session.job.design.section.lid is not None,
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
            found: Panel | None = decided(session.job, part)
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
            "",
            lambda: (("one", "one piece"), ("pie", "triangles"), ("ring", "trapezoids")),
            style,
            lambda kind: bar.edit(
                f"Change how the {part} is made", lambda d: edits.with_segments(d, kind, part=part)
            ),
            "In one piece, a pie of triangles, or a ring of trapezoids",
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

        def cut_another_way(way: str) -> None:
            old = panel()
            if old is not None and way in get_args(GrooveWay):
                changed = replace(old, groove=way)
                bar.edit(f"Change how the {part}'s groove is cut", lambda d: decide(d, part, changed))

        bar.choice(
            "",
            lambda: (("level", "level"), ("square", "square"), ("tongue", "tongue")),
            lambda: (panel() or Panel()).groove,
            cut_another_way,
            "How leaning sides take the level panel: walls level, square and wider, or square for a tongue",
            name=f"Groove for the {part}",
            picture=groove_picture,
        )
        bar.only_when(lambda: panel() is not None and leans(session.job.design))

    def dress(self, theme: Theme) -> None:
        """Take on a theme's colours."""
        self.sheet.dress(theme)
