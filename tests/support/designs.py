"""Boxes of every kind, sensible and absurd, from a seeded chance."""

import random
from typing import get_args

from msgspec.structs import replace

from peristyle.model import corner_edits, hardware_edits, section_edits
from peristyle.model.design import (
    Alternating,
    CornerBlocks,
    Dividers,
    EdgeName,
    FalseFloor,
    Feet,
    House,
    Keys,
    Lid,
    Liner,
    Opening,
    Outline,
    Panel,
    Rectangle,
    Regular,
    Seasons,
    Segments,
    Shape,
    Thing,
)
from peristyle.model.edges import ProfileKind
from peristyle.model.job import Job, OwnStep, Saw, Work, decide, decided, job_of, revised
from peristyle.model.stock import WISHES, Board, Break, Mark, MarkKind, Shows
from peristyle.model.tools import CAN, Tool, Uses, can
from peristyle.planning.stock.wrap import suiting_board
from peristyle.reference.woods import WOODS, Look, Sawn


def maybe(chance: random.Random, part: object, often: float = 0.5) -> object | None:
    return part if chance.random() < often else None


def random_shape(chance: random.Random, most_sides: int = 12) -> Shape:
    size = chance.uniform(60, 400)
    line = chance.choice(("inside", "outside"))
    match chance.randrange(6):
        case 0:
            tops = (size * chance.uniform(0.7, 1.4), size * chance.uniform(0.5, 1.2))
            if chance.random() < 0.7:
                return Rectangle(size, size * chance.uniform(0.3, 1.2), line)
            return Rectangle(size, size * 0.7, line, *tops)
        case 1:
            measure = chance.choice(("inside", "outside", "across_flats", "across_corners"))
            top = size * chance.uniform(0.7, 1.4) if chance.random() < 0.3 else None
            return Regular(chance.randint(3, most_sides), size, measure, top)
        case 2:
            return Alternating(
                2 * chance.randint(2, most_sides // 2), size, size * chance.uniform(0.2, 1), line
            )
        case 3:
            return House(
                size, size * chance.uniform(0.2, 1), chance.uniform(10, 60),
                chance.choice((0.0, chance.uniform(1, 40))), line, chance.choice(("square", "plumb")),
            )  # fmt: skip
        case _:
            count = chance.randint(3, 9)
            lengths = [size * chance.uniform(0.4, 1.2) for _ in range(count)]
            angles = [(count - 2) * 180 / count + chance.uniform(-12, 12) for _ in range(count)]
            open_lengths = [*lengths[:-2], None, None]
            open_angles = [*angles[:-1], None]
            if chance.random() < 0.15:  # values that contradict each other
                return Outline(tuple(lengths), tuple(angles), line)
            return Outline(tuple(open_lengths), tuple(open_angles), line)


def random_thing(chance: random.Random) -> Thing:
    size = chance.uniform(8, 80)
    return Thing(
        name=chance.choice(("blocks", "jars", "<b>bold</b>", "盒子", "cards")),
        count=chance.randint(1, 24), length_mm=size, width_mm=size * chance.uniform(0.3, 1.5),
        height_mm=chance.uniform(4, 90), round=chance.random() < 0.3,
        columns=chance.choice((None, None, 2, 5)), layers=chance.choice((1, 1, 2)), play_mm=chance.uniform(0, 4),
    )  # fmt: skip


def random_panel(chance: random.Random) -> Panel:
    segments = Segments(
        count=chance.randint(3, 12), style=chance.choice(("pie", "ring")), ring_mm=chance.uniform(5, 80)
    )
    own = random.Random(repr(segments))  # of its own, so that what came before stays as it was
    return Panel(
        height_mm=chance.uniform(0, 20), depth_mm=chance.uniform(1, 6), thickness_mm=chance.uniform(2, 8),
        play_mm=chance.uniform(0, 2), fit_mm=chance.uniform(0, 0.4),
        segments=segments if chance.random() < 0.3 else None,
        seat="rabbet" if own.random() < 0.25 else "groove", proud_mm=own.choice((0.0, 0.0, 1.5, 9.0)),
    )  # fmt: skip


def random_opening(chance: random.Random, count: int) -> Opening:
    return Opening(
        kind=chance.choice(("hole", "slot", "notch")), side=chance.randrange(count), both=chance.random() < 0.3,
        along_mm=chance.choice((None, chance.uniform(5, 150))), up_mm=chance.uniform(5, 80),
        width_mm=chance.uniform(4, 60), high_mm=chance.uniform(3, 40),
    )  # fmt: skip


def random_feet(chance: random.Random) -> Feet:
    return Feet(
        kind=chance.choice(("block", "mitered", "wedge")), size_mm=chance.uniform(8, 60),
        height_mm=chance.uniform(4, 30), thickness_mm=chance.uniform(3, 16), inset_mm=chance.choice((0.0, 3.0)),
    )  # fmt: skip


def random_uses(chance: random.Random, tools: tuple[Tool, ...]) -> Uses:
    """Now and then another tool for a use."""
    chosen = {}
    for use in CAN:
        known = [tool.name for tool in tools if can(tool, use)]
        if known and chance.random() < 0.25:
            chosen[use] = chance.choice(known)
    return Uses(**chosen)


def random_mark(chance: random.Random, board: Board, count: int) -> Mark:
    kind = chance.choice(get_args(MarkKind))
    return Mark(
        kind=kind, x_mm=chance.uniform(0, board.length_mm), y_mm=chance.uniform(0, board.width_mm),
        length_mm=chance.uniform(2, 90), width_mm=chance.uniform(2, 40), shows=chance.choice(get_args(Shows)),
        wish=WISHES[kind] if chance.random() < 0.7 else "note", at_mm=chance.uniform(0, 90),
        inside=chance.random() < 0.2, sides=(chance.randrange(count),) if chance.random() < 0.2 else (),
    )  # fmt: skip


def random_board(board: Board, count: int) -> Board:
    """The board cut up some way, and as boards are: of a chance of its own, so that what comes after stays."""
    chance = random.Random(f"{board!r} {count}")
    method = board.method
    if chance.random() < 0.4:
        method = chance.choice(("flip_shared", "book", "upright", "none"))
    rough = chance.random() < 0.3
    return replace(
        board, method=method, edge_mm=chance.uniform(0, 6) if rough else 0.0, turned=chance.random() < 0.2,
        across_mm=chance.choice((0.0, 0.0, chance.uniform(0, 30))), planing_mm=chance.uniform(0, 3) if rough else 0.0,
        face=chance.choice(("front", "front", "back")), looks=tuple(chance.sample(get_args(Look), chance.randrange(3))),
        sawn=chance.choice(get_args(Sawn)), wood=chance.choice(list(WOODS)),
        marks=tuple(random_mark(chance, board, count) for _ in range(chance.choice((0, 0, 1, 4)))),
    )  # fmt: skip


def random_breaks(job: Job) -> Job:
    """Now and then the wrap broken, on its own board or one of the rack; of a chance of its own as well."""
    chance, count = random.Random(f"{job.stock!r}"), job.design.side_count
    if chance.random() > 0.2:
        return job
    corners = sorted({*chance.sample(range(count), chance.randint(1, min(3, count)))} - {job.closing})
    names = ["", *(board.name for board in job.stock.rack)]
    breaks = (
        Break(after=k, board=chance.choice(names), skip_mm=chance.choice((0.0, 12.5, 60.0))) for k in corners
    )
    return revised(job, breaks=tuple(breaks))


def random_corners(job: Job) -> Job:
    """Now and then other keys, splines or corner blocks, of a chance of its own."""
    chance, count = random.Random(f"{job.design!r}"), job.design.side_count
    if chance.random() > 0.35:
        return job
    corners = tuple(sorted(chance.sample(range(count), chance.randint(1, min(4, count)))))
    if job.design.joints.keys is not None:
        kind = chance.choice(("straight", "veneer", "dovetail"))
        job = corner_edits.with_key_kind(job, "keys", kind)
        keys = replace(
            job.design.joints.keys, slant_deg=chance.choice((0.0, 12.0, -30.0)), lie=chance.choice(("square", "level")),
            placed=chance.choice(("few", "even", "spaced")), spacing_mm=chance.uniform(4, 60),
            corners=chance.choice(((), corners)),
        )  # fmt: skip
        job = revised(job, keys=keys)
        if chance.random() < 0.4:
            job = corner_edits.with_kinds_at(job, corners[0], chance.choice(("other", "both", "none")))
    if chance.random() < 0.5:
        job = corner_edits.with_spline_count(job, chance.choice((1, 2)))
        splines = job.design.joints.splines
        assert splines is not None
        if chance.random() < 0.5:
            splines = replace(
                splines, depth_mm=chance.uniform(1, 12), place_mm=chance.uniform(1, 12), corners=corners,
                stop_bottom_mm=chance.choice((0.0, 15.0)), thickness_mm=chance.uniform(1, 6),
            )  # fmt: skip
        job = revised(job, splines=splines)
    if chance.random() < 0.3:
        leg = chance.uniform(2, 30)
        job = revised(job, corner_blocks=CornerBlocks(leg_mm=leg, corners=chance.choice(((), corners))))
    return job


def random_section(job: Job) -> Job:
    """Now and then a lid of another kind, a bottom glued on, a false floor, seasons; of a chance of its own."""
    chance = random.Random(f"section {job.design!r}")
    if chance.random() < 0.3:
        kind = chance.choice((*section_edits.COVERS, "lip"))
        job = section_edits.with_lid_kind(job, kind)
        cover = job.design.section.cover
        if cover is not None and chance.random() < 0.5:
            sizes = {name: getattr(cover, name) * chance.uniform(0.3, 3) for name in ("thickness_mm", "play_mm")
                     if hasattr(cover, name)}  # fmt: skip
            job = revised(job, cover=replace(cover, **sizes))
    for part in ("bottom", "top"):
        panel = getattr(job.design.section, part)
        if panel is not None and chance.random() < 0.2:
            over = chance.choice((0.0, 4.0))
            job = decide(job, part, replace(panel, seat="applied", overhang_mm=over, wood="cherry"))
    if chance.random() < 0.12:
        own = FalseFloor(height_mm=chance.uniform(2, 40), ledge_mm=chance.uniform(1, 10))
        job = revised(job, false_floor=own)
    if chance.random() < 0.2:
        job = revised(job, seasons=Seasons(by=chance.choice(("humidity", "moisture"))))
        job = section_edits.with_wood(job, "bottom", wood=chance.choice(("cherry", "white oak", "?")))
    for what in ("hinges", "magnets", "latch", "brackets"):
        if job.design.section.lid is not None and chance.random() < 0.1:
            key, _words = chance.choice(hardware_edits.ways(job, what)[1:])
            job = hardware_edits.with_way(job, what, key)
            if hardware_edits.counted(job, what):
                job = hardware_edits.with_count(job, what, chance.randint(1, 3))
    for part, change, kinds in (
        ("inlay", section_edits.with_inlay, ("square", "round")),
        ("handle", section_edits.with_handle, ("knob", "pull", "wedge")),
    ):
        if chance.random() < 0.06:
            job = change(job, chance.choice(kinds))
            job = section_edits.with_fitting_on(job, part, chance.choice(("top", "front")))
    for edge in get_args(EdgeName):
        if chance.random() < 0.08:
            job = section_edits.with_edge(job, edge, chance.choice(get_args(ProfileKind)))
            job = decide(
                job,
                edge,
                replace(
                    decided(job, edge),
                    size_mm=chance.choice((chance.uniform(0.3, 2.5), chance.uniform(0.3, 9.0))),
                ),
            )
            job = section_edits.with_edge_cut(job, edge, chance.choice(("before_lid", "after_lid")))
    return job


def random_design(chance: random.Random, most_sides: int = 12) -> Job:
    """One box. Most could be made; some contradict themselves."""
    shape = random_shape(chance, most_sides)
    bare = job_of(shape=shape)
    count = bare.design.side_count
    thick = chance.uniform(4, 19)
    unlike = chance.random() < 0.15
    leans = chance.random() < 0.35
    slopes = (
        tuple(chance.uniform(-25, 30) for _ in range(count if chance.random() < 0.3 else 1))
        if leans
        else (0.0,)
    )
    job = job_of(
        name=chance.choice(("Trial box", "[*] box", "<i>Kiste</i> & Co", "箱 " * 20, "x" * 120)),
        units=chance.choice(("mm", "mm", "in")),
        shape=shape,
        height_mm=chance.uniform(20, 260),
        thicknesses_mm=tuple(thick * chance.uniform(0.6, 1.3) for _ in range(count)) if unlike else (thick,),
        slopes_deg=slopes,
        front=chance.randrange(count),
        closing_corner=chance.choice((None, chance.randrange(count))),
        bottom=maybe(chance, random_panel(chance), 0.7),
        top=maybe(chance, random_panel(chance), 0.3),
        lid=maybe(
            chance,
            Lid(height_mm=chance.uniform(4, 60), kerf_mm=chance.uniform(0.5, 4), clean_up_mm=chance.uniform(0, 2)),
            0.4,
        ),
        keys=maybe(
            chance,
            Keys(
                count=chance.randint(1, 5), thickness_mm=chance.uniform(0.6, 6), depth_mm=chance.uniform(2, 18),
                leg_mm=chance.choice((None, chance.uniform(3, 20))),
            ),
            0.6,
        ),
        saw=Saw(kind=chance.choice(("table_saw", "miter_saw", "chamfer_bit", "shooting_board"))),
        contents=tuple(random_thing(chance) for _ in range(chance.choice((0, 0, 1, 1, 2, 3)))),
        lining_mm=chance.choice((0.0, 0.0, 2.0)),
        dividers=maybe(chance, Dividers(across=chance.randint(0, 4), along=chance.randint(0, 3)), 0.3),
        liner=maybe(
            chance,
            Liner(
                thickness_mm=chance.uniform(2, 6), height_mm=chance.uniform(10, 90), gap_mm=chance.uniform(0, 1)
            ),
            0.25,
        ),
    )  # fmt: skip
    board = (
        suiting_board(job)
        if chance.random() < 0.6
        else Board(
            length_mm=chance.uniform(200, 3000),
            width_mm=chance.uniform(20, 300),
            thickness_mm=chance.uniform(3, 30),
        )
    )
    method = chance.choice(("square_first", "bevel_direct"))
    made = revised(
        job,
        board=random_board(
            replace(board, method=method, resaw=random.Random(repr(board)).random() < 0.1), count
        ),
        saw=replace(job.shop.saw, kerf_mm=chance.uniform(0.8, 4)),
        openings=tuple(random_opening(chance, count) for _ in range(chance.choice((0, 0, 0, 1, 2)))),
        feet=maybe(chance, random_feet(chance), 0.25),
        uses=random_uses(chance, job.shop.tools),
        work=Work(
            finish=chance.choice(("first", "after")),
            keys=chance.choice(("before_lid", "after_lid")),
            own=(OwnStep("own.1", "Sharpen", before="box.glue"),) if chance.random() < 0.2 else (),
        ),
        rack=(replace(board, name="Spare", marks=(), method="square_first"),)
        if chance.random() < 0.3
        else (),
    )
    return random_section(random_corners(random_breaks(made)))
