"""Addresses: a name for every value a design can hold, to read and to write it by.

`section.lid.height_mm`, `sides.C.thickness_mm`, `inside.contents.1.count`. Limits, kinds and defaults are
read off the model's own types; words and the places where values live are given here.
"""

import difflib
from collections.abc import Iterator, Sequence
from functools import cache
from typing import Any, Final, NamedTuple

from msgspec import NODEFAULT
from msgspec import inspect as kinds

from peristyle.core.errors import LengthError, PeristyleError
from peristyle.model.address import Address, read, struct_of, write, written
from peristyle.model.address_words import WORDS
from peristyle.model.cover_addresses import cover_addresses
from peristyle.model.design import (
    MAX_OPENINGS,
    Alternating,
    Brackets,
    CornerBlocks,
    Design,
    Dividers,
    EdgeProfile,
    FalseFloor,
    Feet,
    Fillets,
    Form,
    Handle,
    HeightOf,
    Hinges,
    House,
    Inlay,
    Inside,
    Keys,
    Latch,
    Lid,
    Liner,
    Magnets,
    Moulding,
    Opening,
    OuterEdge,
    Outline,
    Panel,
    Rectangle,
    Regular,
    Seasons,
    Segments,
    Shape,
    Splines,
    Strip,
    Thing,
    Together,
    Tray,
    corner_name,
    replace,
    side_name,
)
from peristyle.model.edits import height_given, with_held
from peristyle.model.faults import breaches, faults_of_type, listed
from peristyle.model.job import (
    MOST_WOODS,
    Job,
    KeyTimes,
    OwnSpecies,
    Saw,
    SledTable,
    Spread,
    Work,
    decide,
    decided,
    job_of,
    openings_within,
    revised,
)
from peristyle.model.kept import HARDWARE, HardwareName, kept_as
from peristyle.model.kept_addresses import kept, taken_from, with_kept
from peristyle.model.runs import breaks_told, put_breaks
from peristyle.model.section_edits import COVERS
from peristyle.model.starts import begun
from peristyle.model.stock import MOST_BOARDS, MOST_MARKS, Board, From, Mark, Stock
from peristyle.model.tool_addresses import tools
from peristyle.model.tools import Uses
from peristyle.model.working_addresses import working

__all__ = ["Address", "addresses", "applied", "described", "every", "find", "put", "sound", "written"]

_ALL: Final = "all"
_LAST: Final = "last"  # the corner at the end of the last side

# Address, attribute of the design, type, words.
_PARTS: Final[tuple[tuple[str, str, type, str], ...]] = (
    ("section.bottom", "bottom", Panel, "bottom panel"),
    ("section.top", "top", Panel, "top panel"),
    ("section.lid", "lid", Lid, "lid sawn free"),
    ("section.false_floor", "false_floor", FalseFloor, "floor over a hidden compartment"),
    ("section.strip", "strip", Strip, "strip between body and lid"),
    ("section.hinges", "hinges", Hinges, "hinges"),
    ("section.magnets", "magnets", Magnets, "magnets"),
    ("section.bottom_edge", "bottom_edge", OuterEdge, "profile along the bottom edge"),
    ("section.top_edge", "top_edge", OuterEdge, "profile along the top edge"),
    ("section.lid_edges", "lid_edges", EdgeProfile, "profile round the lid's joint"),
    ("section.rim_edge", "rim_edge", EdgeProfile, "profile inside the rim"),
    ("section.base_edge", "base_edge", EdgeProfile, "profile along the upper edge of a base that overhangs"),
    (
        "section.under_edge",
        "under_edge",
        EdgeProfile,
        "profile along the lower edge of a top or lid that overhangs",
    ),
    ("section.moulding", "moulding", Moulding, "moulded sides"),
    ("section.inlay", "inlay", Inlay, "inlay"),
    ("section.handle", "handle", Handle, "handle, knob or pull"),
    ("section.latch", "latch", Latch, "latch"),
    ("section.brackets", "brackets", Brackets, "corner brackets"),
    ("section.seasons", "seasons", Seasons, "air round the box"),
    ("section.feet", "feet", Feet, "feet"),
    ("joints.keys", "keys", Keys, "keys"),
    ("joints.other_keys", "other_keys", Keys, "other keys"),
    ("joints.splines", "splines", Splines, "splines"),
    ("joints.corner_blocks", "corner_blocks", CornerBlocks, "corner blocks"),
    ("inside.together", "together", Together, "things packed together in three directions"),
    ("inside.liner", "liner", Liner, "liner"),
    ("inside.fillets", "fillets", Fillets, "fillets"),
    ("inside.tray", "tray", Tray, "tray"),
    ("inside.dividers", "dividers", Dividers, "dividers"),
)
_ALWAYS: Final[tuple[tuple[str, str, type, str], ...]] = (
    ("stock.board", "board", Board, "board"),
    ("stock.parts", "parts", From, "board that"),
    ("shop.saw", "saw", Saw, "saw"),
    ("shop.uses", "uses", Uses, "tool that"),
    ("shop.times", "times", KeyTimes, "minutes"),
    ("shop.spread", "spread", Spread, "spread"),
    ("shop.table", "table", SledTable, "table, for a sled:"),
)
_SHAPES: Final[dict[str, type]] = {
    "regular": Regular, "rectangle": Rectangle, "alternating": Alternating, "outline": Outline, "house": House,
}  # fmt: skip


_HEIGHTS: Final[tuple[tuple[str, str, HeightOf], ...]] = (
    ("form.height_mm", "height of the box as glued, before a lid is freed", "glued"),
    ("form.closed_mm", "height of the closed box, once a lid is freed, with what stands out of it", "closed"),
    ("form.body_mm", "height of the sides under a lid that is sawn free", "body"),
    ("form.room_mm", "height of the room inside", "room"),
)


def _kind(kind: type, name: str) -> kinds.Type:
    """The type of a field, with its limits."""
    return next(field.type for field in struct_of(kind).fields if field.name == name)


@cache
def _of_design() -> dict[str, kinds.Field]:
    """The fields of the design and of its parts by name."""
    return {field.name: field for part in (Design, Form, Inside) for field in struct_of(part).fields}


_BOOL: Final = kinds.type_info(bool)


def addresses(job: Job) -> list[Address]:
    """Every value this design can hold as it is: for its shape, its sides, its parts and contents."""
    return [*_own(job), *_form(job), *_sides(job), *_inner(job), *_stock(job)]


def _own(job: Job) -> Iterator[Address]:
    info = _of_design()
    for name, words in (("name", "name of the box"), ("units", "units"), ("notes", "notes")):
        yield _plain(name, words, info[name].type, name, info[name].default)


def _plain(place: str, words: str, kind: kinds.Type, name: str, default: Any = NODEFAULT) -> Address:
    """A value that the design itself holds."""
    return Address(place, words, kind, lambda d: decided(d, name), lambda d, v: decide(d, name, v), default)


def _leaf(head: str, of: str, part: str, field: kinds.Field) -> Address:
    """A value in one of the job's parts."""
    name = field.name

    def get(job: Job) -> Any:
        return getattr(decided(job, part), name)

    def put(job: Job, value: Any) -> Job:
        changed: Any = replace(decided(job, part), **{name: value})
        return decide(job, part, changed)

    return Address(f"{head}.{name}", f"{of}: {_word(part, name)}", field.type, get, put, field.default)


def _word(part: str, name: str) -> str:
    """What a value of a part is called; of one name in two parts, in the part itself."""
    return WORDS.get(f"{part}.{name}") or WORDS[name]


def _form(job: Job) -> Iterator[Address]:
    kind = type(job.design.form.shape)
    literal = kinds.LiteralType(values=tuple(_SHAPES))
    yield Address("form.shape", "shape: kind", literal, _kind_of, _reshaped)
    for field in struct_of(kind).fields:
        leaf = _leaf("form", "shape", "shape", field)
        yield leaf._replace(put=_put_sides) if field.name == "sides" else leaf
    info = _of_design()
    for place, words, of in _HEIGHTS:
        get, put = height_given(of)
        yield Address(place, words, info["height_mm"].type, get, put, 80.0 if of == "glued" else NODEFAULT)
    yield Address(
        "form.height_of", "which of them is held", info["height_of"].type, lambda d: d.design.form.height_of,
        with_held, "glued",
    )  # fmt: skip
    text = kinds.StrType()
    yield Address(
        "form.front", "side that faces the room", text, lambda d: side_name(d.design.form.front), _put_front
    )


def _kind_of(job: Job) -> str:
    return next(name for name, shape in _SHAPES.items() if shape is type(job.design.form.shape))


def _reshaped(job: Job, kind: str) -> Job:
    """Another kind of ring about as large; its own sizes are to be set after."""
    if kind == _kind_of(job):
        return job
    known = [
        v for name in ("length_mm", "size_mm", "first_mm", "width_mm", "second_mm", "wall_mm")
        if isinstance(v := getattr(job.design.form.shape, name, None), float)
    ]  # fmt: skip
    known += [v for v in getattr(job.design.form.shape, "lengths_mm", ()) if v is not None]
    first = known[0] if known else 200.0
    second = known[1] if len(known) > 1 else first
    shapes: dict[str, Shape] = {
        "regular": Regular(6, first),
        "rectangle": Rectangle(first, second),
        "alternating": Alternating(8, first, second),
        "outline": Outline((first, second, first, second), (90.0,) * 4),
        "house": House(first, second, 40.0),
    }
    made = shapes[kind]
    fitting = revised(
        job,
        shape=made,
        thicknesses_mm=job.design.form.thicknesses_mm[:1],
        slopes_deg=job.design.form.slopes_deg[:1],
    )
    kept = openings_within(job, fitting.design.side_count)
    return revised(fitting, front=0, closing_corner=None, openings=kept)


def _put_sides(job: Job, sides: int) -> Job:
    """Another number of sides: what was given side by side becomes one for all, as side A has it."""
    if sides == job.design.side_count:
        return job
    return revised(
        job,
        shape=replace(job.design.form.shape, sides=sides),
        thicknesses_mm=job.design.form.thicknesses_mm[:1],
        slopes_deg=job.design.form.slopes_deg[:1],
        front=min(job.design.form.front, sides - 1),
        openings=openings_within(job, sides),
        closing_corner=None if (job.stock.closing_corner or 0) >= sides else job.stock.closing_corner,
    )


def _put_front(job: Job, text: str) -> Job:
    return revised(job, front=_side(job, text))


def _side(job: Job, text: str) -> int:
    names = [side_name(i) for i in range(job.design.side_count)]
    if text.strip().upper() not in names:
        raise PeristyleError(f"“{text.strip()[:24]}” is no side of this box: A to {names[-1]}.")
    return names.index(text.strip().upper())


def _sides(job: Job) -> Iterator[Address]:
    info = _of_design()
    for name, plural, words in (
        ("thickness_mm", "thicknesses_mm", "thickness"),
        ("slope_deg", "slopes_deg", "lean from upright"),
    ):
        kind = info[plural].type
        assert isinstance(kind, kinds.VarTupleType)
        yield _plain(
            f"sides.{name}",
            f"sides: {words}, one for all or one for each",
            kind,
            plural,
            info[plural].default,
        )
        for side in range(job.design.side_count):
            letter = side_name(side)
            own = f"side {letter}: {words}"
            yield _of_side(f"sides.{letter}.{name}", own, kind.item_type, plural, side)
    if isinstance(job.design.form.shape, Outline):
        for side in range(job.design.side_count):
            for name, plural, words in (
                ("length_mm", "lengths_mm", "length"),
                ("interior_deg", "interiors_deg", "corner at its end"),
            ):
                yield _of_ring(
                    f"sides.{side_name(side)}.{name}", f"side {side_name(side)}: {words}", plural, side
                )


def _of_side(place: str, words: str, kind: kinds.Type, plural: str, side: int) -> Address:
    """One side's own value, where the design keeps one for all until they differ."""

    def get(job: Job) -> float:
        values: tuple[float, ...] = decided(job, plural)
        return values[side if len(values) > 1 else 0]

    def put(job: Job, value: float) -> Job:
        values: tuple[float, ...] = decided(job, plural)
        full = list(values) if len(values) > 1 else [values[0]] * job.design.side_count
        full[side] = value
        return decide(job, plural, (full[0],) if len(set(full)) == 1 else tuple(full))

    return Address(place, words, kind, get, put)


def _of_ring(place: str, words: str, plural: str, side: int) -> Address:
    """One value of a free ring as it is given; “?” lets it be worked out."""
    many = next(field.type for field in struct_of(Outline).fields if field.name == plural)
    assert isinstance(many, kinds.VarTupleType)

    def put(job: Job, value: float | None) -> Job:
        values = getattr(job.design.form.shape, plural)
        changed = (*values[:side], value, *values[side + 1 :])
        return revised(job, shape=replace(job.design.form.shape, **{plural: changed}))

    return Address(place, words, many.item_type, lambda d: getattr(d.design.form.shape, plural)[side], put)


def _inner(job: Job) -> Iterator[Address]:
    for head, part, kind, words in _PARTS:
        yield _part(head, words, part, kind)
        if decided(job, part) is not None:
            yield from _fields(head, words, part, kind)
            if part in HARDWARE:
                yield taken_from(head, part, words)
            if kind is Panel:
                yield from _segments(job, head, words, part)
    for leaf in cover_addresses(job, WORDS):
        yield _as_letter(leaf) if leaf.id == "section.cover.side" else leaf
    info = _of_design()
    yield _plain(
        "inside.lining_mm", "foam or cloth on each inner face", info["lining_mm"].type, "lining_mm", 0.0
    )
    yield _plain("inside.cloth_mm", "cloth over the lining's leaves", info["cloth_mm"].type, "cloth_mm", 0.5)
    for many in _MANY:
        yield _count_of(many)
        for number in range(len(decided(job, many.name))):
            for field in struct_of(many.kind).fields:
                if field.name in ("marks", "cut_from"):
                    continue  # those of a board on the rack are painted when it is the board
                leaf = _of_many(many, number, field)
                yield (
                    _as_letter(leaf)
                    if field.name == "side"
                    else _as_letters(leaf)
                    if field.name == "sides"
                    else leaf
                )


def _part(head: str, words: str, part: str, kind: type) -> Address:
    """Whether there is such a part at all; a new one begins with its defaults."""

    def put(job: Job, on: bool) -> Job:
        if on == (decided(job, part) is not None):
            return job
        return decide(job, part, begun(kind, job.design.units) if on else None)

    return Address(head, words, _BOOL, lambda d: decided(d, part) is not None, put, False)


def _fields(head: str, words: str, part: str, kind: type) -> Iterator[Address]:
    for field in struct_of(kind).fields:
        if field.name not in ("segments", "marks", "cut_from"):
            leaf = _leaf(head, words, part, field)
            if field.name == "side":
                yield _as_letter_or_none(leaf)
            else:
                yield _as_corners(leaf) if field.name == "corners" else leaf


def _as_corners(address: Address) -> Address:
    """Corners' numbers read and written by their names: AB, CD; or all."""

    def told(job: Job) -> str:
        count = job.design.side_count
        return ", ".join(corner_name(i, count) for i in address.get(job) if i < count) or _ALL

    def put(job: Job, text: str) -> Job:
        words = text.replace(";", ",").split(",") if text.strip().lower() not in ("", _ALL) else []
        return address.put(job, tuple(sorted({_corner(job, word) for word in words})))

    return Address(address.id, address.words, kinds.StrType(), told, put, _ALL)


def _segments(job: Job, head: str, words: str, part: str) -> Iterator[Address]:
    """What a panel is glued up of."""

    def on(job: Job, wanted: bool) -> Job:
        panel = decided(job, part)
        segments = (panel.segments or Segments()) if wanted else None
        return decide(job, part, replace(panel, segments=segments))

    yield Address(f"{head}.segments", f"{words} glued up of segments", _BOOL,
                  lambda d: decided(d, part).segments is not None, on, False)  # fmt: skip
    if decided(job, part).segments is None:
        return
    for field in struct_of(Segments).fields:
        yield _of_segments(head, words, part, field)


def _of_segments(head: str, words: str, part: str, field: kinds.Field) -> Address:
    name = field.name

    def put(job: Job, value: Any) -> Job:
        panel = decided(job, part)
        changed: Any = replace(panel.segments, **{name: value})
        return decide(job, part, replace(panel, segments=changed))

    return Address(
        f"{head}.segments.{name}", f"{words}, segments: {WORDS[name]}", field.type,
        lambda d: getattr(decided(d, part).segments, name), put, field.default,
    )  # fmt: skip


class _Many(NamedTuple):
    """A list of like things in the job."""

    place: str
    name: str
    kind: type
    most: int
    words: str
    each: str


_MANY: Final = (
    _Many("inside.contents", "contents", Thing, 60, "how many kinds of things it holds", "things of kind"),
    _Many(
        "section.openings", "openings", Opening, MAX_OPENINGS, "how many openings its sides have", "opening"
    ),
    _Many("stock.board.marks", "marks", Mark, MOST_MARKS, "how many places are marked on the board", "mark"),
    _Many("shop.species", "species", OwnSpecies, MOST_WOODS, "how many woods of the maker's own", "own wood"),
    _Many("stock.rack", "rack", Board, MOST_BOARDS, "how many other boards are on the rack", "rack board"),
)


def _count_of(many: _Many) -> Address:
    """How many there are: the last ones go, or new ones come."""

    def put(job: Job, number: int) -> Job:
        now = decided(job, many.name)
        more = [begun(many.kind, job.design.units) for _ in range(number - len(now))]
        if many.kind is Board:  # each with a name and a figure of its own
            taken = {job.stock.board.name, *(board.name for board in now)}
            names = [name for n in range(2, MOST_BOARDS + 3) if (name := f"Board {n}") not in taken]
            more = [replace(board, name=names[n], seed=len(now) + n + 8) for n, board in enumerate(more)]
        return decide(job, many.name, (*now, *more)[:number])

    limits = kinds.IntType(ge=0, le=many.most)
    return Address(many.place, many.words, limits, lambda d: len(decided(d, many.name)), put, 0)


def _of_many(many: _Many, number: int, field: kinds.Field) -> Address:
    """A value of one of them."""
    name = field.name

    def put(job: Job, value: Any) -> Job:
        things = list(decided(job, many.name))
        changed: Any = replace(things[number], **{name: value})
        things[number] = changed
        return decide(job, many.name, tuple(things))

    return Address(
        f"{many.place}.{number + 1}.{name}", f"{many.each} {number + 1}: {WORDS[name]}", field.type,
        lambda d: getattr(decided(d, many.name)[number], name), put, field.default,
    )  # fmt: skip


def _as_letter(address: Address) -> Address:
    """A side's number read and written as its letter."""
    return Address(
        address.id, address.words, kinds.StrType(), lambda d: side_name(address.get(d)),
        lambda d, text: address.put(d, _side(d, text)),
    )  # fmt: skip


def _as_letter_or_none(address: Address) -> Address:
    """A side's number read and written as its letter; none where it is left to the box."""

    def put(job: Job, text: str) -> Job:
        return address.put(job, None if text.strip().lower() in ("", "none") else _side(job, text))

    def told(job: Job) -> str:
        side = address.get(job)
        return "none" if side is None else side_name(side)

    return address._replace(kind=kinds.StrType(), get=told, put=put, default="none")


def _as_letters(address: Address) -> Address:
    """Sides' numbers read and written as letters: A, C."""

    def put(job: Job, text: str) -> Job:
        named = [] if text.strip().lower() in ("", "none") else text.replace(";", ",").split(",")
        return address.put(job, tuple(_side(job, name) for name in named))

    return Address(
        address.id, address.words, kinds.StrType(),
        lambda d: ", ".join(side_name(side) for side in address.get(d)) or "none", put,
    )  # fmt: skip


def _stock(job: Job) -> Iterator[Address]:
    for head, part, kind, words in _ALWAYS:
        for leaf in _fields(head, words, part, kind):
            yield _or_none(leaf) if kind in (Uses, From) else leaf
    for field in struct_of(Work).fields:
        if field.name in ("finish", "keys", "promised", "sled"):
            yield _leaf("work", "work", "work", field)
    yield from working(job, WORDS)
    yield from tools(job, WORDS)
    yield from kept(job, _word)
    text = kinds.StrType()
    yield Address(
        "stock.closing_corner", "corner where the wrap closes, or last", text, _closing, _put_closing
    )
    yield Address(
        "stock.breaks", "corners where the wrap is broken, what is cut away there, and the board it goes on from",
        text, breaks_told, put_breaks, "none",
    )  # fmt: skip
    yield Address(
        "stock.as_needed", "whether the board is as large as the box needs, until its size is set",
        _kind(Stock, "as_needed"),
        lambda d: d.stock.as_needed, lambda d, value: revised(d, as_needed=value), False,
    )  # fmt: skip
    yield Address(
        "stock.banding_mm", "thickness of the banding on sheet stock's edges, 0 for none", _kind(Stock, "banding_mm"),
        lambda d: d.stock.banding_mm, lambda d, value: revised(d, banding_mm=value), 0.5,
    )  # fmt: skip


def _or_none(address: Address) -> Address:
    """A tool's name, or none: the saw, a plane, tape."""

    def put(job: Job, text: str) -> Job:
        return address.put(job, "" if text.strip().lower() in ("none", "the saw", "") else text.strip())

    return address._replace(get=lambda job: address.get(job) or "none", put=put, default="none")


def _corner(job: Job, text: str) -> int:
    """A corner's number by its name. Raises PeristyleError with those there are."""
    names = [corner_name(i, job.design.side_count) for i in range(job.design.side_count)]
    if text.strip().upper() not in names:
        shown = ", ".join(names[:8]) + (" …" if len(names) > 8 else "")
        raise PeristyleError(f"“{text.strip()[:24]}” is no corner of this box: {shown}.")
    return names.index(text.strip().upper())


def _closing(job: Job) -> str:
    return _LAST if job.stock.closing_corner is None else corner_name(job.closing, job.design.side_count)


def _put_closing(job: Job, text: str) -> Job:
    if text.strip().lower() == _LAST:
        return revised(job, closing_corner=None)
    return revised(job, closing_corner=_corner(job, text))


def every() -> list[Address]:
    """All addresses that any design can have, each once: those of side A and of the first kind of things."""
    seen: dict[str, Address] = {}
    thing = (begun(Thing, "mm"),)
    parts: dict[str, Any] = {name: kind() for _head, name, kind, _words in _PARTS}
    parts |= {"bottom": Panel(segments=Segments()), "top": Panel(segments=Segments())}
    shapes: Sequence[Shape] = (
        Regular(3, 100.0), Rectangle(200.0, 120.0), Alternating(4, 100.0, 60.0), House(200.0, 120.0, 40.0),
        Outline((100.0,) * 3, (60.0,) * 3),
    )  # fmt: skip
    for shape in shapes:
        full = job_of(
            shape=shape, contents=thing, openings=(Opening(),), marks=(Mark(),), rack=(Board(name="Board 2"),),
            species=(OwnSpecies(),), **parts,
        )  # fmt: skip
        covered = [
            address for cover in COVERS.values() for address in addresses(revised(full, cover=cover()))
        ]
        hung = [address for what in HARDWARE for address in kept(_keeping(full, what), _word)]
        for address in (*addresses(full), *covered, *hung):
            place = address.id.split(".")
            if place[0] != "sides" or len(place) < 3 or place[1] == "A":
                seen.setdefault(address.id, address)
    return list(seen.values())


def _keeping(job: Job, what: HardwareName) -> Job:
    return with_kept(job, (kept_as("Hardware", what, HARDWARE[what]()),))


def described(address: Address) -> dict[str, Any]:
    """An address as data: its name, words, unit, limits and default (None where there is none)."""
    low, high = address.limits
    default = None if address.default in (NODEFAULT, None) else write(address.default, address, "mm")
    return {
        "address": address.id, "words": address.words, "unit": address.unit, "least": low, "most": high,
        "default": default,
    }  # fmt: skip


def find(job: Job, place: str) -> Address:
    """The address of that name. Raises PeristyleError with those that are nearest to it."""
    known = {address.id: address for address in addresses(job)}
    wanted = place.strip()
    if wanted in known:
        return known[wanted]
    for head, part, _kind, words in _PARTS:
        if wanted.startswith(head + ".") and decided(job, part) is None:
            raise PeristyleError(f"{wanted[:60]}: this box has none ({words}). First {head}=yes.")
    near = difflib.get_close_matches(wanted, known, 3, 0.5)
    hint = f" Perhaps {' or '.join(near)}?" if near else " “peristyle addresses” lists all."
    raise PeristyleError(f"“{wanted[:60]}” is no address of this box.{hint}")


def put(job: Job, place: str, text: str) -> Job:
    """The design with one value set from text. Raises PeristyleError that begins with the address."""
    address = find(job, place)
    try:
        value = read(text, address.kind, address, job.design.units)
        found = faults_of_type(value, address.kind, address.id)
        if found:
            raise PeristyleError(f"{listed(found)}.")
        changed = address.put(job, value)
    except LengthError as error:
        raise PeristyleError(f"{address.id}: {error}") from error
    return changed


def applied(job: Job, changes: Sequence[tuple[str, Any]]) -> Job:
    """The job with values set at addresses, one after the other. Raises PeristyleError where there is none."""
    for place, value in changes:
        job = find(job, place).put(job, value)
    return job


def sound(job: Job) -> Job:
    """The design, if it can be kept. Raises PeristyleError that says what keeps it from it."""
    wrong = breaches(job)
    if wrong:
        raise PeristyleError(f"This box cannot be: {listed(wrong)}.")
    return job
