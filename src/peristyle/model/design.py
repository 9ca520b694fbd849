"""The design: everything the maker decides about a box, and nothing that follows from it.

All parts are frozen; an edit makes a new design. Lengths are mm, angles degrees. The limits on
each value are part of its type: the file's schema is made from them (see `scripts/schemas`).
"""

import math
from typing import Annotated, Final, Literal

from msgspec import Meta, Struct
from msgspec.structs import replace

from peristyle.model.edges import EdgeName, EdgeProfile, Moulding, OuterEdge
from peristyle.model.fittings import Handle, Inlay
from peristyle.model.hardware import Brackets, Hinges, Latch, Magnets
from peristyle.model.inner import Fillets, Tray
from peristyle.model.limits import LEAST_MM, MAX_MM, MAX_SIDES, Allowance, Index, Kerf, Length, Name, Position
from peristyle.model.panels import (
    Cover,
    DropIn,
    FalseFloor,
    Flat,
    Gable,
    GrooveWay,
    Insert,
    LiftOff,
    Panel,
    Seasons,
    Seat,
    Segments,
    Sliding,
    Split,
    Strip,
    panel_for,
)

__all__ = [
    "Alternating", "Brackets", "CornerBlocks", "Cover", "Design", "Dividers", "DropIn", "EdgeName", "EdgeProfile",
    "FalseFloor", "Feet", "Fillets", "Flat", "Form", "Gable", "GrooveWay", "Handle", "HeightOf", "Hinges", "House",
    "Inlay", "Insert", "Inside", "Joints", "Keys", "Latch", "Lid", "LiftOff", "Liner", "Magnets", "Measure", "Moulding",
    "Opening", "OuterEdge", "Outline", "Panel", "PanelName", "Rectangle", "Regular", "Seasons", "Seat",
    "Section", "Segments", "Shape", "Sliding", "Splines", "Split", "Strip", "Thing", "Together", "Tray", "corner_name",
    "leans", "panel_of", "replace", "side_name", "tapers",
]  # fmt: skip

MAX_SLOPE_DEG: Final = 80.0
MAX_STOPS: Final = 24
MAX_THINGS: Final = 10_000  # of all kinds together
MAX_DIVIDERS: Final = 60  # each way
MAX_OPENINGS: Final = 40

Slope = Annotated[float, Meta(ge=-MAX_SLOPE_DEG, le=MAX_SLOPE_DEG)]
Interior = Annotated[float, Meta(gt=0, lt=360)]

Measure = Literal["inside", "outside", "across_flats", "across_corners"]
Line = Literal["inside", "outside"]
MachineKind = Literal["table_saw", "miter_saw", "chamfer_bit", "shooting_board"]
HeightOf = Literal["glued", "closed", "body", "room"]
Eaves = Literal["square", "plumb"]
Method = Literal["square_first", "bevel_direct"]


class Regular(Struct, frozen=True, forbid_unknown_fields=True, tag_field="kind", tag="regular"):
    """A regular polygon. `inside` and `outside` measure a side; the other two measure across.

    `top_mm`, measured alike at the top edge, makes it taper: the slope follows from the two sizes.
    """

    sides: Annotated[int, Meta(ge=3, le=MAX_SIDES)]
    size_mm: Length
    measure: Measure = "outside"
    top_mm: Length | None = None


class Rectangle(Struct, frozen=True, forbid_unknown_fields=True, tag_field="kind", tag="rectangle"):
    """A rectangle: sides A and C run along the length, B and D along the width.

    The sizes at the top, where given, make it a hopper: the slopes follow.
    """

    length_mm: Length
    width_mm: Length
    measure: Line = "outside"
    top_length_mm: Length | None = None
    top_width_mm: Length | None = None


class Alternating(Struct, frozen=True, forbid_unknown_fields=True, tag_field="kind", tag="alternating"):
    """Equal corners and two side lengths in turn: a clipped-corner tray, a stretched octagon."""

    sides: Annotated[int, Meta(ge=4, le=MAX_SIDES, multiple_of=2)]
    first_mm: Length
    second_mm: Length
    measure: Line = "outside"


class Outline(Struct, frozen=True, forbid_unknown_fields=True, tag_field="kind", tag="outline"):
    """Any convex ring: each side's length and the corner at its end; null is worked out."""

    lengths_mm: Annotated[tuple[Length | None, ...], Meta(min_length=3, max_length=MAX_SIDES)]
    interiors_deg: Annotated[tuple[Interior | None, ...], Meta(min_length=3, max_length=MAX_SIDES)]
    measure: Line = "outside"


class House(Struct, frozen=True, forbid_unknown_fields=True, tag_field="kind", tag="house"):
    """A ring standing on a side like a house: floor A, wall B, roof C and D, wall E.

    `width_mm` is the floor; `wall_mm` the walls, to where their line meets the roof's (on the
    outside or the inside, as measured). `overhang_mm` is how far the roof's show face runs past the
    walls', level: over 0 the roof is laid on the walls, its eaves cut square or plumb; at 0 the
    eaves are mitered.
    """

    width_mm: Length
    wall_mm: Length
    pitch_deg: Annotated[float, Meta(gt=0, lt=85)]
    overhang_mm: Allowance = 0.0
    measure: Line = "outside"
    eaves: Eaves = "square"


Shape = Regular | Rectangle | Alternating | Outline | House


class Thing(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """Something the box holds: how many, how large, how they stand.

    For round things `length_mm` is the diameter. `columns` lie along side A, `layers` above each
    other; None lets the box be as compact as it can. `play_mm` is the room in all, both ways. What is
    `made` with the box is in its cut list and its steps.
    """

    name: Annotated[str, Meta(max_length=120)] = "blocks"
    count: Annotated[int, Meta(ge=1, le=10_000)] = 1
    length_mm: Length
    width_mm: Length
    height_mm: Length
    round: bool = False
    columns: Annotated[int, Meta(ge=1, le=10_000)] | None = None
    layers: Annotated[int, Meta(ge=1, le=1000)] = 1
    play_mm: Annotated[float, Meta(ge=0, le=1000)] = 2.0
    made: bool = False


class Dividers(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """Dividers in dadoes of a rectangle, halved where they cross.

    `across` run from A to C, `along` from D to B. Compartments are equal unless `widths_mm` (along
    side A) or `depths_mm` (along side B) say otherwise, from the start of that side's inside.
    """

    across: Annotated[int, Meta(ge=0, le=MAX_DIVIDERS)] = 1
    along: Annotated[int, Meta(ge=0, le=MAX_DIVIDERS)] = 0
    thickness_mm: Length = 4.0
    dado_mm: Length = 2.0
    height_mm: Length = 40.0
    widths_mm: Annotated[tuple[Length, ...], Meta(max_length=MAX_DIVIDERS)] = ()
    depths_mm: Annotated[tuple[Length, ...], Meta(max_length=MAX_DIVIDERS)] = ()


class Liner(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """A mitered box within the box: its own wood, standing on the bottom.

    `gap_mm` is the room between the two rings on each side.
    """

    thickness_mm: Length = 4.0
    height_mm: Length = 60.0
    gap_mm: Annotated[float, Meta(ge=0, le=1000)] = 0.2


class Lid(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """A lid sawn free after glue-up: its height, the kerf that frees it, what truing takes in all.

    `height_mm` is the finished lid. `clean_up_mm` is what truing takes from both edges together,
    half from each.
    """

    height_mm: Length = 25.0
    kerf_mm: Kerf = 2.5
    clean_up_mm: Annotated[float, Meta(ge=0, le=100)] = 0.5

    @property
    def lost_mm(self) -> float:
        """What freeing and truing it take from the height (mm)."""
        return self.kerf_mm + self.clean_up_mm


KeyKind = Literal["straight", "veneer", "dovetail"]
Corners = Annotated[tuple[Index, ...], Meta(max_length=MAX_SIDES)]


class Keys(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """Keys let in across corners: straight ones, of veneer in a thin saw cut, or dovetails.

    Heights of the keys' middles at the corner's arris come from `positions_mm`; when it is empty they are `placed`:
    `few`, in mirrored pairs that share a fence setting, or `even`, as evenly as lid and body allow, both `count` of
    them; or `spaced`, every `spacing_mm`. `depth_mm` is the slot along the corner's bisector; `leg_mm`, when given, is
    the slot's length down each face and takes its place. Of a dovetail `thickness_mm` is the width at the bit's end
    and `angle_deg` the bit's. `slant_deg` is how slots slant on the faces, the upper half the other way; on a corner
    that leans they lie square to its edge, or `level`. `corners` are those that have them, all if it is empty.
    """

    kind: KeyKind = "straight"
    count: Annotated[int, Meta(ge=1, le=40)] = 2
    placed: Literal["few", "even", "spaced"] = "few"
    spacing_mm: Annotated[float, Meta(ge=1, le=MAX_MM)] = 30.0
    thickness_mm: Length = 3.0
    depth_mm: Length = 8.0
    leg_mm: Length | None = None
    angle_deg: Annotated[float, Meta(ge=0, le=30)] = 14.0
    slant_deg: Annotated[float, Meta(ge=-45, le=45)] = 0.0
    lie: Literal["square", "level"] = "square"
    positions_mm: Annotated[tuple[Position, ...], Meta(max_length=40)] = ()
    edge_margin_mm: Allowance = 12.0
    lid_margin_mm: Allowance = 2.0
    wall_margin_mm: Allowance = 1.5
    corners: Corners = ()


class Splines(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """Loose splines inside the miters, along the corners: in grooves square to the miter face.

    `place_mm` is the groove's middle from the inside arris, along the joint, of the second `apart_mm` further out;
    `depth_mm` how deep it goes into each piece. It runs through, or stops short of the bottom or the top, measured
    along the corner.
    """

    count: Annotated[int, Meta(ge=1, le=2)] = 1
    thickness_mm: Length = 3.0
    depth_mm: Length = 6.0
    place_mm: Length = 5.0
    apart_mm: Length = 6.0
    stop_bottom_mm: Annotated[float, Meta(ge=0, le=MAX_MM)] = 0.0
    stop_top_mm: Annotated[float, Meta(ge=0, le=MAX_MM)] = 0.0
    wall_margin_mm: Allowance = 2.0
    corners: Corners = ()


class CornerBlocks(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """Blocks fitted into the corners from inside, of triangular section: `leg_mm` along each inner face.

    They stand on the bottom panel, or `above_mm` over the box's bottom edge where there is none, and end `below_mm`
    under the body's rim.
    """

    leg_mm: Length = 12.0
    above_mm: Annotated[float, Meta(ge=0, le=MAX_MM)] = 0.0
    below_mm: Annotated[float, Meta(ge=0, le=MAX_MM)] = 3.0
    corners: Corners = ()


class Form(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """Where the sides stand. Height is measured upright: that of the box as glued, before a lid is freed of it; or what
    `height_of` says, the closed box, its body, or the room inside, and the glued height follows.

    `thicknesses_mm` and `slopes_deg` hold one value for all sides or one for each, from side A; `front` is
    the number of the side that faces the room.
    """

    shape: Shape
    height_mm: Length = 80.0
    height_of: HeightOf = "glued"
    thicknesses_mm: Annotated[tuple[Length, ...], Meta(min_length=1, max_length=MAX_SIDES)] = (9.0,)
    slopes_deg: Annotated[tuple[Slope, ...], Meta(min_length=1, max_length=MAX_SIDES)] = (0.0,)
    front: Index = 0


class Opening(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """An opening through a side: a round hole, a slot with round ends, or a finger notch in the rim.

    The rim is the body's, where a lid is sawn free. `along_mm` is from the side's start, along the bottom edge of
    its show face, to the opening's middle; None is half way. `up_mm` is from that edge up the face to the middle
    of a hole or slot. `width_mm` is along the side (a hole's diameter), `high_mm` the slot's height or the notch's
    depth. With `both` the side across has the same, mirrored.
    """

    kind: Literal["hole", "slot", "notch"] = "hole"
    side: Index = 0
    both: bool = False
    along_mm: Position | None = None
    up_mm: Position = 40.0
    width_mm: Length = 20.0
    high_mm: Length = 10.0


class Feet(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """Small feet under the box: blocks or mitered pairs under its corners, or wedges under its sides.

    `size_mm` is a foot's length along each side, `height_mm` how high it lifts the box, `thickness_mm` that of
    mitered ones; `inset_mm` how far they stand in from the outside. A wedge is what the bevels cut off: the
    bevel says how high it is.
    """

    kind: Literal["block", "mitered", "wedge"] = "block"
    size_mm: Length = 25.0
    height_mm: Length = 12.0
    thickness_mm: Length = 9.0
    inset_mm: Annotated[float, Meta(ge=0, le=1000)] = 0.0


class Section(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """What the box has from its bottom edge up: `lid` is sawn free of it, a `cover` is a lid of another kind.

    Edges are profiled outside: `bottom_edge`, `top_edge` (of a panel glued on there, the panel's), `lid_edges` where
    body and lid part, on both; inside along the body's rim, `rim_edge`; along the upper edge of a base that overhangs
    the sides, `base_edge`, and the lower one of a top or lid that does, `under_edge`.
    """

    bottom: Panel | None = None
    false_floor: FalseFloor | None = None
    top: Panel | None = None
    lid: Lid | None = None
    strip: Strip | None = None
    cover: Cover | None = None
    hinges: Hinges | None = None
    magnets: Magnets | None = None
    bottom_edge: OuterEdge | None = None
    top_edge: OuterEdge | None = None
    lid_edges: EdgeProfile | None = None
    rim_edge: EdgeProfile | None = None
    base_edge: EdgeProfile | None = None
    under_edge: EdgeProfile | None = None
    moulding: Moulding | None = None
    inlay: Inlay | None = None
    handle: Handle | None = None
    latch: Latch | None = None
    brackets: Brackets | None = None
    seasons: Seasons | None = None
    openings: Annotated[tuple[Opening, ...], Meta(max_length=MAX_OPENINGS)] = ()
    feet: Feet | None = None


class Joints(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """What strengthens the corners: keys across them, of two kinds where they are mixed, splines, blocks inside."""

    keys: Keys | None = None
    other_keys: Keys | None = None
    splines: Splines | None = None
    corner_blocks: CornerBlocks | None = None


class Together(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """The things it holds packed into one block, in all three directions: no higher than `high_mm`, and as long and
    wide as is said; 0 for any.
    """

    high_mm: Allowance = 0.0
    long_mm: Allowance = 0.0
    wide_mm: Allowance = 0.0


class Inside(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """What the box holds and what stands in it. `lining_mm` is what foam or cloth takes on each inner face,
    `cloth_mm` of it the cloth that covers the leaves, and is turned over their edges.
    """

    contents: Annotated[tuple[Thing, ...], Meta(max_length=60)] = ()
    lining_mm: Annotated[float, Meta(ge=0, le=100)] = 0.0
    cloth_mm: Annotated[float, Meta(ge=0, le=10)] = 0.5
    together: Together | None = None
    dividers: Dividers | None = None
    liner: Liner | None = None
    fillets: Fillets | None = None
    tray: Tray | None = None


class Design(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """One box as decided, whatever board and tools it is made with."""

    name: Name = "Untitled box"
    units: Literal["mm", "in"] = "mm"
    form: Form
    section: Section = Section()
    joints: Joints = Joints()
    inside: Inside = Inside()
    notes: Annotated[str, Meta(max_length=20_000)] = ""

    @property
    def side_count(self) -> int:
        """How many sides the ring has."""
        match self.form.shape:
            case Rectangle():
                return 4
            case House():
                return 5
            case Outline(lengths_mm=lengths):
                return len(lengths)
            case shape:
                return shape.sides

    def thickness_of(self, side: int) -> float:
        """Thickness (mm) of side number `side`."""
        given = self.form.thicknesses_mm
        return given[side if len(given) > 1 else 0]

    def slope_of(self, side: int) -> float:
        """Lean (degrees) of side number `side`; from the sizes at the top where they are given."""
        rise = taper_mm(self.form.shape, side)
        if rise is not None:
            return math.degrees(math.atan2(rise, self.form.height_mm))
        given = self.form.slopes_deg
        return given[side if len(given) > 1 else 0]

    def as_glued(self) -> "Design":
        """The same design with the height given as that of the box as glued."""
        given = self.form.height_mm
        if self.form.height_of == "glued":
            return self
        # All four grow together: what lies between them is the same at any height.
        over = (
            given
            - {"closed": self.closed_mm, "body": self.body_mm, "room": self.room_mm}[self.form.height_of]
        )
        made: Design = replace(
            self, form=replace(self.form, height_mm=max(LEAST_MM, given + over), height_of="glued")
        )
        return made

    @property
    def stands_out_mm(self) -> float:
        """What panels stand out of the sides' edges, below and above (mm); of a roof its leaves at the ridge."""
        section = self.section
        panels = (section.bottom, section.top, panel_for(section.cover))
        out = sum(max(0.0, -panel.up_mm) for panel in panels if panel is not None)
        if isinstance(section.cover, Gable):
            out += section.cover.thickness_mm / math.cos(math.radians(section.cover.pitch_deg))
        return out

    @property
    def closed_mm(self) -> float:
        """Height (mm) of the closed box once a lid is sawn free and trued, with what stands out of it."""
        lost = self.section.lid.lost_mm if self.section.lid else 0.0
        return self.form.height_mm - lost + self.strip_mm + self.stands_out_mm

    @property
    def body_mm(self) -> float:
        """Height (mm) of the sides under a lid that is sawn free; of all of them where there is none."""
        lid = self.section.lid
        return self.form.height_mm - (lid.height_mm + lid.lost_mm if lid else 0.0)

    @property
    def bare_floor_mm(self) -> float:
        """Height of the bottom panel's upper face; 0 without a bottom."""
        bottom = self.section.bottom
        return bottom.up_mm + bottom.thickness_mm if bottom else 0.0

    @property
    def floor_mm(self) -> float:
        """Height of the floor where things stand: the bottom's, or that over a hidden compartment."""
        false = self.section.false_floor
        return self.bare_floor_mm + (false.height_mm + false.thickness_mm if false else 0.0)

    @property
    def room_mm(self) -> float:
        """Height (mm) from the floor to what closes the box above, or the rim, once a lid is sawn free of it."""
        lid = self.section.lid
        taken = max(_taken_above(self.section.top), _taken_above(panel_for(self.section.cover)))
        match self.section.cover:
            case LiftOff(plug_mm=under):
                taken += under
            case Gable() as roof:
                taken += self.gable_rise_mm(roof)
        return self.form.height_mm - self.floor_mm - taken - (lid.lost_mm if lid else 0.0) + self.strip_mm

    @property
    def strip_mm(self) -> float:
        """How much a strip between body and lid gives back of what freeing the lid takes (mm)."""
        strip = self.section.strip
        return strip.height_mm if strip and self.section.lid else 0.0

    def gable_rise_mm(self, roof: Gable) -> float:
        """How far the points of the gables stand over the eaves (mm), of a rectangle; 0 of any other ring."""
        shape = self.form.shape
        if not isinstance(shape, Rectangle):
            return 0.0
        along = roof.ridge == "along"
        across = shape.width_mm if along else shape.length_mm
        if shape.measure == "inside":
            across += self.thickness_of(0 if along else 1) + self.thickness_of(2 if along else 3)
        return across / 2 * math.tan(math.radians(roof.pitch_deg))


PanelName = Literal["bottom", "top", "lid"]


def _taken_above(panel: Panel | None) -> float:
    """What a panel takes of the height under the rim (mm)."""
    if panel is None:
        return 0.0
    return panel.up_mm + panel.thickness_mm + (panel.fit_mm if panel.seat == "groove" else 0.0)


def panel_of(design: Design, name: str) -> Panel | None:
    """The bottom, the top, or the lid as the panel it is."""
    section = design.section
    return {"bottom": section.bottom, "top": section.top}[name] if name != "lid" else panel_for(section.cover)


def size_address(panel: str, size: str, seat: Seat = "groove") -> str:
    """The address of a panel's size; of the lid that of its cover, whose ledge in a rabbet is the panel's depth."""
    if panel != "lid":
        return f"section.{panel}.{size}"
    return f"section.cover.{'ledge_mm' if size == 'depth_mm' and seat == 'rabbet' else size}"


def taper_mm(shape: Shape, side: int) -> float | None:
    """How far side `side` stands further out at the top, where the shape gives sizes there."""
    match shape:
        case Regular(top_mm=float(top)):
            half = math.pi / shape.sides
            per_size = {
                "inside": 0.5 / math.tan(half),
                "outside": 0.5 / math.tan(half),
                "across_flats": 0.5,
                "across_corners": 0.5 * math.cos(half),
            }[shape.measure]
            return (top - shape.size_mm) * per_size
        case Rectangle():
            # Sides A and C stand further out by half of what the width grows.
            low, high = (
                (shape.width_mm, shape.top_width_mm)
                if side % 2 == 0
                else (shape.length_mm, shape.top_length_mm)
            )
            return None if high is None else (high - low) / 2
    return None


def tapers(design: Design) -> bool:
    """Whether the ring's slopes come from its sizes at the top."""
    shape = design.form.shape
    if isinstance(shape, Regular):
        return shape.top_mm is not None
    return isinstance(shape, Rectangle) and (
        shape.top_length_mm is not None or shape.top_width_mm is not None
    )


def leans(design: Design) -> bool:
    """Whether any side stands other than upright."""
    return any(design.slope_of(side) for side in range(design.side_count))


def side_name(side: int) -> str:
    """A, B … Z, AA, AB … as on the ends of the pieces."""
    name = ""
    number = side + 1
    while number:
        number, letter = divmod(number - 1, 26)
        name = chr(ord("A") + letter) + name
    return name


def corner_name(corner: int, count: int) -> str:
    """The corner at the end of side `corner`: AB, or Z-AA where letters alone would be unclear."""
    first, second = side_name(corner), side_name((corner + 1) % count)
    return f"{first}-{second}" if len(first) + len(second) > 2 else first + second
