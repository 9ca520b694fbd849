"""Where hinges and magnets lie along the rims."""

from msgspec import Struct

from peristyle.core.planes import Slab
from peristyle.model.design import Design, Flat, Hinges, Magnets
from peristyle.planning.form.ring import RingPlan
from peristyle.planning.section.levels import SectionPlan


class Spot(Struct, frozen=True):
    """One hinge or pair of magnets: from where to where along its side, from its start at the bottom edge (mm)."""

    number: int
    side: int
    begins_mm: float
    ends_mm: float

    @property
    def middle_mm(self) -> float:
        """Its middle along the side."""
        return (self.begins_mm + self.ends_mm) / 2


def side_of(design: Design, part: Hinges | Magnets) -> int:
    """The side they are on: the one across from the front for hinges, the front for magnets, if nothing is said."""
    count, front = design.side_count, design.form.front
    if part.side is not None:
        return min(part.side, count - 1)
    return (front + count // 2) % count if isinstance(part, Hinges) else front


def legs(design: Design, ring: RingPlan, section: SectionPlan, own: Hinges) -> tuple[Spot, ...]:
    """Where the legs of quadrants lie along the sides beside the hinged one; none of other hinges."""
    rims = rims_of(design, section)
    if own.pattern != "quadrant" or rims is None:
        return ()
    before, after = leg_sides(design, own)
    start, end = run_at(ring, before, rims.body_mm)[1], run_at(ring, after, rims.body_mm)[0]
    return Spot(1, before, start - own.leg_mm, start), Spot(2, after, end, end + own.leg_mm)


class Rims(Struct, frozen=True):
    """Where body and lid meet: the levels of both rims as the box is glued, and how much wood lies under and over them
    (mm); `board` is how thick the lid is where it is a board on the rim, 0 where it is sawn free.
    """

    body_mm: float
    lid_mm: float
    under_mm: float
    over_mm: float
    board_mm: float = 0.0

    @property
    def least_mm(self) -> float:
        """The lower of what lies under and over them."""
        return min(self.under_mm, self.over_mm)

    @property
    def lower(self) -> str:
        """Which of the two has less wood: the lid or the body."""
        return "lid" if self.over_mm < self.under_mm else "body"


def rims_of(design: Design, section: SectionPlan) -> Rims | None:
    """The two rims of a lid that is sawn free, or of a flat one; None of any other."""
    lid, cover = section.lid, design.section.cover
    if lid is not None and lid.body_mm > 0:
        return Rims(lid.lost_low_mm, lid.lost_high_mm, lid.body_mm, lid.lid_mm)
    groove = section.groove("lid")
    if isinstance(cover, Flat) and groove is not None:
        level = groove.rests_mm
        return Rims(level, level, level, cover.thickness_mm, cover.thickness_mm)
    return None


def spots(design: Design, ring: RingPlan, section: SectionPlan, part: Hinges | Magnets) -> tuple[Spot, ...]:
    """Where they lie: the outer ones as far in as asked, at the rim, those between evenly; quadrants in the corners."""
    rims = rims_of(design, section)
    if rims is None or not ring.stands:
        return ()
    index = side_of(design, part)
    start, end = run_at(ring, index, rims.body_mm)
    long = part.along_mm if isinstance(part, Hinges) else part.wide_mm
    if isinstance(part, Hinges) and part.pattern == "quadrant":
        near, far = start + part.leg_in_mm, end - part.leg_in_mm
        return Spot(1, index, near, near + long), Spot(2, index, far - long, far)
    first = start + part.inset_mm - (0.0 if isinstance(part, Hinges) else long / 2)
    last = end - part.inset_mm - (long if isinstance(part, Hinges) else long / 2)
    if part.count == 1:
        first = last = (start + end - long) / 2
    step = (last - first) / max(1, part.count - 1)
    return tuple(
        Spot(number + 1, index, first + number * step, first + number * step + long)
        for number in range(part.count)
    )


def run_at(ring: RingPlan, index: int, level: float) -> tuple[float, float]:
    """From where to where a side's show face reaches at a level, from the start of its bottom edge."""
    side = ring.sides[index]
    up = level / ring.slabs[index].cos_slope
    (ax, _ay), (bx, _by), (cx, cy), (dx, dy) = side.outer_face
    return ax + (dx - ax) * up / dy, bx + (cx - bx) * up / cy


def leg_sides(design: Design, own: Hinges) -> tuple[int, int]:
    """The sides in which the legs of two quadrants lie: before the hinged one, and after it."""
    count, side = design.side_count, side_of(design, own)
    return (side - 1) % count, (side + 1) % count


def bevel_down_mm(slab: Slab, in_mm: float, over_mm: float, way: float) -> float:
    """How far along a side's face from its rim the bevel behind a concealed hinge reaches (mm): level and rise alike
    from the axis, `in_mm` in from the face of the body's rim; the rim lies `over_mm` over that, its wood `way` of it.
    """
    tan = slab.sin_slope / slab.cos_slope
    # Out from the axis by t at t from the rim: where the face is, t = in + tan·(over + way·t).
    t = (in_mm + tan * over_mm) / (1.0 - tan * way)
    return t / slab.cos_slope
