"""`peristyle new`: a design from the words of a command line."""

import argparse
import re
import sys
from collections.abc import Sequence
from pathlib import Path
from typing import Final, get_args

from peristyle.commands.likeness import with_values
from peristyle.commands.reading import (
    JUST_A_FLAG,
    MEASURES,
    Reader,
    in_range,
    read_angle,
    read_contents,
    read_count,
    read_shape,
    read_tapered,
    set_checked,
)
from peristyle.core.errors import LengthError, PeristyleError
from peristyle.core.lengths import Format, parse_pitch, split_list
from peristyle.model import corner_edits, corner_fields, edits, fields, section_edits
from peristyle.model.design import (
    Dividers,
    GrooveWay,
    Keys,
    Liner,
    Panel,
    Seat,
    Segments,
    corner_name,
    replace,
    side_name,
)
from peristyle.model.job import Job, MachineKind, Saw, decide, decided, job_of, problems, revised
from peristyle.model.starts import begun, tools_in
from peristyle.model.stock import SIZES, Board, Method
from peristyle.planning.form.slabs import two_sizes
from peristyle.planning.inside.contents import follows_contents, sized, suiting_height
from peristyle.planning.stock.largest import largest
from peristyle.planning.stock.wrap import with_needed_board
from peristyle.reference.machines import USUAL_ANGLES

# Each option of a part of the box with the field that reads it and knows its range.
_PART_OPTIONS: Final = {
    "--kerf": fields.KERF,
    "--trim": fields.END_TRIM,
    "--creep": fields.CREEP,
    "--shift": fields.SHIFT,
    "--groove-height": fields.PANELS["bottom"].height,
    "--groove-depth": fields.PANELS["bottom"].depth,
    "--panel-thickness": fields.PANELS["bottom"].thickness,
    "--panel-play": fields.PANELS["bottom"].play,
    "--groove-fit": fields.PANELS["bottom"].fit,
    "--top-groove-height": fields.PANELS["top"].height,
    "--top-groove-depth": fields.PANELS["top"].depth,
    "--top-panel-thickness": fields.PANELS["top"].thickness,
    "--top-panel-play": fields.PANELS["top"].play,
    "--top-groove-fit": fields.PANELS["top"].fit,
    "--lid-height": fields.LID_HEIGHT,
    "--lid-kerf": fields.LID_KERF,
    "--clean-up": fields.CLEAN_UP,
    "--key-thickness": corner_fields.KEY_FIELDS["keys"].thickness,
    "--key-depth": corner_fields.KEY_FIELDS["keys"].depth,
    "--key-leg": corner_fields.KEY_FIELDS["keys"].leg,
    "--key-edge": corner_fields.KEY_FIELDS["keys"].edge,
}


def _arguments(parser: argparse.ArgumentParser) -> None:
    parser.add_argument("file", metavar="FILE")
    _shape_arguments(parser)
    _size_arguments(parser)
    _other_arguments(parser)
    _more_arguments(parser)


def _shape_arguments(parser: argparse.ArgumentParser) -> None:
    shape = parser.add_argument_group("shape, one of")
    shape.add_argument("--sides", metavar="N", help="a regular polygon, 3 sides or more")
    shape.add_argument(
        "--house", metavar="WxH@P", help="floor × wall @ pitch: two walls, floor, two roof slopes"
    )
    shape.add_argument("--overhang", metavar="L", help="with --house: the roof runs past the walls so far")
    shape.add_argument("--eaves", choices=("square", "plumb"), help="with --overhang: how its ends are cut")
    shape.add_argument("--rect", action="store_true", help="a rectangle")
    shape.add_argument(
        "--outline", metavar="L@C,…", help="each side's length and the corner at its end; ? is worked out"
    )


def _size_arguments(parser: argparse.ArgumentParser) -> None:
    size = parser.add_argument_group(
        "size, one of (lengths such as 186.5, 18cm, '6 5/8in'; a bare number is in --units)"
    )
    size.add_argument(
        "--inside", metavar="A[xB]", nargs="?", const=JUST_A_FLAG, help="inside length of the sides"
    )
    size.add_argument(
        "--outside", metavar="A[xB]", nargs="?", const=JUST_A_FLAG, help="outside length of the sides"
    )
    size.add_argument(
        "--across-flats", metavar="A", help="outside, twice the distance from the middle to a side"
    )
    size.add_argument(
        "--across-corners", metavar="A", help="outside, twice the distance from the middle to a corner"
    )
    size.add_argument(
        "--contents", metavar="N of LxWxH", action="append",
        help="what it holds, once for each kind; 'N of round DxH' for round things",
    )  # fmt: skip
    size.add_argument(
        "--play",
        metavar="L",
        help="room for the contents in all, both ways and over them (2 mm if not given)",
    )
    size.add_argument("--top", metavar="A[xB]", help="the same size at the top edge: the slope follows")
    size.add_argument(
        "--fit-board", nargs="?", const="sides", choices=("sides", "with-panels"),
        help="the largest box of these proportions from --board; without --height as high as it is wide",
    )  # fmt: skip
    size.add_argument(
        "--keep",
        choices=("length", "width", "first", "second", "floor", "wall"),
        help="with --fit-board and a shape of two sizes: this one stays",
    )
    size.add_argument("--lining", metavar="L", help="foam or cloth on each inner face")


def _more_arguments(parser: argparse.ArgumentParser) -> None:
    add = parser.add_argument
    add(
        "--like",
        metavar="OTHER",
        help="begin from a box already made (peristyle new FILE --like OTHER --help)",
    )
    add("--from", metavar="TEXTFILE", help="options and values from a text file, a line each: height = 80")
    add(
        "--set",
        metavar="ADDRESS=VALUE",
        action="append",
        default=[],
        help="any other value, as peristyle set takes it",
    )


def _other_arguments(parser: argparse.ArgumentParser) -> None:
    add = parser.add_argument
    add("--height", metavar="H", help="height of the closed box as glued")
    add("--thickness", metavar="T", help="thickness of the sides")
    add("--thicknesses", metavar="T,…", help="one thickness for each side")
    add("--slope", metavar="S", help="lean from upright, positive outward")
    add("--slopes", metavar="S,…", help="one lean for each side")
    add("--units", choices=("mm", "in"), default="mm")
    add("--name")
    add("--board", metavar="LxWxT", help="length, width and thickness; one that suits, if not given")
    add("--method", choices=get_args(Method))
    add("--wood")
    add("--seed", type=int)
    add("--keys", metavar="N", help="keys at every corner")
    add(
        "--key-kind",
        choices=("straight", "veneer", "dovetail"),
        help="what the keys are, straight if not given",
    )
    add("--key-slant", metavar="DEG", help="how the slots slant on the faces")
    add("--splines", choices=("1", "2"), help="loose splines in every miter")
    add("--corner-blocks", action="store_true", help="blocks fitted into the corners from inside")
    add("--key-positions", metavar="H,…", help="heights of their middles, in place of a count")
    add(
        "--machine",
        choices=[kind.replace("_", "-") for kind in get_args(MachineKind)],
        help="what the bevels are cut on, a table saw if not given",
    )
    add("--no-table-saw", action="store_true", help="the shop has none: other tools, or by hand")
    add("--tilts", choices=("left", "right"), help="which way its blade leans")
    add("--saw-stop", metavar="DEG", help="how far it tilts, 45 if not given")
    add("--saw-step", metavar="DEG", help="the finest step its scale shows, 0.1 if not given")
    add("--gives", metavar="DEG,…", help="the angles a chamfer bit or a shooting board's blocks give")
    add("--liner", metavar="TxH", help="a mitered liner: thickness × height")
    add("--liner-gap", metavar="L", help="room between liner and box on each side")
    add("--dividers", metavar="N[xM]", help="dividers across, and along")
    add("--divider-thickness", metavar="L")
    add("--divider-height", metavar="L")
    add("--dado", metavar="L", help="depth of the dividers' dadoes")
    add("--segments", metavar="N", help="glue the bottom up as a pie of N triangles")
    add("--ring", metavar="L", help="with --segments: a ring of trapezoids so wide")
    add("--top-segments", metavar="N", help="the same for the top panel")
    add("--top-ring", metavar="L", help="with --top-segments: a ring of trapezoids so wide")
    for option, part in (("--groove", "the bottom"), ("--top-groove", "the top panel")):
        add(option, choices=get_args(GrooveWay), help=f"how leaning sides take {part}: level walls, square and wider, "
            "or square for a tongue")  # fmt: skip
    add("--bottom", action="store_true", help="a grooved bottom panel")
    add("--top-panel", action="store_true", help="a grooved top panel, the lid's where a lid is sawn free")
    add("--lid", action="store_true", help="a lid sawn free")
    add(
        "--lid-kind",
        choices=_LIDS,
        help="another lid, its sizes to be set after: `lip` is one sawn free over a liner",
    )
    add("--bottom-seat", choices=get_args(Seat), help="the bottom in a groove, in a rabbet, or applied flat")
    add("--false-floor", action="store_true", help="a loose floor over a hidden compartment")
    add("--front", metavar="SIDE", help="the side that faces the room, such as A")
    add("--closing", metavar="CORNER", help="the corner where the wrap closes, such as DA")
    for option, field in _PART_OPTIONS.items():
        add(option, metavar="L", help=field.why)


_LIDS: Final = ("lip", *(kind.replace("_", "-") for kind in section_edits.COVERS))


def new_from_words(words: Sequence[str], parser: argparse.ArgumentParser) -> tuple[Path, Job]:
    """The file to write and the design. Raises PeristyleError that names the option."""
    _arguments(parser)
    options = parser.parse_args(list(words))
    _no_word_lost(options)
    reader = Reader(options.units)
    shape = read_shape(options, reader)
    job = job_of(
        name=(_plain(options.name or Path(options.file).stem) or "Untitled box")[:120],
        units=options.units,
        shape=shape,
        thicknesses_mm=reader.several(options, "thickness", "thicknesses", (9.0,)),
        slopes_deg=tuple(
            read_angle(text, "--slopes", parse_pitch)
            for text in split_list(options.slopes or options.slope or "0", comma_parts=True)
        ),
    )
    job = revised(
        job,
        contents=read_contents(options, reader),
        shape=read_tapered(job.design.form.shape, options, reader),
    )
    told = [f"--{m.replace('_', '-')}" for m in MEASURES if getattr(options, m) not in (None, JUST_A_FLAG)]
    if told and follows_contents(job.design):
        raise PeristyleError(f"What it holds gives the ring its size: leave out {told[0]}, or --contents.")
    if options.height is not None:
        job = set_checked(job, fields.HEIGHT, options.height, "--height")
    elif not options.contents and not options.fit_board:
        raise PeristyleError("Say how high it is: --height 80.")
    for thick in job.design.form.thicknesses_mm:
        in_range(job, fields.THICKNESS, thick, "--thickness")
    for slope in job.design.form.slopes_deg:
        in_range(job, fields.SLOPE, slope, "--slope")
    job = _with_parts(job, options, reader)
    for path, text in problems(job):
        raise PeristyleError(f"{path.split('_')[0]}: {text}.")
    job = with_values(_with_places(job, options), options.set)
    if options.height is None and options.contents:
        job = revised(job, height_mm=suiting_height(job.design))
    job = sized(job)
    if options.fit_board:
        job = _fitted(job, options)
    elif options.board is None and not _sized_board(options.set):
        job = with_needed_board(revised(job, as_needed=True))
    return Path(options.file), job


def _sized_board(pairs: Sequence[str]) -> bool:
    """Whether values set by their addresses say how large the board is."""
    return any(pair.partition("=")[0].strip() in [f"stock.board.{size}" for size in SIZES] for pair in pairs)


# What would be left aside without a word: options that say more of what another brings, and such as say the same.
_GOES_WITH: Final = (
    ("--divider-thickness", "--dividers"), ("--divider-height", "--dividers"), ("--dado", "--dividers"),
    ("--liner-gap", "--liner"), ("--ring", "--segments"), ("--top-ring", "--top-segments"), ("--play", "--contents"),
    ("--overhang", "--house"), ("--eaves", "--house"), ("--keep", "--fit-board"),
)  # fmt: skip
_ONE_OF: Final = (
    ("--slope", "--slopes"), ("--slope", "--top"), ("--slopes", "--top"), ("--thickness", "--thicknesses"),
    ("--key-depth", "--key-leg"), ("--keys", "--key-positions"),
)  # fmt: skip


def _no_word_lost(options: argparse.Namespace) -> None:
    """Raises PeristyleError for options that would be left aside."""

    def given(option: str) -> bool:
        return getattr(options, option[2:].replace("-", "_")) not in (None, False)

    for option, other in _GOES_WITH:
        if given(option) and not given(other):
            raise PeristyleError(f"{option} goes with {other}: give that too, or leave it out.")
    for one, other in _ONE_OF:
        if given(one) and given(other):
            raise PeristyleError(f"{one} and {other} say the same: give one of them.")
    sawn = next(
        (option for option in ("--lid", "--lid-height", "--lid-kerf", "--clean-up") if given(option)), ""
    )
    if sawn and options.lid_kind not in (None, "lip"):
        raise PeristyleError(
            f"{sawn} speaks of a lid sawn free: leave it out, or --lid-kind {options.lid_kind}."
        )


def _with_lid(job: Job, options: argparse.Namespace) -> Job:
    """The lid wanted; says on standard error where it wants another height of the liner that was given."""
    made = section_edits.with_lid_kind(job, options.lid_kind.replace("-", "_"))
    asked, liner = job.design.inside.liner, made.design.inside.liner
    if options.liner and asked and liner and liner.height_mm != asked.height_mm:
        high = Format(job.design.units).length(liner.height_mm, unit=True)
        print(f"peristyle: the liner is made {high} high, as this lid wants it", file=sys.stderr)
    return made


def _plain(text: str) -> str:
    """A name as text, whatever bytes the command line had."""
    return " ".join(text.encode("utf-8", "surrogateescape").decode("utf-8", "replace").split())


def _fitted(job: Job, options: argparse.Namespace) -> Job:
    """The largest box from the board given; says on standard error which limit binds."""
    if options.board is None:
        raise PeristyleError("--fit-board needs the board: --board LxWxT.")
    if options.contents:
        raise PeristyleError("Size it from its contents or from the board, not both.")
    sizes = tuple(two_sizes(job.design.form.shape))
    if options.keep is not None and options.keep not in sizes:
        one_of = f"one of {', '.join(sizes)}" if sizes else "for shapes of two sizes only"
        raise PeristyleError(f"--keep {options.keep}: for this shape it is {one_of}.")
    found = largest(
        job,
        fixed_height=options.height is not None,
        with_panels=options.fit_board == "with-panels",
        keep=options.keep,
    )
    if found is None:
        raise PeristyleError(
            "--fit-board: no box of these proportions and this height comes from this board."
        )
    verb = "set" if found.limit.endswith("s") else "sets"
    print(f"peristyle: the {found.limit} {verb} the limit", file=sys.stderr)
    return found.job


def _with_parts(job: Job, options: argparse.Namespace, reader: Reader) -> Job:
    """Board, bottom, lid and keys: a part is there when any of its options is given."""
    asked = {
        option: value
        for option in _PART_OPTIONS
        if (value := getattr(options, option[2:].replace("-", "_"))) is not None
    }
    wanted = {_PART_OPTIONS[option].id.split(".")[-2] for option in asked}
    flags = {"bottom": options.bottom or options.segments or options.groove,
             "top": options.top_panel or options.top_segments or options.top_groove,
             "lid": options.lid}  # fmt: skip
    wanted |= {part for part, flag in flags.items() if flag}
    if options.keys is not None or options.key_positions is not None:
        wanted.add("keys")
    thinnest = min(job.design.form.thicknesses_mm)
    for part in ("bottom", "top"):
        if part in wanted:
            job = edits.with_panel(job, part, True)
    if "lid" in wanted:
        job = edits.with_lid(job, True)
    if "keys" in wanted:
        job = revised(
            job, keys=begun(Keys, options.units, depth_mm=Format(options.units).down(thinnest * 0.8))
        )
    job = revised(
        job, board=_board(options, reader), saw=begun(Saw, options.units), tools=tools_in(options.units)
    )
    for option, text in asked.items():
        job = set_checked(job, _PART_OPTIONS[option], text, option)
    if options.keys is not None:
        job = set_checked(job, corner_fields.KEY_FIELDS["keys"].number, options.keys, "--keys")
    job = _with_machine(job, options)
    job = _with_inner(job, options, reader)
    job = _with_corners(job, options)
    if options.bottom_seat is not None:
        job = edits.with_seat(job, "bottom", options.bottom_seat)
    if options.false_floor:
        job = section_edits.with_false_floor(job, True)
    if options.lid_kind is not None:
        job = _with_lid(job, options)
    if options.key_positions is not None and job.design.joints.keys:
        heights = tuple(
            reader.length(text, "--key-positions")
            for text in split_list(options.key_positions, comma_parts=True)
        )
        job = revised(job, keys=replace(job.design.joints.keys, positions_mm=heights))
    return job


def _with_corners(job: Job, options: argparse.Namespace) -> Job:
    """The kind of the keys, splines, corner blocks."""
    if options.key_kind is not None or options.key_slant is not None:
        keys = job.design.joints.keys
        if keys is None:
            raise PeristyleError("--key-kind and --key-slant speak of keys: say how many, with --keys 2.")
        if options.key_kind not in (None, "straight"):
            job = corner_edits.with_key_kind(job, "keys", options.key_kind)
        if options.key_slant is not None:
            job = set_checked(job, corner_fields.KEY_FIELDS["keys"].slant, options.key_slant, "--key-slant")
    if options.splines is not None:
        job = corner_edits.with_spline_count(job, int(options.splines))
    if options.corner_blocks:
        job = corner_edits.with_corner_blocks(job, True)
    return job


def _with_machine(job: Job, options: argparse.Namespace) -> Job:
    """What the bevels are cut on."""
    if options.no_table_saw:
        if options.machine == "table-saw":
            raise PeristyleError(
                "--no-table-saw: then --machine is miter-saw, chamfer-bit or shooting-board."
            )
        job = revised(job, saw=replace(job.shop.saw, table_saw=False))
    if options.machine is not None:
        job = edits.with_machine(job, options.machine.replace("-", "_"))
    if options.tilts is not None:
        job = revised(job, saw=replace(job.shop.saw, tilts=options.tilts))
    for option, name, most in (("--saw-stop", "stop_deg", 89.0), ("--saw-step", "step_deg", 5.0)):
        text = getattr(options, option[2:].replace("-", "_"))
        if text is not None:
            angle = read_angle(text, option)
            if not 0 < angle <= most:
                raise PeristyleError(f"{option}: give an angle over 0 and at most {most:g}.")
            job = revised(job, saw=replace(job.shop.saw, **{name: angle}))
    if options.gives is None:
        return job
    if job.shop.saw.kind not in USUAL_ANGLES:
        raise PeristyleError("--gives is for --machine chamfer-bit or shooting-board; a saw has --saw-stop.")
    try:
        return edits.with_stops(job, options.gives, comma_parts=True)
    except LengthError as error:
        raise PeristyleError(f"--gives: {error}") from error


def _with_inner(job: Job, options: argparse.Namespace, reader: Reader) -> Job:
    """Liner, dividers, segments."""
    if options.lining is not None:
        job = set_checked(job, fields.LINING, options.lining, "--lining")
    if options.liner is not None:
        sizes = reader.sizes(options.liner, "--liner")
        if len(sizes) != 2:
            raise PeristyleError("--liner: give thickness × height, as in 4x60.")
        gap = (
            begun(Liner, options.units).gap_mm
            if options.liner_gap is None
            else reader.allowance(options.liner_gap, "--liner-gap")
        )
        job = revised(job, liner=Liner(thickness_mm=sizes[0], height_mm=sizes[1], gap_mm=gap))
    if options.dividers is not None:
        counts = re.fullmatch(r"\s*(\d{1,2})\s*(?:[x×]\s*(\d{1,2}))?\s*", options.dividers)
        if not counts or int(counts[1]) > 60 or int(counts[2] or 0) > 60:
            raise PeristyleError(f"--dividers: “{options.dividers}” is not like 3 or 3x1, at most 60.")
        dividers: Dividers = begun(Dividers, options.units, across=int(counts[1]), along=int(counts[2] or 0))
        for option, name in (
            ("--divider-thickness", "thickness_mm"),
            ("--divider-height", "height_mm"),
            ("--dado", "dado_mm"),
        ):
            text = getattr(options, option[2:].replace("-", "_"))
            if text is not None:
                dividers = replace(dividers, **{name: reader.length(text, option)})
        job = revised(job, dividers=dividers)
    for part, count, ring, option in (
        ("bottom", options.segments, options.ring, "--ring"),
        ("top", options.top_segments, options.top_ring, "--top-ring"),
    ):
        panel: Panel | None = decided(job, part)
        if count is not None and panel is not None:
            segments = Segments(count=read_count(count), style="ring" if ring else "pie")
            if ring:
                segments = replace(segments, ring_mm=reader.length(ring, option))
            job = decide(job, part, replace(panel, segments=segments))
    for part, way in (("bottom", options.groove), ("top", options.top_groove)):
        grooved: Panel | None = decided(job, part)
        if way is not None and grooved is not None:
            job = decide(job, part, replace(grooved, groove=way))
    return job


def _board(options: argparse.Namespace, reader: Reader) -> Board:
    board: Board = begun(Board, options.units)
    if options.board is not None:
        sizes = reader.sizes(options.board, "--board")
        if len(sizes) != 3:
            raise PeristyleError("--board: give length × width × thickness, as in 1200x140x12.")
        board = replace(board, length_mm=sizes[0], width_mm=sizes[1], thickness_mm=sizes[2])
    if options.method:
        board = replace(board, method=options.method)
    if options.wood:
        board = replace(board, wood=_plain(options.wood)[:120] or board.wood)
    if options.seed is not None:
        board = replace(board, seed=options.seed % 2**31)
    return board


def _with_places(job: Job, options: argparse.Namespace) -> Job:
    count = job.design.side_count
    if options.front is not None:
        names = [side_name(i) for i in range(count)]
        job = revised(job, front=_index(options.front, names, "--front"))
    if options.closing is not None:
        corners = [corner_name(i, count) for i in range(count)]
        job = revised(job, closing_corner=_index(options.closing, corners, "--closing"))
    return job


def _index(text: str, names: list[str], option: str) -> int:
    wanted = text.strip().upper()
    if wanted not in names:
        raise PeristyleError(f"{option}: “{text}” is not one of {', '.join(names)}.")
    return names.index(wanted)
