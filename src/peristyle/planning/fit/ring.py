"""The ring as rigid sides in plan, half way up: each with its length, its thickness and the angles of its ends."""

import math
from collections.abc import Sequence
from typing import NamedTuple

from msgspec import Struct

from peristyle.core.planes import EndCut, Slab
from peristyle.planning.form.ring import RingPlan, SidePlan
from peristyle.planning.form.roof import EAVES, from_ridge_mm
from peristyle.planning.making.setting import End


class Made(NamedTuple):
    """A side as it came out, its ends as they are cut; `length_mm` is outside, along the bottom edge."""

    length_mm: float
    thickness_mm: float
    start: EndCut
    end: EndCut


class Level(NamedTuple):
    """A side cut through level: its outer edge from (0, 0) to (length, 0), its wood to the left of that.

    `start_rad` and `end_rad` are the angles between that edge and the end's face, within the wood. A leaf of a roof
    that lies on its walls meets the wall with its inside face instead: `eaves`, so far along it from the ridge.
    """

    length_mm: float
    start_rad: float
    end_rad: float
    wall_mm: float
    eaves: tuple[End, float] | None = None

    def joins(self, end: End) -> tuple[float, float]:
        """Where its joint begins outside: at its own corner, or at the wall's that it lies on."""
        if self.eaves is None or self.eaves[0] != end:
            return (0.0, 0.0) if end == "start" else (self.length_mm, 0.0)
        from_ridge = self.eaves[1]
        return (self.length_mm - from_ridge if end == "start" else from_ridge, self.wall_mm)

    def joint_rad(self, end: End) -> float:
        """The angle between the outer edge and the joint, within the wood: 0 where the inside face lies on a wall."""
        if self.eaves is not None and self.eaves[0] == end:
            return 0.0
        return self.start_rad if end == "start" else self.end_rad

    def face_mm(self, end: End) -> float:
        """How long an end's face is from its outer to its inner arris; without end where it lies on a wall."""
        angle = self.joint_rad(end)
        return self.wall_mm / math.sin(angle) if angle else math.inf


class Joint(Struct, frozen=True):
    """How two sides meet: the gap between their outer and their inner arrises, square to the joint (mm), and how far
    the second one's outer arris lies in from the first one's, along the joint. Below 0 they would have to overlap.

    `slope_mm` is how much more the joint is open at the top edge than at the bottom one: what closes it is twist.
    """

    outside_mm: float = 0.0
    inside_mm: float = 0.0
    step_mm: float = 0.0
    slope_mm: float = 0.0

    @property
    def widest_mm(self) -> float:
        """The most it is open, or would overlap (mm)."""
        return max(abs(self.outside_mm), abs(self.inside_mm), abs(self.step_mm))


def plan_angle_rad(slab: Slab, cut: EndCut) -> float:
    """The angle between a side's outer edge and an end's face, as a level cut shows it.

    Source: two planes. The cut holds the line across the show face, swung by its miter, and goes into the wood at its
    bevel, square to that line; of its directions the level one is looked for.
    """
    miter, bevel = math.radians(cut.miter_deg), math.radians(cut.bevel_deg)
    # In the side's own frame: out along it at this end, up the face, into the wood.
    across = (math.sin(miter), math.cos(miter), 0.0)
    into = (-math.sin(bevel) * math.cos(miter), math.sin(bevel) * math.sin(miter), math.cos(bevel))
    rise = [v[1] * slab.cos_slope + v[2] * slab.sin_slope for v in (across, into)]
    share = -rise[1] / rise[0]
    out, up, deep = (share * a + b for a, b in zip(across, into, strict=True))
    return math.atan2(deep * slab.cos_slope - up * slab.sin_slope, -out)


def planned(side: SidePlan) -> Made:
    """A side as it is planned."""
    return Made(side.outside_mm, side.thickness_mm, side.start, side.end)


def at_middle(slab: Slab, slant_mm: float, made: Made) -> Level:
    """A side cut through level half way up."""
    grows = math.tan(math.radians(made.start.miter_deg)) + math.tan(math.radians(made.end.miter_deg))
    return Level(
        made.length_mm + slant_mm / 2 * grows,
        plan_angle_rad(slab, made.start),
        plan_angle_rad(slab, made.end),
        made.thickness_mm / slab.cos_slope,
    )


def levels_of(ring: RingPlan, made: Sequence[Made]) -> list[Level]:
    """Every side cut through level half way up."""
    levels = [
        at_middle(slab, side.slant_mm, one)
        for slab, side, one in zip(ring.slabs, ring.sides, made, strict=True)
    ]
    for leaf, eaves in _eaves_of(ring).items():
        levels[leaf] = levels[leaf]._replace(eaves=eaves)
    return levels


def lies_on_wall(ring: RingPlan, index: int, end: str) -> bool:
    """Whether an end is one of the eaves of a roof laid on its walls: what it is cut at closes no joint."""
    corner = ring.corners[index if end == "end" else index - 1]
    return corner.lapped and EAVES[corner.index][1] == index


def _eaves_of(ring: RingPlan) -> dict[int, tuple[End, float]]:
    """Of a roof laid on its walls every leaf's eaves: how far from the ridge it meets the wall, level half way up.

    It is laid there with the ridge closed: a leaf that is longer only runs out further.
    """
    if not any(corner.lapped for corner in ring.corners):
        return {}
    far = from_ridge_mm(ring.slabs, ring.height_mm / 2, inner=False)
    return {leaf: ("start" if leaf > wall else "end", far[leaf]) for wall, leaf in EAVES.values()}


def slopes_mm(ring: RingPlan, made: Sequence[Made]) -> list[float]:
    """How much more each corner's joint is open at the top than at the bottom, from what the swings are off."""
    found = []
    for index, side in enumerate(ring.sides):
        after = (index + 1) % len(ring.sides)
        second = ring.sides[after]
        off = sum(
            meant - cut
            for of, end, meant, cut in (
                (index, "end", side.end.miter_deg, made[index].end.miter_deg),
                (after, "start", second.start.miter_deg, made[after].start.miter_deg),
            )
            if not lies_on_wall(ring, of, end)
        )
        # Too little swing leaves wood away at the top: it opens there.
        found.append(math.radians(off) * (side.slant_mm + second.slant_mm) / 2)
    return found
