"""The job: a design, the board and the tools it is made with, and how far the work has come."""

from typing import Annotated, Any, Final, Literal, TypedDict, Unpack

from msgspec import Meta, Struct

from peristyle.core.lengths import Units
from peristyle.model.design import (
    MAX_THINGS,
    Brackets,
    CornerBlocks,
    Cover,
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
    Inlay,
    Inside,
    Joints,
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
    Seasons,
    Section,
    Shape,
    Splines,
    Strip,
    Thing,
    Together,
    Tray,
    replace,
)
from peristyle.model.kept import MOST_KEPT, Kept
from peristyle.model.limits import LEAST_KERF_MM, MAX_MM, Length, Name
from peristyle.model.stock import Board, Break, Digest, From, Mark, Stock, entered
from peristyle.model.tools import CAN, MOST_TOOLS, STARTING, DadoSet, MiterSaw, Tool, Use, Uses, can, named

MAX_STOPS: Final = 24

Minutes = Annotated[float, Meta(ge=0, le=6000)]
Kerf = Annotated[float, Meta(ge=LEAST_KERF_MM, le=50)]
MachineKind = Literal["table_saw", "miter_saw", "chamfer_bit", "shooting_board"]
Id = Annotated[str, Meta(min_length=1, max_length=200)]


class Saw(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """What the bevels are cut with: how far it tilts, how finely it can be set, what one cut takes.

    `stops_deg` are the angles a chamfer bit or a shooting-board block gives; empty for a blade that
    tilts freely. Pieces shorter than `least_mm` ride on a sled or a carrier; the sled
    is `sled_mm` long where that is said (0 is not). A miter saw swings `swing_deg` and cuts `high_mm` high. In a shop
    without a `table_saw` boards are ripped, crosscut and grooved with what else there is, or by hand.
    """

    kind: MachineKind = "table_saw"
    table_saw: bool = True
    tilts: Literal["left", "right"] = "left"
    stop_deg: Annotated[float, Meta(gt=0, le=89)] = 45.0
    step_deg: Annotated[float, Meta(gt=0, le=5)] = 0.1
    stops_deg: Annotated[tuple[Annotated[float, Meta(gt=0, lt=90)], ...], Meta(max_length=MAX_STOPS)] = ()
    kerf_mm: Kerf = 3.0
    least_mm: Annotated[float, Meta(ge=0, le=MAX_MM)] = 300.0
    sled_mm: Annotated[float, Meta(ge=0, le=MAX_MM)] = 0.0
    swing_deg: Annotated[float, Meta(gt=0, le=89)] = 50.0
    high_mm: Length = 90.0


class SledTable(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """The table saw's table, for a sled: from where the upright blade meets it to the middle of the slot the runner
    goes in, on the side the blade leans away from or over; the slot; how high the upright blade rises; the plywood for
    base and fence. To begin with from memory of common practice: measure your own.
    """

    slot_mm: Length = 125.0
    slot_side: Literal["away", "under"] = "away"
    slot_wide_mm: Length = 19.0
    slot_deep_mm: Annotated[float, Meta(ge=3, le=50)] = 9.5
    blade_high_mm: Length = 75.0
    base_mm: Annotated[float, Meta(ge=6, le=50)] = 12.0
    layer_mm: Annotated[float, Meta(ge=6, le=50)] = 18.0


Off = Annotated[float, Meta(ge=0, le=5)]


class KeyTimes(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """The maker's own minutes for slots: making and setting up the cradle, one setting of the fence, a slot in it, and
    a slot sawn and pared by hand. To begin with as is usual (common practice).
    """

    cradle_min: Minutes = 30.0
    setting_min: Minutes = 5.0
    slot_min: Minutes = 0.5
    hand_slot_min: Minutes = 6.0


class Spread(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """How far settings and cuts are off, one standard deviation: `_set` of a setting, the same for all that is cut at
    it, `_cut` of every cut by itself. A setting of an angle that is not given is read to the saw's finest step.

    `shot_deg` is what a shooting board or a flat sheet leaves, `seen_mm` the smallest gap that is seen in a test. To
    begin with from memory of common practice; the maker's own, once measured, are better.
    """

    tilt_set_deg: Off | None = None
    tilt_cut_deg: Off = 0.02
    swing_set_deg: Off | None = None
    swing_cut_deg: Off = 0.02
    stop_set_mm: Off = 0.1
    stop_cut_mm: Off = 0.05
    shot_deg: Off = 0.02
    seen_mm: Off = 0.05


MOST_WOODS: Final = 100


class OwnSpecies(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """A wood of the maker's own: its change for 1 % of moisture content as a share of its width, and the source."""

    name: Name = "my wood"
    radial: Annotated[float, Meta(gt=0, lt=0.02)] = 0.0016
    tangential: Annotated[float, Meta(gt=0, lt=0.02)] = 0.0030
    source: Annotated[str, Meta(max_length=200)] = ""


SetUpKind = Literal[
    "tilt_pair", "tilt_ring", "five_cut", "stop", "scale", "kerf", "gauge", "width", "runner",
]  # fmt: skip
ClockHour = Annotated[float, Meta(ge=0, le=24)]
CoatKind = Literal["oil", "lacquer", "thin_coats", "shellac", "wax"]


class Coating(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """What the box is finished with: how many coats, and how long each waits (hours); None is as is usual."""

    kind: CoatKind = "oil"
    coats: Annotated[int, Meta(ge=1, le=40)] | None = None
    wait_h: Annotated[float, Meta(ge=0, le=1000)] | None = None


class Timed(Struct, frozen=True, forbid_unknown_fields=True):
    """Minutes an operation took in boxes made before."""

    operation: Annotated[str, Meta(min_length=1, max_length=40)]
    minutes: Annotated[tuple[Minutes, ...], Meta(max_length=60)] = ()


class SetUp(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """A check of a tool with test pieces: which tool by name (empty is the saw), what was checked, when, what was read,
    and how much more the scale says than is true (degrees or mm); of a kerf or a width what is true.
    """

    tool: Annotated[str, Meta(max_length=120)] = ""
    kind: SetUpKind = "tilt_pair"
    when: Annotated[str, Meta(max_length=40)] = ""
    readings: Annotated[tuple[float, ...], Meta(max_length=100)] = ()
    off: Annotated[float, Meta(ge=-1000, le=1000)] = 0.0
    spread: Annotated[float, Meta(ge=0, le=1000)] | None = None


class Hours(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """When the maker is in the workshop: for every day of the week, from Monday on, from when to when (hours of the
    day; 0 to 0 is none), by the clock of a time zone (empty is this computer's).
    """

    days: Annotated[tuple[tuple[ClockHour, ClockHour], ...], Meta(min_length=7, max_length=7)] = (
        *(((18.0, 21.0),) * 5), (9.0, 17.0), (0.0, 0.0),
    )  # fmt: skip
    zone: Annotated[str, Meta(max_length=60)] = ""


class Shop(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """A copy of the maker's tools, so that another reader sees the same numbers; and which is used for what."""

    saw: Saw = Saw()
    tools: Annotated[tuple[Tool, ...], Meta(max_length=MOST_TOOLS)] = STARTING
    uses: Uses = Uses()
    times: KeyTimes = KeyTimes()
    spread: Spread = Spread()
    species: Annotated[tuple[OwnSpecies, ...], Meta(max_length=MOST_WOODS)] = ()
    setups: Annotated[tuple[SetUp, ...], Meta(max_length=1_000)] = ()
    hours: Hours = Hours()
    table: SledTable = SledTable()
    timed: Annotated[tuple[Timed, ...], Meta(max_length=200)] = ()
    hardware: Annotated[tuple[Kept, ...], Meta(max_length=MOST_KEPT)] = ()


class Moved(Struct, frozen=True, forbid_unknown_fields=True):
    """A step the maker does at another time: right before another, or last of all where that is empty."""

    step: Id
    before: Annotated[str, Meta(max_length=200)] = ""


class OwnStep(Struct, frozen=True, forbid_unknown_fields=True):
    """A step of the maker's own, right before another, or last of all."""

    id: Id
    title: Name
    text: Annotated[str, Meta(max_length=2_000)] = ""
    before: Annotated[str, Meta(max_length=200)] = ""


class Planned(Struct, frozen=True, forbid_unknown_fields=True):
    """A step, or a coat of it as `step/2`, that is not begun before a moment (ISO 8601, with its offset from UTC)."""

    task: Annotated[str, Meta(min_length=1, max_length=400)]
    not_before: Annotated[str, Meta(max_length=40)]


class Work(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """In which order the maker works: the inside finished first or all at the end, keys before the lid is freed or
    after; steps moved, left out and added; what is planned for later. What it is finished with, the day it is promised
    for (ISO 8601), and how many are made alike: one number, or the parts of a batch that go out one after the other;
    whether the sled that its bevels are cut on is made first.
    """

    finish: Literal["first", "after"] = "first"
    coating: Coating = Coating()
    promised: Annotated[str, Meta(max_length=10)] = ""
    keys: Literal["before_lid", "after_lid"] = "before_lid"
    moved: Annotated[tuple[Moved, ...], Meta(max_length=500)] = ()
    left_out: Annotated[tuple[Id, ...], Meta(max_length=500)] = ()
    own: Annotated[tuple[OwnStep, ...], Meta(max_length=200)] = ()
    planned: Annotated[tuple[Planned, ...], Meta(max_length=500)] = ()
    boxes: Annotated[tuple[Annotated[int, Meta(ge=1, le=1000)], ...], Meta(min_length=1, max_length=20)] = (
        1,
    )
    sled: bool = False


class Measured(Struct, frozen=True, forbid_unknown_fields=True):
    """A size as it was made (mm or degrees): `side.C.length_mm`; with which gauge, how well it is known (one standard
    deviation) and when, where that is said.
    """

    name: Id
    value: float
    gauge: Annotated[str, Meta(max_length=40)] = ""
    uncertainty: Annotated[float, Meta(ge=0, le=100)] | None = None
    when: Annotated[str, Meta(max_length=40)] = ""


class Done(Struct, frozen=True, forbid_unknown_fields=True):
    """How far a step has come: how many of its pieces are done, and at which settings (mm, degrees); `design` is the
    number of the design it was done by, among those the job keeps.
    """

    step: Id
    count: Annotated[int, Meta(ge=0, le=10_000)] = 1
    values: Annotated[tuple[float, ...], Meta(max_length=1_000)] = ()
    design: Annotated[int, Meta(ge=0, le=10_000)] | None = None


EntryKind = Literal["note", "done", "measured", "setup", "correction"]


class Entry(Struct, frozen=True, forbid_unknown_fields=True):
    """One line of the log: when (as ISO 8601 has it), about which step or piece, and what. It is never changed: a
    `correction` answers the entry of that number, counted from 0.

    `minutes` of work it took; `values` of the settings it was done at (mm, degrees); `picture` of it, by its digest.
    """

    when: Annotated[str, Meta(max_length=40)]
    about: Annotated[str, Meta(max_length=200)] = ""
    text: Annotated[str, Meta(max_length=2_000)] = ""
    kind: EntryKind = "note"
    minutes: Annotated[float, Meta(ge=0, le=100_000)] | None = None
    values: Annotated[tuple[float, ...], Meta(max_length=1_000)] = ()
    picture: Digest = ""
    corrects: Annotated[int, Meta(ge=0, le=100_000)] | None = None


class Job(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """One box from the first decision to the last stroke. The log is only ever added to. `cut_by` are the designs that
    steps were done by: what is cut stays as it was planned then.
    """

    design: Design
    stock: Stock = Stock()
    shop: Shop = Shop()
    work: Work = Work()
    measured: Annotated[tuple[Measured, ...], Meta(max_length=10_000)] = ()
    progress: Annotated[tuple[Done, ...], Meta(max_length=10_000)] = ()
    log: Annotated[tuple[Entry, ...], Meta(max_length=10_000)] = ()
    cut_by: Annotated[tuple[Design, ...], Meta(max_length=500)] = ()

    @property
    def closing(self) -> int:
        """The closing corner's number: the side at whose end it lies."""
        last, corner = self.design.side_count - 1, self.stock.closing_corner
        return last if corner is None else min(corner, last)

    @property
    def breaks(self) -> dict[int, Break]:
        """Where the wrap is broken besides, by the number of the side at whose end; only corners this ring has."""
        count, closing = self.design.side_count, self.closing
        return {one.after: one for one in self.stock.breaks if one.after < count and one.after != closing}


class Decisions(TypedDict, total=False):
    """What the maker decides, by the name it has wherever in the job it lives."""

    name: str
    units: Units
    notes: str
    shape: Shape
    height_mm: float
    height_of: HeightOf
    thicknesses_mm: tuple[float, ...]
    slopes_deg: tuple[float, ...]
    front: int
    bottom: Panel | None
    top: Panel | None
    lid: Lid | None
    cover: Cover | None
    false_floor: FalseFloor | None
    strip: Strip | None
    hinges: Hinges | None
    magnets: Magnets | None
    bottom_edge: OuterEdge | None
    top_edge: OuterEdge | None
    lid_edges: EdgeProfile | None
    rim_edge: EdgeProfile | None
    base_edge: EdgeProfile | None
    under_edge: EdgeProfile | None
    moulding: Moulding | None
    inlay: Inlay | None
    handle: Handle | None
    latch: Latch | None
    brackets: Brackets | None
    seasons: Seasons | None
    openings: tuple[Opening, ...]
    feet: Feet | None
    keys: Keys | None
    other_keys: Keys | None
    splines: Splines | None
    corner_blocks: CornerBlocks | None
    contents: tuple[Thing, ...]
    lining_mm: float
    cloth_mm: float
    together: Together | None
    dividers: Dividers | None
    liner: Liner | None
    fillets: Fillets | None
    tray: Tray | None
    board: Board
    marks: tuple[Mark, ...]
    rack: tuple[Board, ...]
    parts: From
    closing_corner: int | None
    breaks: tuple[Break, ...]
    banding_mm: float
    as_needed: bool
    saw: Saw
    tools: tuple[Tool, ...]
    uses: Uses
    times: KeyTimes
    spread: Spread
    table: SledTable
    species: tuple[OwnSpecies, ...]
    work: Work


_IN_DESIGN: Final[dict[str, type[Struct]]] = {
    "form": Form, "section": Section, "joints": Joints, "inside": Inside,
}  # fmt: skip
_HOMES: Final = {
    **{name: ("design", part) for part, kind in _IN_DESIGN.items() for name in kind.__struct_fields__},
    **dict.fromkeys(("name", "units", "notes"), ("design",)),
    "marks": ("stock", "board"),
    **dict.fromkeys(("board", "rack", "parts", "closing_corner", "breaks", "banding_mm", "as_needed"), ("stock",)),
    **dict.fromkeys(("saw", "tools", "uses", "times", "spread", "table", "species"), ("shop",)),
    "work": (),
}  # fmt: skip


def unworked(job: Job) -> Job:
    """The job without what was measured, done and logged, and in which order: what a cache of its geometry goes by."""
    if not (job.measured or job.progress or job.log or job.work != Work()):
        return job
    return replace(job, measured=(), progress=(), log=(), work=Work(), cut_by=())


def decided(job: Job, name: str) -> Any:
    """One decision by its name, wherever in the job it lives."""
    at: Any = job
    for part in _HOMES[name]:
        at = getattr(at, part)
    return getattr(at, name)


def place_of(name: str) -> str:
    """The address of a decision that is a part, or of a part's values: `section.lid`, `stock.board`."""
    return ".".join((*(part for part in _HOMES[name] if part != "design"), name))


def decide(job: Job, name: str, value: Any) -> Job:
    """The job with one decision made otherwise."""
    parts = _HOMES[name]
    owners: list[Any] = [job]
    for part in parts:
        owners.append(getattr(owners[-1], part))
    changed = replace(owners.pop(), **{name: value})
    for part in reversed(parts):
        changed = replace(owners.pop(), **{part: changed})
    made: Job = changed
    if name == "board":
        made = replace(made, stock=entered(job.stock, made.stock))
    if name == "saw":
        made = replace(made, shop=replace(made.shop, saw=_at_hand(job.shop, made.shop.saw)))
    if name == "tools":
        made = _idle_let_go(made)
    return _lid_kerf_kept(job, made) if name in ("lid", "tools", "uses") else made


def _at_hand(before: Shop, saw: Saw) -> Saw:
    """A saw that agrees with itself: without a table saw bevels go to a miter saw or a block."""
    if saw.kind != "table_saw" or saw.table_saw:
        return saw
    if before.saw.table_saw:  # it is this that was changed
        miter = any(isinstance(tool, MiterSaw) for tool in before.tools)
        without: Saw = replace(saw, kind="miter_saw" if miter else "shooting_board")
        return without
    made: Saw = replace(saw, table_saw=True)
    return made


def _idle_let_go(job: Job) -> Job:
    """Work of tools that are no longer there goes back to the saw."""
    uses = job.shop.uses
    gone = {use: "" for use in CAN if (name := getattr(uses, use)) and not _able(job.shop, name, use)}
    return replace(job, shop=replace(job.shop, uses=replace(uses, **gone))) if gone else job


def _able(shop: Shop, name: str, use: Use) -> bool:
    tool = named(shop.tools, name)
    return tool is not None and can(tool, use)


def _lid_kerf_kept(before: Job, after: Job) -> Job:
    """What freeing the lid takes is the kerf of the tool that frees it; set by hand it is that of no tool there is."""
    lid, tool = after.design.section.lid, named(after.shop.tools, after.shop.uses.lid)
    if lid is None or tool is None or not can(tool, "lid"):
        return after
    kerf: float = tool.kerf_mm  # type: ignore[union-attr]
    was = before.design.section.lid
    if kerf == lid.kerf_mm:
        return after
    if was is not None and was.kerf_mm != lid.kerf_mm:
        return replace(after, shop=replace(after.shop, uses=replace(after.shop.uses, lid="")))
    section = replace(after.design.section, lid=replace(lid, kerf_mm=kerf))
    return replace(after, design=replace(after.design, section=section))


def revised(job: Job, **decisions: Unpack[Decisions]) -> Job:
    """The job with these decisions in place of its own."""
    for name, value in decisions.items():
        job = decide(job, name, value)
    return job


def job_of(**decisions: Unpack[Decisions]) -> Job:
    """A new job with these decisions; `shape` must be among them."""
    return revised(Job(design=Design(form=Form(shape=decisions["shape"]))), **decisions)


def openings_within(job: Job, count: int) -> tuple[Opening, ...]:
    """The job's openings, those of sides past the last put into the last of `count`."""
    return tuple(replace(one, side=min(one.side, count - 1)) for one in job.design.section.openings)


def problems(job: Job) -> list[tuple[str, str]]:
    """What no single limit can say: (path, what is wrong and what to do) for each contradiction."""
    found = []
    design, form = job.design, job.design.form
    count = design.side_count
    things = sum(thing.count for thing in design.inside.contents)
    if things > MAX_THINGS:
        found.append(("design.inside.contents", f"{things} things in all: at most {MAX_THINGS}"))
    if isinstance(form.shape, Outline) and len(form.shape.interiors_deg) != count:
        found.append((
            "design.form.shape.interiors_deg",
            f"there are {count} sides but {len(form.shape.interiors_deg)} corners: "
            "give one corner angle for each side",
        ))  # fmt: skip
    for path, values in (("thicknesses_mm", form.thicknesses_mm), ("slopes_deg", form.slopes_deg)):
        if len(values) not in (1, count):
            found.append((
                f"design.form.{path}",
                f"{len(values)} values for {count} sides: give one for all, or one for each side",
            ))  # fmt: skip
    found += _tool_problems(job.shop)
    found += _board_problems(job.stock, count)
    sides = [
        (f"design.section.openings.{n}.side", opening.side)
        for n, opening in enumerate(design.section.openings)
    ]
    for path, index in (
        ("design.form.front", form.front), ("stock.closing_corner", job.stock.closing_corner), *sides
    ):  # fmt: skip
        if index is not None and index >= count:
            found.append((path, f"{index} names no side of {count}: count from 0 for A to {count - 1}"))
    return found


def _board_problems(stock: Stock, count: int) -> list[tuple[str, str]]:
    """Two boards of one name, a part of a board that is not there, a mark for a side that is not."""
    boards = {"stock.board": stock.board} | {f"stock.rack.{n}": board for n, board in enumerate(stock.rack)}
    names = [board.name for board in boards.values()]
    found = [
        ("stock.rack", f"two boards are called “{name[:40]}”: give each a name of its own")
        for name in dict.fromkeys(names)
        if names.count(name) > 1
    ]
    for part in From.__struct_fields__:
        name = getattr(stock.parts, part)
        if name and name not in names:
            found.append((f"stock.parts.{part}", f"“{name[:40]}” is none of the boards: {', '.join(names)}"))
    for path, board in boards.items():
        for n, mark in enumerate(board.marks):
            if path == "stock.board" and any(side >= count for side in mark.sides):
                found.append(
                    (f"{path}.marks.{n}.sides", f"names a side past the last of {count}: count from 0 for A")
                )
    return found


def _tool_problems(shop: Shop) -> list[tuple[str, str]]:
    """Two tools of one name, and work given to a tool that is not there or cannot do it."""
    names = [tool.name for tool in shop.tools]
    found = [
        ("shop.tools", f"two tools are called “{name[:40]}”: give each a name of its own")
        for name in dict.fromkeys(names)
        if names.count(name) > 1
    ]
    found += [("shop.tools", "a tool has no name: give it one")] if "" in names else []
    if shop.saw.kind == "table_saw" and not shop.saw.table_saw:
        told = "bevels are cut on a table saw, and the shop has none: choose miter_saw, chamfer_bit or shooting_board"
        found.append(("shop.saw.kind", told))
    found += [
        ("shop.tools", f"{tool.name}: its widest cut is narrower than its least")
        for tool in shop.tools
        if isinstance(tool, DadoSet) and tool.most_mm < tool.least_mm
    ]
    for use in CAN:
        name = getattr(shop.uses, use)
        tool = named(shop.tools, name)
        if name and tool is None:
            found.append(
                (f"shop.uses.{use}", f"“{name[:40]}” is none of the tools: {', '.join(names) or 'none'}")
            )
        elif tool is not None and not can(tool, use):
            good = ", ".join(one.name for one in shop.tools if can(one, use))
            found.append(
                (f"shop.uses.{use}", f"{tool.name} cannot do that; what can: {good or 'none there is'}")
            )
    return found
