"""The sides of any ring as pieces, the box's or a liner's, and cuts that run right along them."""

from collections.abc import Iterator

from peristyle.core.outlines import Outline as Points
from peristyle.core.planes import Slab
from peristyle.planning.form.ring import RingPlan, SidePlan
from peristyle.planning.making.piece import Edge, Face, Feature, Piece, Place

PAST_MM = 1.0  # how far a cut that runs through is drawn past the piece


def walls(ring: RingPlan, part: str, stock: str, base_mm: float) -> Iterator[Piece]:
    word = part.capitalize()
    for side in ring.sides:
        yield Piece(
            id=f"{part}.{side.name}",
            part=part,
            name=f"{word} {side.name}",
            stock=stock,
            thickness_mm=side.thickness_mm,
            grain_deg=0.0,
            show_face=side.outer_face,
            inside_face=side.inner_face,
            edges=(
                Edge("bottom", side.slope_deg),
                Edge("end", side.end.bevel_deg, side.end.miter_deg),
                Edge("top", side.slope_deg),
                Edge("start", side.start.bevel_deg, side.start.miter_deg),
            ),
            place=stands(ring.slabs[side.index], side, base_mm),
        )


def stands(slab: Slab, side: SidePlan, base_mm: float) -> Place:
    """A side in the ring, its bottom edge `base_mm` over the box's."""
    x, y = side.foot[0]
    nx, ny, nz = slab.normal
    return Place((x, y, base_mm), slab.along, slab.up_face, (-nx, -ny, -nz))


def _reach(side: SidePlan) -> tuple[float, float]:
    xs = [x for x, _y in (*side.outer_face, *side.inner_face)]
    return min(xs) - PAST_MM, max(xs) + PAST_MM


def along(feature: str, kind: str, side: SidePlan, profile: Points, face: Face = "inside") -> Feature:
    """A cut right along one of a side's faces, its profile (y, z) in the side's own frame."""
    low, high = _reach(side)
    return Feature(
        f"side.{side.name}.{feature}", kind, face, ((low, 0.0), (high, 0.0)),
        tuple((y, z if face == "show" else side.thickness_mm - z) for y, z in profile),
    )  # fmt: skip
