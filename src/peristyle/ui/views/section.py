"""Section: the box cut through, from the bottom up."""

from collections.abc import Callable
from typing import get_args

from PySide6.QtWidgets import QWidget

from peristyle.drawing.section import section_drawing
from peristyle.drawing.shapes import Pick
from peristyle.model import edits, hardware_edits, section_edits
from peristyle.model.design import (
    EdgeName,
    EdgeProfile,
    Flat,
    Gable,
    GrooveWay,
    HeightOf,
    Inlay,
    OuterEdge,
    Panel,
    Seasons,
    Split,
    leans,
    replace,
)
from peristyle.model.job import Job, decide, decided
from peristyle.model.kept import HardwareName
from peristyle.model.panels import Wooden
from peristyle.planning.section.edges import over_rim
from peristyle.reference.species import SPECIES
from peristyle.ui.pictures import (
    edge_picture,
    feet_picture,
    groove_picture,
    lid_picture,
    opening_picture,
    panel_picture,
    seat_picture,
)
from peristyle.ui.session import Session
from peristyle.ui.theme import Theme
from peristyle.ui.widgets.choices import Choices
from peristyle.ui.widgets.sheet import Sheet
from peristyle.ui.widgets.stacked import stacked
from peristyle.ui.wood import WoodStore

LIDS = (
    ("none", "none"), ("sawn", "sawn free"), ("lip", "liner lip"), ("lift_off", "lift-off"),
    ("drop_in", "drop-in"), ("insert", "insert"), ("flat", "flat"), ("split", "in two"),
    ("sliding", "sliding"), ("gable", "gable roof"),
)  # fmt: skip


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
        bar.choice(
            "Lid",
            lambda: LIDS,
            lambda: section_edits.lid_kind(session.job),
            lambda kind: bar.edit("Change the lid", lambda d: section_edits.with_lid_kind(d, kind)),
            "Sawn free of the closed box; or made for it: on the rim, in it, or as a roof over it",
            picture=lid_picture,
            letters=8,
        )
        bar.choice(
            "",
            lambda: section_edits.lid_ways(session.job),
            lambda: section_edits.lid_way(session.job),
            lambda way: bar.edit("Change the lid", lambda d: section_edits.with_lid_way(d, way)),
            "What the lid is asked besides its sizes",
            name="Lid's way",
        )
        bar.only_when(lambda: bool(section_edits.lid_ways(session.job)))
        bar.choice(
            "Feet",
            lambda: (("none", "none"), ("block", "blocks"), ("mitered", "mitered"), ("wedge", "wedges")),
            lambda: session.job.design.section.feet.kind if session.job.design.section.feet else "none",
            lambda kind: bar.edit("Change the feet", lambda d: edits.with_feet(d, kind)),
            "Blocks or mitered pairs under the corners, or wedges from the bevels' offcuts",
            picture=feet_picture,
            letters=0,
        )
        self._opening_choices(session, bar)
        layout = stacked(self)
        layout.addWidget(bar)
        layout.addWidget(self.sheet, 1)
        layout.addWidget(self._air_choices(session))

    def _air_choices(self, session: Session) -> QWidget:
        """Which height is held; the air round the box, and what its panels are made of."""
        bar = Choices(session)

        def held_as(of: str) -> HeightOf:
            return next(one for one in get_args(HeightOf) if one == of)

        bar.choice(
            "Held",
            lambda: (
                ("glued", "height as glued"),
                ("closed", "height closed"),
                ("body", "body"),
                ("room", "room inside"),
            ),
            lambda: session.job.design.form.height_of,
            lambda of: bar.edit("Hold another height", lambda d: edits.with_held(d, held_as(of))),
            "Which of the heights stays as it is when anything else changes; typing one on the drawing holds it too",
            name="Height held",
        )

        self._within_choices(session, bar)
        self._hardware_choices(session, bar)
        self._edge_choices(session, bar)
        self._fitting_choices(session, bar)
        self._moulding_choice(session, bar)
        self._air_round(session, bar)
        for part in ("bottom", "top", "lid", "false_floor"):
            self._wood_choices(session, bar, part)
        return bar

    @staticmethod
    def _within_choices(session: Session, bar: Choices) -> None:
        """What there is or is not within it: a hidden room, lining, fillets, a tray; and whether the seasons count."""
        bar.tick(
            "Hidden room",
            lambda: session.job.design.section.false_floor is not None,
            lambda on: bar.edit(
                "Add a false floor" if on else "Leave out the false floor",
                lambda d: section_edits.with_false_floor(d, on),
            ),
            "A loose floor on strips, over a compartment that is not seen",
        )
        bar.only_when(lambda: session.job.design.section.bottom is not None)
        bar.tick(
            "Seasons",
            lambda: session.job.design.section.seasons is not None,
            lambda on: bar.edit(
                "Reckon with the seasons" if on else "Leave the seasons out",
                lambda d: section_edits.with_seasons(d, on),
            ),
            "What panels swell and shrink in the air they will live in",
        )

        bar.tick(
            "Lining",
            lambda: session.job.design.inside.lining_mm > 0,
            lambda on: bar.edit(
                "Line it" if on else "Take the lining out", lambda d: section_edits.with_lining(d, on)
            ),
            "Foam or cloth on floor and walls and under the lid; its thickness stands in the box",
        )

        bar.tick(
            "Fillets",
            lambda: session.job.design.inside.fillets is not None,
            lambda on: bar.edit(
                "Add fillets" if on else "Leave out the fillets", lambda d: section_edits.with_fillets(d, on)
            ),
            "Narrow mitered strips glued to the walls, for what lies on them; their sizes stand beside them",
        )
        bar.tick(
            "Tray",
            lambda: session.job.design.inside.tray is not None,
            lambda on: bar.edit(
                "Add a tray" if on else "Leave out the tray", lambda d: section_edits.with_tray(d, on)
            ),
            "A mitered tray that lies on the liner's edge, or on fillets",
        )

    def _air_round(self, session: Session, bar: Choices) -> None:
        """How damp it is, where the seasons are reckoned with."""

        def seasons() -> Seasons:
            return session.job.design.section.seasons or Seasons()

        def reckoned() -> bool:
            return session.job.design.section.seasons is not None

        bar.choice(
            "Air or wood",
            lambda: (("humidity", "humidity %"), ("moisture", "moisture %")),
            lambda: seasons().by,
            lambda by: bar.edit("Change what is measured", lambda d: section_edits.with_air(d, by=by)),
            "The air's relative humidity, or the moisture content of the wood itself, in per cent",
        )
        bar.only_when(reckoned)
        for name, why in (
            ("now", "As the box is made"),
            ("driest", "At the driest it will stand in"),
            ("dampest", "At the dampest it will stand in"),
        ):
            self._air(bar, seasons, name, why)
            bar.only_when(reckoned)

    def _hardware_choices(self, session: Session, bar: Choices) -> None:
        """Hinges, magnets, latch and brackets, of the usual sizes or as they are kept in the shop."""
        whys: dict[HardwareName, str] = {
            "hinges": "Let into the rims at the back, of the usual sizes or yours; their sizes stand under the box",
            "magnets": "In pairs in the rims at the front; their sizes stand under the box",
            "latch": "Screwed to the front over the lid's joint; its sizes stand under the box",
            "brackets": "Screwed round every corner; their sizes stand under the box",
        }

        def opens() -> bool:
            section = session.job.design.section
            return section.lid is not None or isinstance(section.cover, Flat)

        def turns() -> bool:
            return opens() or isinstance(session.job.design.section.cover, Split | Gable)

        def add(what: HardwareName, why: str) -> None:
            def change(edit: Callable[[Job], Job]) -> None:
                bar.edit(f"Change the {what}", edit)

            bar.choice(
                "",
                lambda: hardware_edits.ways(session.job, what),
                lambda: hardware_edits.way(session.job, what),
                lambda key: change(lambda d: hardware_edits.with_way(d, what, key)),
                why,
                name=what.capitalize(),
                letters=12,
            )
            if what != "brackets":
                can = turns if what == "hinges" else opens
                bar.only_when(lambda: can() or decided(session.job, what) is not None)
            bar.count(
                "",
                1,
                12 if what != "latch" else 4,
                lambda: max(1, hardware_edits.counted(session.job, what)),
                lambda n: change(lambda d: hardware_edits.with_count(d, what, n)),
                f"How many {what}",
                name=f"How many {what}",
            )
            bar.only_when(lambda: hardware_edits.counted(session.job, what) > 0)

        for what, why in whys.items():
            add(what, why)

    def _edge_choices(self, session: Session, bar: Choices) -> None:
        """The profile along one of the edges at a time; those there are stand on the drawing with their sizes."""
        place: list[EdgeName] = ["bottom_edge"]

        def own() -> EdgeProfile | None:
            found: EdgeProfile | None = decided(session.job, place[0])
            return found

        def places() -> list[tuple[str, str]]:
            known = [("bottom_edge", "bottom"), ("top_edge", "top"), ("rim_edge", "rim inside")]
            section = session.job.design.section
            if section.bottom is not None and section.bottom.seat == "applied":
                known.append(("base_edge", "base, upper edge"))
            if over_rim(session.job.design):
                known.append(("under_edge", "top, lower edge"))
            if section.lid is not None:
                known.insert(2, ("lid_edges", "lid's joint"))
            return known

        def turn_to(key: str) -> None:
            place[0] = next(name for name in get_args(EdgeName) if name == key)
            bar.refresh()

        def here() -> str:
            if place[0] not in dict(places()):
                place[0] = "bottom_edge"
            return place[0]

        bar.choice(
            "Edge", places, here, turn_to, "Which of the edges the profile beside it is for", name="Edge"
        )
        bar.choice(
            "",
            lambda: (
                ("none", "square"),
                ("chamfer", "chamfer"),
                ("round_over", "round-over"),
                ("cove", "cove"),
                ("ogee", "ogee"),
            ),
            lambda: made.kind if (made := own()) else "none",
            lambda kind: bar.edit("Change an edge", lambda d: section_edits.with_edge(d, place[0], kind)),
            "The profile cut along this edge; its size stands on the drawing",
            name="Profile of the edge",
            picture=edge_picture,
            letters=0,
        )

        bar.choice(
            "",
            lambda: (("after_lid", "after the lid"), ("before_lid", "before the lid")),
            lambda: str(getattr(own(), "when", "after_lid")),
            lambda key: bar.edit("Change an edge", lambda d: section_edits.with_edge_cut(d, place[0], key)),
            "Cut once body and lid are trued, or round the whole box before the lid is freed",
            name="When the edge is cut",
        )
        bar.only_when(lambda: session.job.design.section.lid is not None and isinstance(own(), OuterEdge))

    def _moulding_choice(self, session: Session, bar: Choices) -> None:
        """Flat sides, or those of a moulding to begin with."""

        def kinds() -> list[tuple[str, str]]:
            known = [
                ("none", "flat sides"),
                *((kind, f"moulded: {kind}") for kind in section_edits.MOULDINGS),
            ]
            own = section_edits.moulding_kind(session.job) == "own"
            return [*known, ("own", "moulded: own")] if own else known

        def put(kind: str) -> None:
            if kind != "own":
                bar.edit("Change the sides' section", lambda d: section_edits.with_moulding(d, kind))

        bar.choice(
            "",
            kinds,
            lambda: section_edits.moulding_kind(session.job),
            put,
            "Sides of a moulding; its points stand on the drawing, or are given as a list at the command line",
            name="Sides' section",
            letters=10,
        )

    def _fitting_choices(self, session: Session, bar: Choices) -> None:
        """A handle and an inlay, and on which face."""
        kinds = {
            "handle": (
                ("none", "no handle"),
                ("knob", "knob"),
                ("pull", "pull"),
                ("wedge", "offcut's wedge"),
            ),
            "inlay": (("none", "no inlay"), ("square", "square inlay"), ("round", "round inlay")),
        }
        edits_of = {"handle": hardware_edits.with_handle, "inlay": section_edits.with_inlay}

        def now(part: str) -> str:
            made = decided(session.job, part)
            if isinstance(made, Inlay):
                return "round" if made.round else "square"
            if part == "handle" and hardware_edits.way(session.job, "handle") in dict(
                hardware_edits.kept_ways(session.job, "handle")
            ):
                return hardware_edits.way(session.job, "handle")
            return "none" if made is None else str(made.kind)

        def add(part: str, why: str) -> None:
            bar.choice(
                "",
                lambda: (
                    *kinds[part],
                    *(hardware_edits.kept_ways(session.job, "handle") if part == "handle" else ()),
                ),
                lambda: now(part),
                lambda kind: bar.edit(f"Change the {part}", lambda d: edits_of[part](d, kind)),
                why,
                name=part.capitalize(),
                letters=8,
            )
            bar.choice(
                "",
                lambda: (("top", "on top"), ("front", "in front")),
                lambda: str(decided(session.job, part).on) if decided(session.job, part) else "top",
                lambda on: bar.edit(f"Move the {part}", lambda d: section_edits.with_fitting_on(d, part, on)),
                f"Where the {part} is",
                name=f"Where the {part} is",
            )
            bar.only_when(lambda: decided(session.job, part) is not None)

        add("handle", "A knob, a pull with two screws, or a wedge of what the bevels cut off")
        add("inlay", "A piece let into the face, less deep than it is thick, and planed flush")

    def _air(self, bar: Choices, seasons: Callable[[], Seasons], name: str, why: str) -> None:
        bar.count(
            name,
            0,
            100,
            lambda: round(getattr(seasons(), name)),
            lambda value: bar.edit(
                "Change the air", lambda d: section_edits.with_air(d, **{name: float(value)})
            ),
            why,
        )

    def _wood_choices(self, session: Session, bar: Choices, part: str) -> None:
        """What a panel or a lid is made of."""
        called, label = part.replace("_", " "), part.rsplit("_", maxsplit=1)[-1].capitalize()

        def made() -> Wooden | None:
            return section_edits.wooden(session.job, part)

        def there() -> bool:
            return made() is not None and session.job.design.section.seasons is not None

        def put(**given: object) -> None:
            bar.edit(f"Change the {called}'s wood", lambda d: section_edits.with_wood(d, part, **given))

        def woods() -> list[tuple[str, str]]:
            own = made()
            known = [*sorted(SPECIES), *(one.name for one in session.job.shop.species)]
            if own is not None and own.wood and own.wood not in known:
                known.append(own.wood)
            return [("", "not said"), *((name, name) for name in known)]

        bar.choice(
            label,
            woods,
            lambda: own.wood if (own := made()) else "",
            lambda wood: put(wood=wood),
            "What it is made of; woods of your own are added under Edit, Tools, woods and hardware",
            name=f"{called.capitalize()}'s wood",
            letters=10,
        )
        bar.only_when(there)
        bar.choice(
            "",
            lambda: (
                ("plain", "flat sawn"),
                ("quarter", "quarter sawn"),
                ("rift", "rift sawn"),
                ("sheet", "plywood"),
            ),
            lambda: "plain" if (own := made()) is None else "sheet" if own.sheet else own.sawn,
            lambda sawn: put(sheet=True) if sawn == "sheet" else put(sheet=False, sawn=sawn),
            "How it was sawn from the log; plywood does not move to speak of",
            name=f"{called.capitalize()}'s sawing",
        )
        bar.only_when(there)
        bar.choice(
            "",
            lambda: (("length", "grain along A"), ("width", "grain across")),
            lambda: own.grain if (own := made()) else "length",
            lambda grain: put(grain=grain),
            "It swells and shrinks across its grain alone",
            name=f"{called.capitalize()}'s grain",
        )
        bar.only_when(there)

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
            letters=0,
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
            if made and made.strips > 1:
                return "strips"
            return "leaves" if made and made.leaves else "one"

        def count() -> int:
            made = panel()
            return made.segments.count if made and made.segments else made.strips if made else 0

        bar.choice(
            part.capitalize(),
            lambda: (("none", "none"), ("groove", "groove"), ("rabbet", "rabbet"), ("applied", "glued")),
            lambda: made.seat if (made := panel()) else "none",
            lambda seat: bar.edit(f"Change the {part}", lambda d: edits.with_seat(d, part, seat)),
            "In a groove all round as the ring closes; let into a rabbet, or glued on flat, once the ring is glued",
            picture=seat_picture,
            letters=0,
        )
        if part == "top":
            bar.only_when(lambda: session.job.design.section.cover is None)
        bar.choice(
            "",
            lambda: (
                ("one", "whole"),
                ("strips", "strips"),
                ("leaves", "leaves"),
                ("pie", "pie"),
                ("ring", "ring"),
            ),
            style,
            lambda kind: bar.edit(
                f"Change how the {part} is made", lambda d: edits.with_segments(d, kind, part=part)
            ),
            "In one piece, of strips edge to edge, of two leaves opened like a book, or a pie or ring of segments",
            name=f"{part.capitalize()} made of",
            picture=panel_picture,
            letters=0,
        )
        bar.only_when(lambda: panel() is not None)
        bar.count(
            "of",
            2,
            24,
            count,
            lambda n: bar.edit("Change the segments", lambda d: edits.with_segments(d, style(), n, part)),
            f"How many segments make the {part}",
            name="Segments" if part == "bottom" else "Top segments",
        )
        bar.only_when(lambda: style() in ("pie", "ring", "strips"))
        self._groove_choices(session, bar, part)

    def _groove_choices(self, session: Session, bar: Choices, part: str) -> None:
        """How leaning sides take a level panel."""

        def panel() -> Panel | None:
            found: Panel | None = decided(session.job, part)
            return found

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
            letters=0,
        )
        bar.only_when(lambda: panel() is not None and leans(session.job.design))

    def dress(self, theme: Theme) -> None:
        """Take on a theme's colours."""
        self.sheet.dress(theme)
