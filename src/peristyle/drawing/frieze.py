"""The sides unrolled in order as one band: the wood as it will be seen from outside."""

import math
from collections.abc import Iterator, Mapping, Sequence
from typing import Final

from peristyle.core.lengths import Format
from peristyle.core.outlines import box, clipped
from peristyle.core.planes import Point
from peristyle.drawing.board import face_on_board
from peristyle.drawing.shapes import Drawing, Grain, Label, Path, Pick, Shape, line
from peristyle.model.design import corner_name
from peristyle.model.job import Job
from peristyle.planning.form.ring import SidePlan
from peristyle.planning.making.piece import Feature
from peristyle.planning.plan import Plan

MOST_LETTERS: Final = 40  # of more sides only some have room for their letters
MOST_KEYS: Final = 800  # more are too small to be seen, and too many to paint in a frame


def frieze_drawing(plan: Plan, fmt: Format) -> Drawing:
    """The band from the closing corner round to itself, with folds, lid line, keys and front."""
    ring, job = plan.ring, plan.job
    if not plan.wrap.pieces:
        return Drawing(words="No sides to show yet.")
    height = job.design.form.height_mm
    shapes: list[Shape] = []
    folds: list[tuple[int, float]] = []
    starts: dict[int, float] = {}
    cuts = plan.cuts
    x = 0.0
    words = []
    every = math.ceil(len(ring.sides) / MOST_LETTERS)
    for piece in plan.wrap.pieces:
        side = ring.sides[piece.side]
        low, high = side.reach_mm
        # Leaning faces touch where they are widest: the gaps show how the grain turns.
        wide = high - low
        target = _face(side.outer_face, x - low, height / side.slant_mm)
        shapes.append(
            Grain(target, face_on_board(side, piece), Pick("side", side.index), piece.show, piece.board)
        )
        own = cuts.get(f"side.{side.name}", ())
        shapes += _cut_away(side, own, x - low, height / side.slant_mm)
        if side.index == job.design.form.front:
            shapes += _front(x + wide / 2, height)
        if side.index % every == 0:
            shapes.append(Label((x + wide / 2, 0.0), side.name, "follows", 9.0, bold=True,
                                shift=(0.0, -9.0), pick=Pick("side", side.index)))  # fmt: skip
        starts[side.index] = x - low
        x += wide
        folds.append((side.index, x))
        words.append(side.name)
    shapes += _keys(plan, cuts, starts)
    if plan.section.lid:
        lid = plan.section.lid
        shapes.append(Path(box(0, lid.lost_low_mm, x, lid.lost_high_mm), "blade", "solid", weight=0.0))
    for corner, at in folds[:-1]:
        shapes.append(Path(box(at - height * 0.06, 0, at + height * 0.06, height), "follows", weight=0.0,
                           pick=Pick("corner", corner)))  # fmt: skip
        broken = corner in job.breaks and bool(
            plan.wrap.runs
        )  # the grain stops there as at the closing corner
        shapes.append(
            line((at, 0.0), (at, height), "caution" if broken else "follows", 2.4 if broken else 0.9)
        )
    if all(side.reach_mm == (0.0, side.outside_mm) for side in ring.sides):
        shapes.append(Path(box(0, 0, x, height), "follows", weight=1.0))
    for at, side_of in ((0.0, 1.0), (x, -1.0)):
        shapes += _closing(at, side_of, height, job)
    return Drawing(
        tuple(shapes), bounds=(-height * 0.06, -height * 0.02, x + height * 0.06, height * 1.06),
        words=f"The box unrolled: {', '.join(words)}; the wrap closes at corner "
        f"{corner_name(job.closing, job.design.side_count)}.",
    )  # fmt: skip


def _face(face: tuple[Point, ...], x: float, squash: float) -> tuple[Point, Point, Point, Point]:
    """The face standing in the band, its slant shown upright."""
    a, b, c, d = ((x + px, py * squash) for px, py in face)
    return (a, b, c, d)


def _stood(points: tuple[Point, ...], x: float, squash: float) -> tuple[Point, ...]:
    """Points of a side's face, in the band."""
    return tuple((x + px, py * squash) for px, py in points)


def _cut_away(side: SidePlan, own: Sequence[Feature], x: float, squash: float) -> Iterator[Shape]:
    """Openings, and what is taken right off an edge."""
    for feature in own:
        if feature.kind == "opening":
            yield Path(_stood(feature.flat, x, squash), "inside", "solid", weight=1.0)
        elif feature.trims:
            gone = clipped(_taken(feature, side.thickness_mm), side.outer_face)
            if len(gone) > 2:
                yield Path(_stood(gone, x, squash), "blade", "tint", weight=0.8)


def _taken(feature: Feature, thickness_mm: float) -> tuple[Point, ...]:
    """What is taken right off an edge, on the show face."""
    return feature.flat if feature.face == "show" else feature.through(thickness_mm)


def _front(x: float, height: float) -> list[Shape]:
    tip = height * 0.09
    return [
        Path(((x, height), (x - tip, height + tip * 1.2), (x + tip, height + tip * 1.2)), "decided", "solid")
    ]


def _keys(plan: Plan, cuts: Mapping[str, Sequence[Feature]], starts: dict[int, float]) -> list[Shape]:
    """Each key as it opens on the faces beside its corner."""
    if len(plan.keys.keys) > MOST_KEYS:
        return []
    shapes: list[Shape] = []
    corners = {corner.name.replace("-", "_"): corner.index for corner in plan.ring.corners}
    for side in plan.ring.sides:
        for feature in cuts.get(f"side.{side.name}", ()):
            if feature.kind != "slot":
                continue
            seen = feature.flat
            levels = [y for _x, y in seen]
            if seen and not 0.0 <= min(levels) <= max(levels) <= side.slant_mm:
                seen = clipped(seen, side.outer_face)
            if len(seen) > 2:
                points = _stood(seen, starts[side.index], plan.job.design.form.height_mm / side.slant_mm)
                corner = corners[feature.id.split(".")[3]]
                shapes.append(Path(points, "key", "solid", weight=0.0, pick=Pick("corner", corner)))
    return shapes


def _closing(x: float, sign: float, height: float, job: Job) -> list[Shape]:
    """A double stroke at both ends of the band: here the grain does not run on."""
    step = height * 0.022 * sign
    corner = Pick("corner", job.closing)
    return [
        Path(((x + step * k, 0.0), (x + step * k, height)), "caution", closed=False, weight=1.8, pick=corner)
        for k in (0.6, 1.8)
    ]
