"""Dividers in their dadoes, in the box or in its liner."""

import math
from collections.abc import Iterator, Sequence
from typing import Final, Literal

from peristyle.core.outlines import Outline as Points
from peristyle.core.outlines import bounds, run
from peristyle.core.planes import Point, Slab, Vector, cross
from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import side_name
from peristyle.model.job import Job
from peristyle.planning.cutters import cutter
from peristyle.planning.form.ring import RingPlan
from peristyle.planning.inside.divider_plan import DividersPlan
from peristyle.planning.inside.dividers import DadoPlan, DividerPlan
from peristyle.planning.inside.inner import under_fillets
from peristyle.planning.inside.mouth import dividers_over_mm
from peristyle.planning.making.ends import hands, leans_said
from peristyle.planning.making.kind import Kind, Phase, Settled
from peristyle.planning.making.parts.walls import PAST_MM, stands
from peristyle.planning.making.piece import Edge, Feature, Piece, Place
from peristyle.planning.making.ripping import part_of
from peristyle.planning.making.setting import (
    SAME_SETTING,
    from_start,
    height,
    same,
    stop,
    swing,
    thickness,
    tilt,
    width,
)
from peristyle.planning.making.step import Step, make
from peristyle.planning.section.grooves import passes


def _pieces(plan: Settled) -> Iterator[Piece]:
    liner, dividers = plan.liner, plan.dividers
    base = liner.base_mm if liner is not None and dividers.in_liner else plan.job.design.floor_mm
    return (_divider(piece, base) for piece in dividers.pieces)


def _features(plan: Settled) -> Iterator[tuple[str, Feature]]:
    dividers = plan.dividers
    held = plan.liner.ring if plan.liner is not None and dividers.in_liner else plan.ring
    foot = 0.0 if dividers.in_liner else plan.job.design.floor_mm
    word = "liner" if dividers.in_liner else "side"
    for piece in dividers.pieces:
        for end, dado in enumerate(piece.dadoes):
            wall = f"{word}.{side_name(dado.side)}"
            name = f"{wall}.dado.{_dotted(piece.name)}"
            yield (
                wall,
                _dado(held, piece, end, foot, name, cutter(plan.job, "dado").takes(piece.thickness_mm)),
            )


def _steps(plan: Settled) -> Iterator[tuple[Phase, Step]]:
    dividers = plan.dividers
    in_liner = plan.liner is not None and dividers.in_liner
    held = plan.liner.ring if plan.liner is not None and in_liner else plan.ring
    from_above = not held_first(plan)
    for step in dado_steps(plan.job, held, dividers, "liner" if in_liner else "side", from_above=from_above):
        yield ("inside" if in_liner else "flat"), step
    when: Phase = "dividers" if from_above else "inside" if in_liner else "panels"
    for step in (*divider_steps(plan.job, dividers), *(_put_in(plan) if from_above else ())):
        yield when, step


def held_first(plan: Settled) -> bool:
    """Whether the dividers go in as the walls that hold them are closed: from above they do not pass the mouth."""
    over = dividers_over_mm(plan.job.design, plan.ring, plan.section, plan.liner, plan.dividers)
    return over > DEFAULT.length_mm


def _dado(
    walls: RingPlan, piece: DividerPlan, end: int, foot_mm: float, name: str, kerf_mm: float
) -> Feature:
    """One dado, edge to edge: the divider's end in the wall's own frame, swept along the line where they meet."""
    index = piece.dadoes[end].side
    slab, side = walls.slabs[index], walls.sides[index]
    place = stands(slab, side, 0.0)
    way = (0.0, 1.0) if piece.run == "across" else (1.0, 0.0)
    sign = -1.0 if end == 0 else 1.0
    runs = [p[0] * way[0] + p[1] * way[1] for p in piece.outline]
    reach = min(runs) if end == 0 else max(runs)
    tips = [p for p, run in zip(piece.outline, runs, strict=True) if abs(run - reach) < 1e-9]
    # Where each face of the divider meets the wall's inner face, at its foot.
    inner = slab.inner_mm(foot_mm)
    ahead = (slab.ux * way[0] + slab.uy * way[1]) * sign
    met = []
    for x, y in tips:
        back = (slab.ux * x + slab.uy * y - inner) / ahead
        met.append((x - back * way[0] * sign, y - back * way[1] * sign))
    flat = [place.back((x, y, foot_mm)) for x, y in (met[0], tips[0], tips[1], met[1])]
    # Up the wall: the line in which a face of the divider meets it.
    line = _meeting(slab, way)
    up = place.back(tuple(o + v for o, v in zip(place.origin, line, strict=True)))  # type: ignore[arg-type]
    length = math.hypot(up[0], up[1])
    ux, uy = up[0] / length, up[1] / length
    start = flat[0]
    ups = [y for _x, y in (*side.outer_face, *side.inner_face)]
    # A sweep ends square to its path: one that leans goes further, to come out with its whole width.
    past = PAST_MM + (piece.thickness_mm + slab.thickness_mm) * abs(ux / uy)
    lowest, highest = min(ups) - past, max(ups) + past
    # (left of the path, depth) of each corner, square to the path.
    corners = [((p[0] - start[0]) * -uy + (p[1] - start[1]) * ux, slab.thickness_mm - p[2]) for p in flat]
    profile = _sawn(corners, piece.thickness_mm, kerf_mm)
    path = tuple((start[0] + (y - start[1]) * ux / uy, y) for y in (lowest, highest))
    return Feature(name, "dado", "inside", (path[0], path[1]), profile)


def _sawn(corners: Sequence[Point], thick_mm: float, kerf_mm: float) -> Points:
    """A dado's profile as its passes leave it, from the divider's end in it: (left of the path, depth) of where its
    start side's face, or its other, meets the wall, of that face's tip, of the other's tip and of where it meets.

    Each pass stands as high as the others, square to its own blade: one that leans leaves a floor of steps, none
    of them shallower than the divider's end.
    """
    if corners[0][0] < corners[3][0]:  # the start lies on the left of a path that goes up
        corners = corners[::-1]
    (u0, d0), (u1, d1) = corners[:2]
    deep = math.hypot(u1 - u0, d1 - d0)
    blade = ((u1 - u0) / deep, (d1 - d0) / deep)
    across = (-blade[1], blade[0]) if blade[1] > 0 else (blade[1], -blade[0])
    lean = -blade[0] / blade[1]  # toward the side's end, for each mm in
    offsets = passes(thick_mm, kerf_mm)
    last = len(offsets) - 1
    wide = max(thick_mm, kerf_mm)
    deepest = deep - min(0.0, lean) * offsets[-1]  # how far the first pass goes along the blade
    walls: list[Point] = [(0.0, 0.0)]
    for number, offset in enumerate(offsets):
        begins = offset if lean > 0 or not number else offsets[number - 1] + kerf_mm
        ends = offset + kerf_mm if lean < 0 or number == last else offsets[number + 1]
        floor = deepest + offset * lean
        walls += [(begins, floor), (wide if number == last else ends, floor)]
    walls.append((wide, wide * lean))
    return tuple((u0 + q * across[0] + p * blade[0], d0 + q * across[1] + p * blade[1]) for q, p in walls)


def _meeting(slab: Slab, way: Point) -> Vector:
    """The direction, upward, in which an upright divider running `way` meets a wall."""
    across = (way[1], -way[0], 0.0)  # square to the divider's faces
    line = cross(slab.normal, across)
    return line if line[2] > 0 else (-line[0], -line[1], -line[2])


def _dotted(name: str) -> str:
    return name.replace(" ", ".")


# From which edge a divider is slotted where it meets those of the other run: those slotted from the foot drop over.
_SLOTTED: Final[dict[str, Literal["bottom", "top"]]] = {"across": "top", "along": "bottom"}


def _divider(piece: DividerPlan, base_mm: float) -> Piece:
    """A divider between its two walls, its foot `base_mm` up; x along its run, y up."""
    x0, y0, x1, _y1 = bounds(piece.outline)
    high, long = piece.height_mm, piece.length_mm
    outs = [high * math.tan(math.radians(lean)) for lean in piece.leans_deg]
    face = ((0.0, 0.0), (long, 0.0), (long + outs[1], high), (-outs[0], high))
    if piece.run == "across":
        place = Place((x1, y0, base_mm), (0.0, 1.0, 0.0), (0.0, 0.0, 1.0), (-1.0, 0.0, 0.0))
    else:
        place = Place((x0, y0, base_mm), (1.0, 0.0, 0.0), (0.0, 0.0, 1.0), (0.0, 1.0, 0.0))
    thick = piece.thickness_mm
    from_foot = _SLOTTED[piece.run] == "bottom"
    low, top = (0.0, high / 2) if from_foot else (high / 2, high)
    past = 0.0 if from_foot else PAST_MM
    notches = tuple(
        Feature(
            f"divider.{_dotted(piece.name)}.notch.{number + 1}", "notch", "show",
            ((at, low - (PAST_MM - past)), (at, top + past)),
            ((0.0, 0.0), (-thick, 0.0), (-thick, thick), (0.0, thick)),
        )
        for number, at in enumerate(piece.notches_mm)
    )  # fmt: skip
    return Piece(
        id=f"divider.{_dotted(piece.name)}",
        part="divider",
        name=f"Divider {piece.name}",
        stock="divider stock",
        thickness_mm=piece.thickness_mm,
        grain_deg=0.0,
        show_face=face,
        inside_face=face,
        edges=(Edge("end", 0.0, piece.leans_deg[1]), Edge("start", 0.0, piece.leans_deg[0])),
        place=place,
        features=notches,
        says=("divider.top", "divider")
        if abs(piece.top_length_mm - piece.length_mm) > SAME_SETTING
        else ("divider",),
        numbers={
            "top_mm": piece.top_length_mm,
            **{f"dado.{n}.at_mm": dado.at_mm for n, dado in enumerate(piece.dadoes)},
            **{
                f"dado.{n}.tilt_deg": abs(dado.tilt_deg)
                for n, dado in enumerate(piece.dadoes)
                if dado.tilt_deg
            },
            **{f"notch.{n}.at_mm": at for n, at in enumerate(piece.notches_mm)},
        },
        names={f"dado.{n}.side": side_name(dado.side) for n, dado in enumerate(piece.dadoes)},
    )


def dado_steps(
    job: Job, walls: RingPlan, dividers: DividersPlan, word: str, *, from_above: bool = True
) -> Iterator[Step]:
    """The dadoes, each from its side's start: equal settings on several sides together."""
    groups: dict[tuple[int, ...], list[tuple[DadoPlan, str]]] = {}
    for dado, name in sorted(
        ((dado, piece.name) for piece in dividers.pieces for dado in piece.dadoes),
        key=lambda d: (d[0].side, d[0].at_mm),
    ):
        at = _stop(walls, dado)
        key = same(at, dado.tilt_deg, dado.gauge_deg, dado.depth_mm)
        groups.setdefault(key, []).append((dado, name))
    own = job.design.inside.dividers
    if not groups or own is None:
        return
    tool = cutter(job, "dado")
    wide = tool.takes(own.thickness_mm)
    offsets = passes(own.thickness_mm, wide)
    reach = (0.0 if dividers.in_liner else job.design.floor_mm) + own.height_mm
    for members in groups.values():
        first = members[0][0]
        # A slanted cut is wider on the face than the divider is thick.
        widen = math.cos(math.radians(first.tilt_deg)) * math.cos(math.radians(first.gauge_deg))
        stops = [from_start(_stop(walls, first) + offset / widen) for offset in offsets]
        names = [side_name(dado.side) for dado, _name in members]
        yield make(
            "dado", tuple(dict.fromkeys(f"{word}.{name}" for name in names)), "_".join(names),
            part=part_of(word),
            makes=(f"{word}.{side_name(dado.side)}.dado.{name.replace(' ', '.')}" for dado, name in members),
            lies="show_up",
            cutter=tool,
            cut_mm=wide,
            settings=(*tilt(first.tilt_deg), *((swing(first.gauge_deg),) if first.gauge_deg else ()), *stops,
                      height(first.depth_mm)),
            passes=len(members) * len(offsets),
            says=("dado.passes" if len(offsets) > 1 else "dado", "dado.reach" if from_above else "dado.held"),
            numbers={"passes": float(len(offsets)), "reach_mm": reach, "wide_mm": own.thickness_mm},
            names={"sides": ", ".join(names)},
            short=min(walls.sides[dado.side].outside_mm for dado, _name in members) < job.shop.saw.least_mm,
        )  # fmt: skip


def _stop(walls: RingPlan, dado: DadoPlan) -> float:
    """From where the piece reaches furthest at its start, which lies at the stop, to the dado's near edge."""
    side, slab = walls.sides[dado.side], walls.slabs[dado.side]
    begin = run(slab, side.foot[0], walls.inner_bottom[dado.side - 1])
    return begin + dado.at_mm - min(x for x, _y in (*side.outer_face, *side.inner_face))


def divider_steps(job: Job, dividers: DividersPlan) -> Iterator[Step]:
    """Dividers to length, and the halving slots where they cross."""
    own = job.design.inside.dividers
    if own is None:
        return
    lengths: dict[tuple[int, ...], list[int]] = {}
    halved: dict[tuple[int, ...], list[int]] = {}
    for number, piece in enumerate(dividers.pieces):
        lengths.setdefault(same(piece.length_mm, piece.top_length_mm, *piece.leans_deg), []).append(number)
        if piece.notches_mm:
            halved.setdefault((int(piece.run == "along"), *same(*piece.notches_mm)), []).append(number)
    for members in lengths.values():
        piece = dividers.pieces[members[0]]
        longest = max(piece.length_mm, piece.top_length_mm)
        leaning = any(abs(lean) > SAME_SETTING for lean in piece.leans_deg)
        starts, ends = piece.leans_deg
        swings = (swing(-starts, "start"), swing(ends, "end")) if leaning else ()
        pieces = _ids(dividers, members)
        yield make(
            "divider", pieces, _numbers(members), part="divider", makes=pieces,
            edge="top" if piece.top_length_mm > piece.length_mm + SAME_SETTING else "bottom",
            settings=(*swings, stop(longest), width(piece.height_mm), thickness(piece.thickness_mm)),
            passes=len(members), title=_title("divider", members),
            says=("divider", *((leans_said(piece.leans_deg),) if leaning else ()), "divider.fit"),
            names={
                "dividers": _names(dividers, members),
                "edge": "top" if piece.top_length_mm > piece.length_mm + SAME_SETTING else "bottom",
                **hands(piece.leans_deg),
            },
            short=longest < job.shop.saw.least_mm,
        )  # fmt: skip
    for members in halved.values():
        piece = dividers.pieces[members[0]]
        tool = cutter(job, "dado")
        wide = tool.takes(own.thickness_mm)
        offsets = passes(own.thickness_mm, wide)
        slots = [from_start(notch + offset) for notch in piece.notches_mm for offset in offsets]
        pieces = _ids(dividers, members)
        yield make(
            "halve", pieces, _numbers(members), part="divider",
            makes=(f"{name}.notch.{n + 1}" for name in pieces for n in range(len(piece.notches_mm))),
            cutter=tool,
            cut_mm=wide,
            lies="on_edge", edge=_SLOTTED[piece.run],
            settings=(*slots, height(piece.height_mm / 2)), passes=len(members) * len(slots),
            title=_title("halve", members), says=("halve",), numbers={"wide_mm": own.thickness_mm},
            names={"dividers": _names(dividers, members),
                   "edge": "foot" if _SLOTTED[piece.run] == "bottom" else "top edge"},
            short=piece.length_mm < job.shop.saw.least_mm,
        )  # fmt: skip


def _put_in(plan: Settled) -> Iterator[Step]:
    """The dividers into their dadoes, from above: to stay, where fillets come over their ends."""
    dividers = plan.dividers
    members, stay = range(len(dividers.pieces)), under_fillets(plan.job.design, dividers)
    if not members:
        return
    crossing = any(piece.notches_mm for piece in dividers.pieces)
    yield make(
        "divider_fit", divider_ids(dividers), part="divider", tool="by_hand",
        title=_title("divider_fit", members), passes=len(members),
        says=(
            "divider_fit.finish", "divider_fit.crossing" if crossing else "divider_fit",
            "divider_fit.stay" if stay else "divider_fit.dry",
        ),
    )  # fmt: skip


def divider_ids(dividers: DividersPlan) -> tuple[str, ...]:
    """All their pieces."""
    return _ids(dividers, range(len(dividers.pieces)))


def _ids(dividers: DividersPlan, members: Sequence[int]) -> tuple[str, ...]:
    return tuple(f"divider.{dividers.pieces[number].name.replace(' ', '.')}" for number in members)


def _numbers(members: Sequence[int]) -> str:
    return "_".join(str(number + 1) for number in members)


def _names(dividers: DividersPlan, members: Sequence[int]) -> str:
    return ", ".join(dividers.pieces[number].name for number in members)


def _title(key: str, members: Sequence[int]) -> str:
    return f"{key}.many" if len(members) > 1 else key


DIVIDERS = Kind("divider", _pieces, _features, _steps)
