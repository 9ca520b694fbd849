"""The boards: the one the sides come from, how it is cut up, and the others on the rack."""

from typing import Annotated, Final, Literal

from msgspec import Meta, Struct

from peristyle.model.design import replace
from peristyle.model.limits import MAX_MM, Index, Length, Name
from peristyle.reference.woods import Look, Sawn

Allowance = Annotated[float, Meta(ge=0, le=MAX_MM)]
Method = Literal["square_first", "bevel_direct", "flip_shared", "book", "upright", "none"]
MarkKind = Literal["knot", "check", "snipe", "wane", "stain", "sapwood", "streak", "figure"]
Wish = Literal["avoid", "front", "height", "note"]
Shows = Literal["front", "back", "through"]
Digest = Annotated[str, Meta(max_length=80, pattern="^[a-z0-9.]*$")]

MOST_MARKS: Final = 200
MOST_BOARDS: Final = 100

# What a mark asks for when it is painted (common practice): faults are kept clear of, the rest is looked at.
WISHES: Final[dict[MarkKind, Wish]] = {
    "knot": "avoid", "check": "avoid", "snipe": "avoid", "wane": "avoid", "stain": "avoid",
    "sapwood": "height", "streak": "height", "figure": "front",
}  # fmt: skip


class Mark(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """A place on a board, painted on its picture: a fault to keep clear of, or something to be seen.

    `x_mm` and `y_mm` are its lower left corner, from the board's start end and its straight edge as it is
    pictured, front up; `length_mm` is along the board. `shows` says on which faces it is. `wish`: keep clear of it,
    have it on the front, have its middle `at_mm` above the box's bottom edge, or only note it. It may come on
    an inside face with `inside`, and on the sides in `sides`.
    """

    kind: MarkKind = "knot"
    x_mm: Allowance = 100.0
    y_mm: Allowance = 20.0
    length_mm: Length = 20.0
    width_mm: Length = 20.0
    shows: Shows = "through"
    wish: Wish = "avoid"
    at_mm: Allowance = 40.0
    inside: bool = False
    sides: Annotated[tuple[Index, ...], Meta(max_length=200)] = ()


class CutFrom(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """Which part of a larger board this one is: the larger one's size, and where this one lay in it (mm)."""

    length_mm: Length
    width_mm: Length
    x_mm: Allowance = 0.0
    y_mm: Allowance = 0.0


class Board(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """The board the sides come from, and how it is cut up.

    `end_trim_mm` comes off the start end. `creep_mm` is left on each end of a piece to creep up
    on the line. With `resaw` the board is sawn into two leaves first. `shift_mm` moves the strip along
    the board from the trimmed end, `across_mm` up from its straight edge, for which straightening takes `edge_mm`
    first; `planing_mm` is what planing takes of the thickness. `face` is the face that becomes the show faces;
    `turned`, the board lies end for end, so that its other edge is down.

    `wood`, `seed`, `sawn` and `looks` say how its picture grows; `picture` and `back_picture` name pictures
    of a real board, straight and to scale, by their digests; an offcut shows its part of the board it was
    `cut_from`. `sheet` is plywood and the like. `price` is for the
    whole board.
    """

    name: Annotated[str, Meta(max_length=120)] = "Board"
    length_mm: Length = 1200.0
    width_mm: Length = 140.0
    thickness_mm: Length = 12.0
    end_trim_mm: Allowance = 10.0
    creep_mm: Annotated[float, Meta(ge=0, le=50)] = 0.0
    shift_mm: Allowance = 0.0
    across_mm: Allowance = 0.0
    edge_mm: Allowance = 0.0
    planing_mm: Allowance = 0.0
    method: Method = "square_first"
    resaw: bool = False
    face: Literal["front", "back"] = "front"
    turned: bool = False
    wood: Name = "cherry"
    seed: Annotated[int, Meta(ge=0, lt=2**31)] = 7
    sawn: Sawn = "plain"
    looks: Annotated[tuple[Look, ...], Meta(max_length=10)] = ()
    sheet: bool = False
    price: Annotated[float, Meta(ge=0, le=1e6)] = 0.0
    picture: Digest = ""
    back_picture: Digest = ""
    marks: Annotated[tuple[Mark, ...], Meta(max_length=MOST_MARKS)] = ()
    cut_from: CutFrom | None = None
    notes: Annotated[str, Meta(max_length=4_000)] = ""

    @property
    def sound_thickness_mm(self) -> float:
        """What is left of the thickness once the board is planed."""
        return self.thickness_mm - self.planing_mm

    @property
    def low_mm(self) -> float:
        """Where the strip begins across the board, from its edge as it came."""
        return self.edge_mm + self.across_mm

    def lying(self, x: float, y: float) -> tuple[float, float]:
        """A point as pictured (from the start end and the straight edge, front up), on the board as it lies on the
        bench, show face up; and the other way round.
        """
        x = self.length_mm - x if self.turned else x
        return (x, self.width_mm - y if self.turned != (self.face == "back") else y)


class From(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """Which board of the rack each part comes from, by its name; empty for other wood of its thickness."""

    panels: Annotated[str, Meta(max_length=120)] = ""
    liner: Annotated[str, Meta(max_length=120)] = ""
    keys: Annotated[str, Meta(max_length=120)] = ""


class Break(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """Where the wrap is broken: the sides that follow side `after` (A = 0) begin elsewhere.

    On the sides' own board, or with `board` on one of the rack, by its name. `skip_mm` of it is cut away first: behind
    what was cut from it before, or from its start end.
    """

    after: Index
    board: Annotated[str, Meta(max_length=120)] = ""
    skip_mm: Allowance = 0.0


class Stock(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """What the box is made of: the board of its sides, the others on the rack, and what comes from which.

    `closing_corner` is the number of the side (A = 0) at whose end the wrap closes, None for the last; at `breaks` it
    is broken besides, where no one board holds the ring or a side had to be made anew. `banding_mm` is the thickness of
    the banding on edges of sheet stock, 0 for none. With `as_needed` the board is as large as the box needs, until the
    maker says how large it is.
    """

    board: Board = Board()
    as_needed: bool = False
    rack: Annotated[tuple[Board, ...], Meta(max_length=MOST_BOARDS)] = ()
    parts: From = From()
    closing_corner: Index | None = None
    breaks: Annotated[tuple[Break, ...], Meta(max_length=200)] = ()
    banding_mm: Annotated[float, Meta(ge=0, le=10)] = 0.5


SIZES: Final = ("length_mm", "width_mm", "thickness_mm")


def entered(before: Stock, after: Stock) -> Stock:
    """A board whose size the maker has said is no longer as large as the box needs."""
    same = all(getattr(before.board, size) == getattr(after.board, size) for size in SIZES)
    if not after.as_needed or same:
        return after
    made: Stock = replace(after, as_needed=False)
    return made


def took(stock: Stock, number: int) -> Stock:
    """The sides from another board of the rack; the one they came from goes in its place.

    How it is cut up stays as it was.
    """
    board, now = stock.rack[number], stock.board
    kept: Board = replace(board, method=now.method, creep_mm=now.creep_mm, resaw=now.resaw)
    rack = (*stock.rack[:number], now, *stock.rack[number + 1 :])
    made: Stock = replace(stock, board=kept, rack=rack, as_needed=False)
    return made
