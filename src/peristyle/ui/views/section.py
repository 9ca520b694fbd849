"""Section: the box cut through, from the bottom up."""

from typing import get_args

from PySide6.QtWidgets import QVBoxLayout, QWidget

from peristyle.drawing.section import section_drawing
from peristyle.drawing.shapes import Pick
from peristyle.model import edits
from peristyle.model.design import GrooveWay, Panel, leans, replace
from peristyle.model.job import decide, decided
from peristyle.ui.pictures import feet_picture, groove_picture, opening_picture, panel_picture, seat_picture
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
            "Lid",
            lambda: session.job.design.section.lid is not None,
            lambda on: bar.edit(
                "Add the lid" if on else "Leave out the lid", lambda d: edits.with_lid(d, on)
            ),
            "The closed box is sawn round after glue-up",
        )
        bar.choice(
            "Feet",
            lambda: (("none", "none"), ("block", "blocks"), ("mitered", "mitered"), ("wedge", "wedges")),
            lambda: session.job.design.section.feet.kind if session.job.design.section.feet else "none",
            lambda kind: bar.edit("Change the feet", lambda d: edits.with_feet(d, kind)),
            "Blocks or mitered pairs under the corners, or wedges from the bevels' offcuts",
            picture=feet_picture,
        )
        self._opening_choices(session, bar)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(bar)
        layout.addWidget(self.sheet, 1)

    def _opening_choices(self, session: Session, bar: Choices) -> None:
        """An opening in the picked side, or in the front."""

        def side() -> int:
            chosen = session.selection
            return (
                chosen.index
                if chosen is not None and chosen.kind == "side"
                else session.job.design.form.front
            )

        def kind() -> str:
            number = edits.opening_in(session.job, side())
            return session.job.design.section.openings[number].kind if number is not None else "none"

        def both() -> bool:
            number = edits.opening_in(session.job, side())
            return number is not None and session.job.design.section.openings[number].both

        bar.choice(
            "Opening",
            lambda: (("none", "none"), ("hole", "hole"), ("slot", "slot"), ("notch", "notch")),
            kind,
            lambda what: self._open(session, bar, side(), what),
            "In the picked side, or in the front; its sizes stand on the side's own drawing at the right",
            picture=opening_picture,
        )
        bar.tick(
            "Across too",
            both,
            lambda on: bar.edit("Change the opening", lambda d: edits.with_both(d, side(), on)),
            "The same in the side across, the two clamped together",
        )
        bar.only_when(lambda: kind() != "none")
        session.selected.connect(bar.refresh)

    def _open(self, session: Session, bar: Choices, side: int, what: str) -> None:
        """Change the opening, and pick its side, so that its sizes are to be seen."""
        bar.edit("Change the opening", lambda d: edits.with_opening(d, side, what))
        if what != "none":
            session.select(Pick("side", side))

    def _panel_choices(self, session: Session, bar: Choices, part: str) -> None:
        """Whether there is a bottom or top panel, and what it is made of."""

        def panel() -> Panel | None:
            found: Panel | None = decided(session.job, part)
            return found

        def style() -> str:
            made = panel()
            if made and made.segments:
                return made.segments.style
            return "leaves" if made and made.leaves else "one"

        def count() -> int:
            made = panel()
            return made.segments.count if made and made.segments else 0

        bar.choice(
            part.capitalize(),
            lambda: (("none", "none"), ("groove", "groove"), ("rabbet", "rabbet")),
            lambda: made.seat if (made := panel()) else "none",
            lambda seat: bar.edit(f"Change the {part}", lambda d: edits.with_seat(d, part, seat)),
            "In a groove all round, put in as the ring closes; or let into a rabbet from outside once it is glued",
            picture=seat_picture,
        )
        bar.choice(
            "",
            lambda: (("one", "whole"), ("leaves", "leaves"), ("pie", "pie"), ("ring", "ring")),
            style,
            lambda kind: bar.edit(
                f"Change how the {part} is made", lambda d: edits.with_segments(d, kind, part=part)
            ),
            "In one piece, of two leaves of the sides' board opened like a book, or a pie or ring of segments",
            name=f"{part.capitalize()} made of",
            picture=panel_picture,
        )
        bar.only_when(lambda: panel() is not None)
        bar.count(
            "of",
            3,
            24,
            count,
            lambda n: bar.edit("Change the segments", lambda d: edits.with_segments(d, style(), n, part)),
            f"How many segments make the {part}",
            name="Segments" if part == "bottom" else "Top segments",
        )
        bar.only_when(lambda: style() in ("pie", "ring"))

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
