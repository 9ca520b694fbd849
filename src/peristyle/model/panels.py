"""Panels, and the lids that are not sawn free of the box: what lies across it, from the floor to the roof."""

from typing import Annotated, Literal

from msgspec import Meta, Struct

from peristyle.model.limits import MAX_SIDES, Allowance, Fit, Index, Length, Percent, Play, Position

InsertOf = Literal["slate", "glass", "tile", "lattice"]
GrooveWay = Literal["level", "square", "tongue"]
Seat = Literal["groove", "rabbet", "applied"]
Sawn = Literal["plain", "quarter", "rift"]
Grain = Literal["length", "width"]
Species = Annotated[str, Meta(max_length=60)]


class Segments(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """A panel glued up of segments: a pie of triangles, or a ring of trapezoids `ring_mm` wide.

    Loose splines `spline_mm` thick, 0 for none, lie in their joints, their grooves `spline_depth_mm` deep in each.
    """

    count: Annotated[int, Meta(ge=3, le=MAX_SIDES)] = 8
    style: Literal["pie", "ring"] = "pie"
    ring_mm: Length = 40.0
    spline_mm: Allowance = 0.0
    spline_depth_mm: Length = 5.0


class Wooden(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """What a panel or a lid is made of, as far as damp and dry seasons care.

    `wood` is its species, empty where it is not said; `grain` runs along its length (the box's, along side A) or its
    width; `sheet` is plywood and the like; it is glued up of `strips` edge to edge, 1 for one piece.
    """

    wood: Species = ""
    sawn: Sawn = "plain"
    grain: Grain = "length"
    sheet: bool = False
    strips: Annotated[int, Meta(ge=1, le=40)] = 1


class Panel(Wooden, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """A bottom or top panel: in a groove, let into a rabbet from outside, or glued flat on the sides' edges.

    In a rabbet it lies flush with the edge, or stands `proud_mm` out of it for a shadow line. Applied, it is glued on
    `overhang_mm` larger all round; at 0 it is cut oversize and flushed.
    `height_mm` is from the edge of the sides (the bottom edge; for the top panel the top edge) to
    the near edge of the groove; `play_mm` is
    the room left at the bottom of the groove on each side; `fit_mm` what the groove is wider than
    the panel is thick. In leaning sides `groove` says how the level panel is met: by a groove with level walls
    (`depth_mm` is then at its shallower wall, level), by one square to the face and wider, or by one square to
    the face for a tongue along the panel's edge. With `leaves` it is glued up of two leaves of the sides' board that
    mirror each other.
    """

    height_mm: Position = 6.0
    depth_mm: Length = 4.0
    thickness_mm: Length = 4.0
    play_mm: Play = 0.5
    fit_mm: Fit = 0.1
    groove: GrooveWay = "level"
    segments: Segments | None = None
    seat: Seat = "groove"
    proud_mm: Play = 0.0
    overhang_mm: Play = 0.0
    leaves: bool = False

    @property
    def up_mm(self) -> float:
        """From the edge of the sides to the panel's face on that side; negative where it stands out of it."""
        return {"groove": self.height_mm, "rabbet": -self.proud_mm, "applied": -self.thickness_mm}[self.seat]


class FalseFloor(Wooden, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """A floor over a hidden compartment: a loose panel on strips glued along the walls.

    `height_mm` is that of the compartment; `play_mm` the room on each side; `ledge_mm` how wide the strips are, their
    height the compartment's; `hole_mm` the finger hole to lift it by, 0 for none.
    """

    height_mm: Length = 12.0
    thickness_mm: Length = 4.0
    play_mm: Play = 0.5
    ledge_mm: Length = 6.0
    hole_mm: Allowance = 16.0


class Strip(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """A strip between body and lid, where the lid would stand off: a small mitered ring, cut `over_mm` overwide outside
    and in and flushed once it is on.
    """

    height_mm: Length = 2.0
    over_mm: Play = 1.0


class LiftOff(
    Wooden, frozen=True, forbid_unknown_fields=True, kw_only=True, tag_field="kind", tag="lift_off"
):
    """A board on the rim with a plug glued under it, which goes into the mouth `fit_mm` smaller on each side.

    The board stands `overhang_mm` out over `two` sides, the front and what lies across from it, for the fingers, or
    over `all`.
    """

    thickness_mm: Length = 8.0
    overhang_mm: Play = 4.0
    over: Literal["all", "two"] = "two"
    plug_mm: Length = 6.0
    fit_mm: Fit = 0.3


class DropIn(Wooden, frozen=True, forbid_unknown_fields=True, kw_only=True, tag_field="kind", tag="drop_in"):
    """A lid that lies in a rabbet round the rim, `ledge_mm` wide; lifted by a finger hole, 0 for none."""

    thickness_mm: Length = 6.0
    ledge_mm: Length = 4.0
    play_mm: Play = 0.5
    proud_mm: Play = 0.0
    hole_mm: Allowance = 20.0


class Insert(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True, tag_field="kind", tag="insert"):
    """Slate, glass, a tile or a lattice that lies in a lip round the rim, as large as the ring makes it.

    The opening is smaller than the insert by twice the lip, less twice the play. `hole_mm` is drilled through its
    middle for a pull, 0 for none.
    """

    what: InsertOf = "slate"
    thickness_mm: Length = 6.0
    ledge_mm: Length = 4.0
    play_mm: Play = 0.5
    proud_mm: Play = 0.0
    hole_mm: Allowance = 0.0


class Flat(Wooden, frozen=True, forbid_unknown_fields=True, kw_only=True, tag_field="kind", tag="flat"):
    """A board on the rim that stands `overhang_mm` out all round: to be hinged."""

    thickness_mm: Length = 8.0
    overhang_mm: Play = 5.0


class Split(Wooden, frozen=True, forbid_unknown_fields=True, kw_only=True, tag_field="kind", tag="split"):
    """A board on the rim in two: one part, `fixed_mm` of the inside's width, is glued down, the other lifts off.

    They part along a line level with side `side`'s, so that the fixed part lies over that side; `gap_mm` between them.
    """

    thickness_mm: Length = 8.0
    overhang_mm: Play = 5.0
    fixed_mm: Length = 40.0
    gap_mm: Play = 0.5
    side: Index = 2


class Sliding(Wooden, frozen=True, forbid_unknown_fields=True, kw_only=True, tag_field="kind", tag="sliding"):
    """A lid that slides in grooves along the rim and out over one side, which is lowered for it.

    `height_mm` is from the rim to the groove; `notch_mm` is the width of the finger notch at its end, 0 for none.
    """

    height_mm: Position = 5.0
    depth_mm: Length = 4.0
    thickness_mm: Length = 5.0
    play_mm: Play = 0.4
    fit_mm: Fit = 0.3
    side: Index = 1
    notch_mm: Allowance = 20.0


class Gable(Wooden, frozen=True, forbid_unknown_fields=True, kw_only=True, tag_field="kind", tag="gable"):
    """A roof on an upright rectangle: two walls rise to a point, two leaves lie on them, mitered at the ridge.

    The ridge runs `along` side A or `across` to it; the walls' height as glued is that of the points. Leaves stand
    `overhang_mm` out over the eaves, level, at their upper arris, and `ends_mm` over the gables. One is glued down.
    """

    pitch_deg: Annotated[float, Meta(ge=5, le=70)] = 30.0
    thickness_mm: Length = 8.0
    overhang_mm: Play = 12.0
    ends_mm: Play = 8.0
    ridge: Literal["along", "across"] = "along"


Cover = LiftOff | DropIn | Insert | Flat | Split | Sliding | Gable


class Seasons(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """The air round the box: as it is made, at its driest and its dampest (relative humidity, % at `temperature_c`); or
    the wood's own moisture content then (%), where that is what the maker knows.
    """

    by: Literal["humidity", "moisture"] = "humidity"
    now: Percent = 50.0
    driest: Percent = 35.0
    dampest: Percent = 65.0
    temperature_c: Annotated[float, Meta(ge=-20, le=60)] = 20.0


def panel_for(cover: Cover | None) -> Panel | None:
    """The panel that a lid is, with the seat it has along the rim; None of a roof, and where there is none."""
    match cover:
        case Sliding():
            seat: Panel = _as_panel(cover, height_mm=cover.height_mm, depth_mm=cover.depth_mm, play_mm=cover.play_mm,
                                    fit_mm=cover.fit_mm)  # fmt: skip
            return seat
        case DropIn():
            return _as_panel(cover, seat="rabbet", depth_mm=cover.ledge_mm, play_mm=cover.play_mm, fit_mm=0.0,
                             proud_mm=cover.proud_mm)  # fmt: skip
        case Insert():
            return Panel(thickness_mm=cover.thickness_mm, seat="rabbet", depth_mm=cover.ledge_mm, play_mm=cover.play_mm,
                         fit_mm=0.0, proud_mm=cover.proud_mm, sheet=True)  # fmt: skip
        case LiftOff() | Flat() | Split():
            return _as_panel(cover, seat="applied", overhang_mm=cover.overhang_mm, fit_mm=0.0)
    return None


def _as_panel(cover: Wooden, **given: object) -> Panel:
    wooden = {name: getattr(cover, name) for name in (*Wooden.__struct_fields__, "thickness_mm")}
    return Panel(**wooden, **given)  # type: ignore[arg-type]
