"""Size: the ring from above to scale, and the box as a solid beside it."""

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QSplitter, QWidget

from peristyle.drawing.inner import tagged_kind
from peristyle.drawing.shapes import Pick
from peristyle.drawing.size import size_drawing
from peristyle.model import edits, fields, ring_edits
from peristyle.model.design import MAX_DIVIDERS, Measure, Rectangle, Regular, Together, tapers
from peristyle.model.job import Job, decide, revised
from peristyle.model.limits import MAX_SIDES
from peristyle.planning.form.reshape import kind_of, measured, reshaped
from peristyle.planning.form.roof import roof_of
from peristyle.ui.pictures import shape_picture
from peristyle.ui.session import Session
from peristyle.ui.theme import Theme
from peristyle.ui.widgets.choices import Choices
from peristyle.ui.widgets.sheet import Sheet
from peristyle.ui.widgets.solid import SolidView
from peristyle.ui.widgets.stacked import stacked
from peristyle.ui.wood import WoodStore

_SHAPES = (
    ("rectangle", "Rectangle"),
    ("regular", "Regular polygon"),
    ("alternating", "Two lengths in turn"),
    ("house", "House"),
    ("outline", "Sides and corners"),
)


class View(QWidget):
    """The ring and what it is built on."""

    def __init__(self, session: Session, wood: WoodStore) -> None:
        super().__init__()
        self._session = session
        self.sheet = Sheet(
            session,
            wood,
            lambda: size_drawing(session.plan, session.format, session.selection),
            "Ring from above",
        )
        self.solid = SolidView(session, wood)
        split = QSplitter(Qt.Orientation.Horizontal)
        split.addWidget(self.sheet)
        split.addWidget(self.solid)
        split.setSizes([480, 330])
        split.setChildrenCollapsible(False)
        layout = stacked(self)
        layout.addWidget(self._bar(session))
        layout.addWidget(split, 1)
        layout.addWidget(self._inner(session))

    def dress(self, theme: Theme) -> None:
        """Take on a theme's colours."""
        self.sheet.dress(theme)
        self.solid.dress(theme)

    def _inner(self, session: Session) -> Choices:
        """What it holds, and what else stands inside."""
        bar = Choices(session)

        def dividers(across: int | None = None, along: int | None = None) -> None:
            now = session.job.design.inside.dividers
            a = across if across is not None else (now.across if now else 0)
            b = along if along is not None else (now.along if now else 0)
            bar.edit("Change the dividers", lambda d: edits.with_dividers(d, a, b))

        bar.choice(
            "Holds",
            lambda: [("nothing", "sized by hand"), *edits.HOLDS_WORDS.items()],
            lambda: edits.holds(session.job),
            lambda what: bar.edit(
                "Change what it holds", lambda _d: edits.with_contents(session.plan.job, what)
            ),
            "Sized from what goes in it, with play: 2 mm in all for blocks lifted by hand, under 1 for a deck",
        )
        bar.tick(
            "Liner",
            lambda: session.job.design.inside.liner is not None,
            lambda on: bar.edit(
                "Add a liner" if on else "Leave out the liner", lambda d: edits.with_liner(d, on)
            ),
            "A mitered box of its own wood within the box; it drives the outer one when the contents do",
        )
        bar.count(
            "Dividers across",
            0,
            MAX_DIVIDERS,
            lambda: session.job.design.inside.dividers.across if session.job.design.inside.dividers else 0,
            lambda n: dividers(across=n),
            "From side A to side C, in dadoes",
        )
        bar.count(
            "along",
            0,
            MAX_DIVIDERS,
            lambda: session.job.design.inside.dividers.along if session.job.design.inside.dividers else 0,
            lambda n: dividers(along=n),
            "From side D to side B, halved where they cross",
        )
        self._kinds(bar, session)
        session.selected.connect(bar.refresh)
        return bar

    @staticmethod
    def _kinds(bar: Choices, session: Session) -> None:
        """Several kinds of things inside: one more, one fewer, and which has its sizes on the drawing."""

        def add(what: str) -> None:
            if what and bar.edit(
                f"Add {edits.HOLDS_WORDS[what]}", lambda d: edits.with_another_kind(d, what)
            ):
                # Its sizes stand on the drawing at once, to be typed.
                session.select(Pick("thing", len(session.job.design.inside.contents) - 1))
            bar.refresh()  # the choice goes back to asking

        bar.choice(
            "Add",
            lambda: [("", "another kind …"), *edits.HOLDS_WORDS.items()],
            lambda: "",
            add,
            "Something else to go in, beside what is there",
        )
        bar.only_when(lambda: bool(session.job.design.inside.contents))
        bar.button(
            "One kind fewer",
            lambda: bar.edit("Take a kind out", edits.without_last_kind),
            "Take the last kind out",
        )
        bar.only_when(lambda: len(session.job.design.inside.contents) > 1)
        bar.choice(
            "Sizes of",
            lambda: [
                (str(i), f"{thing.count} {thing.name}")
                for i, thing in enumerate(session.job.design.inside.contents)
            ],
            lambda: str(tagged_kind(session.plan, session.selection)),
            lambda number: session.select(Pick("thing", int(number))),
            "Which kind has its sizes on the drawing; or click it there",
        )
        bar.only_when(lambda: len(session.job.design.inside.contents) > 1)
        bar.tick(
            "Packed together",
            lambda: session.job.design.inside.together is not None,
            lambda on: bar.edit(
                "Pack them together" if on else "Let them stand beside each other",
                lambda d: decide(d, "together", Together() if on else None),
            ),
            "All kinds as one block, in three directions, with nothing left empty where it can be; up to 24 things",
        )
        bar.only_when(
            lambda: (
                bool(session.job.design.inside.contents)
                and not any(thing.round for thing in session.job.design.inside.contents)
            )
        )
        bar.tick(
            "Made",
            lambda: any(thing.made for thing in session.job.design.inside.contents),
            lambda on: bar.edit("Change what is made", lambda d: edits.with_made(d, on)),
            "They are made with the box: in the cut list and the steps",
        )
        bar.only_when(lambda: any(not thing.round for thing in session.job.design.inside.contents))

    def change_sides(self, add: bool) -> None:
        """One side more or less at the picked side, the ring made free first."""
        session = self._session
        chosen = session.selection
        side = chosen.index if chosen is not None and chosen.kind in ("side", "corner") else 0

        def change(job: Job) -> Job:
            free = reshaped(job, "outline", session.plan.ring)
            return ring_edits.add_side(free, side) if add else ring_edits.remove_side(free, side)

        session.change("Add a side" if add else "Take a side away", change)

    def _bar(self, session: Session) -> Choices:
        bar = Choices(session)
        bar.choice(
            "Shape",
            lambda: _SHAPES,
            lambda: kind_of(session.job.design.form.shape),
            lambda kind: bar.edit("Change the shape", lambda d: reshaped(d, kind, session.plan.ring)),
            "What ring the sides make",
            picture=shape_picture,
        )
        bar.count(
            "Sides",
            3,
            MAX_SIDES,
            lambda: session.job.design.side_count,
            lambda n: bar.edit(
                "Change the number of sides", lambda _d: edits.with_sides(session.plan.job, n)
            ),
            "How many sides; a rectangle becomes a polygon",
        )
        bar.choice(
            "Measured",
            lambda: _measures(session.job),
            lambda: session.job.design.form.shape.measure,
            lambda m: bar.edit("Change what is measured", lambda d: measured(d, m)),
            "Which line the size is taken on; the box stays as it is",
        )
        bar.tick(
            "Taper",
            lambda: tapers(session.job.design),
            lambda on: bar.edit(
                "Taper the box" if on else "Lean by an angle",
                lambda _d: edits.with_taper(session.plan.job, on),
            ),
            "Give the size at the top in place of a slope (rectangles and regular polygons)",
        )
        bar.only_when(lambda: isinstance(session.job.design.form.shape, Rectangle | Regular))
        bar.choice(
            "Eaves",
            lambda: (("square", "cut square"), ("plumb", "cut plumb")),
            lambda: getattr(session.job.design.form.shape, "eaves", "square"),
            lambda cut: bar.edit("Change the eaves", lambda d: edits.with_eaves(d, cut)),
            "How the ends of a roof that runs past its walls are cut",
        )
        bar.only_when(lambda: roof_of(session.job.design) is not None)
        bar.choice(
            "Units",
            lambda: (("mm", "mm"), ("in", "inch")),
            lambda: session.job.design.units,
            lambda u: bar.edit("Change the units", lambda d: revised(d, units="in" if u == "in" else "mm")),
            "How lengths read, and what a bare number means",
        )
        return bar


def _measures(job: Job) -> list[tuple[str, str]]:
    keys: tuple[Measure, ...] = ("inside", "outside")
    if isinstance(job.design.form.shape, Regular):
        keys = ("inside", "outside", "across_flats", "across_corners")
    return [(key, fields.MEASURE_WORDS[key]) for key in keys]
