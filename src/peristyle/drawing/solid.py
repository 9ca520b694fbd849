"""The box as a solid in the eye: which faces show, in painting order, and what wood each wears.

The pieces in their places, whatever parts there are, or moved out of them: `apart` says where each stands.
"""

import math
from typing import Final

from msgspec import Struct

from peristyle.core.hidden import Facet, Hidden
from peristyle.core.lengths import Format
from peristyle.core.outlines import bounds
from peristyle.core.planes import Point
from peristyle.drawing.apart import FaceKind, Standing, bodies, standing
from peristyle.drawing.eye import Eye, View, view_of
from peristyle.drawing.shapes import Pick
from peristyle.planning.plan import Plan
from peristyle.wood.looks import Surface
from peristyle.words.corners import told

_AT_ONCE: Final = 400  # of more faces the order takes a tenth of a second or more
_MOST_SORTED: Final = 1600  # of more faces each body is drawn as a whole, the farther ones first


class Face(Struct, frozen=True):
    """One face, or the part of one that is left of it, in view coordinates (mm, x right, y up), lit by `light` 0-1.

    `source` is the stretch of board that the `whole` face wears, empty for plain wood; `lines[i]` is whether the edge
    from point i is the face's own.
    """

    kind: FaceKind
    points: tuple[Point, ...]
    light: float
    source: tuple[Point, ...] = ()
    pick: Pick | None = None
    plane: Surface = "face"
    whole: tuple[Point, ...] = ()
    lines: tuple[bool, ...] = ()
    board: str = ""


_SHADE: Final[dict[FaceKind, float]] = {"inside": 0.86, "floor": 0.86}  # what lies within has less light


class Solid:
    """A plan's box, `share` of the way from together (0) to apart (1), to be seen from any eye."""

    def __init__(self, plan: Plan, share: float = 0.0) -> None:
        self._plan = plan
        self._share = share
        self._faces: list[Standing] | None = None
        self._hidden: Hidden | None = None
        self._half_mm = plan.job.design.form.height_mm / 2

    @property
    def many(self) -> bool:
        """Whether there are so many faces that their order takes longer than a hand waits for."""
        # A piece has four faces and more that lie on no other: of so many pieces they need not be counted.
        sure = self._faces is None and 4 * len(bodies(self._plan, self._share)) > _AT_ONCE
        return sure or len(self._all()) > _AT_ONCE

    def grow(self) -> bool:
        """Go on finding the order of the faces; False once `faces` is quick."""
        hidden = self._sorted()
        return hidden is not None and hidden.grow()

    def faces(self, eye: Eye, *, fine: bool = True) -> list[Face]:
        """The faces that turn to the eye, the hidden before those that hide them. Empty where there is no ring.

        Not `fine`, for what moves, bodies are drawn one after the other, the farther ones first: nearly always right.
        """
        if not self._plan.ring.stands:
            return []
        view = view_of(self._plan, eye, 1.0 + 0.55 * self._share)
        hidden = self._sorted() if fine else None
        if hidden is None:
            return self._roughly(view)
        found, all_of = [], self._all()
        whole: dict[int, tuple[Point, ...]] = {}
        for facet in hidden.from_back(lambda normal, point: view.faces_eye(normal, *point)):
            face = all_of[facet.number]
            if view.faces_eye(facet.normal, *face.points[0]):
                if facet.number not in whole:
                    whole[facet.number] = view.points(face.points)
                found.append(_seen(face, facet, view, whole[facet.number]))
        return found

    def _all(self) -> list[Standing]:
        if self._faces is None:
            self._faces = [face for body in standing(self._plan, self._share) for face in body]
        return self._faces

    def _sorted(self) -> Hidden | None:
        """The order of all faces, begun when first asked for; None where there are too many."""
        if self._hidden is None and len(self._all()) <= _MOST_SORTED:
            self._hidden = Hidden([
                Facet(face.points, face.normal, i, (face.lit is None,) * len(face.points), face.layer)
                for i, face in enumerate(self._all())
            ])  # fmt: skip
        return self._hidden

    def _roughly(self, view: View) -> list[Face]:
        found: list[tuple[float, list[Face]]] = []
        for body in standing(self._plan, self._share, lambda normal, point: view.faces_eye(normal, *point)):
            if body:
                points = [p for face in body for p in face.points]
                middle = [sum(axis) / len(points) for axis in zip(*points, strict=True)]
                # Whatever lies flat near the foot of the box has all else standing on it.
                lies = body[0].kind == "floor" and body[0].normal[2] > 0.99 and middle[2] < self._half_mm
                deep = math.inf if lies else view.deep(*middle)
                found.append((deep, [_seen(face, None, view) for face in body]))
        found.sort(key=lambda one: -one[0])
        return [face for _deep, faces in found for face in faces]


def _seen(face: Standing, part: Facet | None, view: View, whole: tuple[Point, ...] = ()) -> Face:
    if part is None:
        points, lines = view.points(face.points), (face.lit is None,) * len(face.points)
    else:
        points, lines = whole if part.points is face.points else view.points(part.points), part.lines
    light = view.light(face.lit or face.normal) * _SHADE.get(face.kind, 1.0)
    return Face(
        face.kind, points, light, face.source, face.pick, face.plane, whole or points, lines, face.board
    )


def solid_words(plan: Plan, fmt: Format) -> str:
    """The box in a sentence: sides, sizes, lid, keys."""
    ring, job = plan.ring, plan.job
    if not ring.sides:
        return "No box to show yet: the ring cannot be made."
    x0, y0, x1, y1 = bounds(ring.outer_bottom)
    parts = [
        f"{job.design.name}: {len(ring.sides)} sides, {fmt.length(x1 - x0)} × {fmt.length(y1 - y0)} × "
        f"{fmt.length(job.design.form.height_mm, unit=True)} outside"
    ]
    leans = sorted({round(side.slope_deg, 2) for side in ring.sides} - {0.0})
    if leans:
        parts.append("leaning " + " and ".join(fmt.angle(lean) for lean in leans[:3]))
    if plan.section.lid:
        parts.append(f"the lid {fmt.length(plan.section.lid.lid_mm)} high")
    if plan.keys.keys or plan.splines.splines or plan.corner_blocks.blocks:
        parts.append(f"at its corners {told(plan)}")
    return ", ".join(parts) + "."
