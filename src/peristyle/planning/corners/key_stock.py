"""What keys are cut from: the strip, how many it gives, and whether a jig or a saw in the hand is the quicker."""

import math
from collections.abc import Sequence
from typing import Final, NamedTuple

from peristyle.model.job import Job
from peristyle.planning.corners.keys import KeyPlan
from peristyle.planning.cutters import cutter

PROUD_MM: Final = 3.0  # how far a key is left to stand out until it is flushed (common practice)
LEAST_FACE_MM: Final = 1.0  # what is left of a dovetail bar's narrow face (our rule)
VENEER_PROUD_MM: Final = 2.0  # the same of one of veneer, cut with scissors


class Cutting(NamedTuple):
    """One strip that gives a kind of keys: its width and length, the longest key's base with what is trimmed, how far
    along the strip each takes, what stands proud, how far off square the strip is cut (degrees), and a dovetail bar's
    narrow face.
    """

    strip_wide_mm: float
    strip_mm: float
    longest_mm: float
    per_mm: float
    trim_mm: float
    cut_deg: float
    narrow_mm: float = 0.0


def cutting_of(job: Job, keys: Sequence[KeyPlan]) -> Cutting:
    """The strip for keys of one kind. Triangles lie head to foot along it, a kerf between them; a dovetail bar is cut
    square; both stand proud of the corner until they are flushed.

    n triangles of base b take (n + 1)·b/2 + (n + 1)·k/cos(θ/2) of a strip as wide as they are high: neighbours share
    a slanting cut, θ/2 off square. Source: plane geometry.
    """
    kind = keys[0].kind
    proud = VENEER_PROUD_MM if kind == "veneer" else PROUD_MM
    kerf = 0.0 if kind == "veneer" else cutter(job, "rip").least_mm
    widest = max(keys, key=lambda key: key.depth_mm)
    half = math.radians(max(key.angle_deg for key in keys) / 2)
    # A key in a tipped slot is the larger on one of its faces.
    deeper = max(key.thickness_mm / 2 * abs(math.tan(math.radians(key.tip_deg))) for key in keys)
    if kind == "dovetail":
        lengths = [key.base_mm + 2 * (proud + deeper * math.tan(half)) for key in keys]
        whole = math.fsum(lengths) + kerf * (len(keys) - 1)
        # Both cheeks lean on to what stands proud: no further than a narrow face is left.
        tan = math.tan(math.radians(widest.flare_deg))
        over = min(proud, max(0.0, (widest.face_mm - LEAST_FACE_MM) / 2 / tan - deeper)) if tan else proud
        high = widest.depth_mm + deeper + over
        narrow = widest.thickness_mm - 2 * high * tan
        return Cutting(high, whole, max(lengths), max(lengths) + kerf, over, 0.0, narrow)
    high = widest.depth_mm + deeper + proud  # bigger all round by what stands proud at the arris
    base = 2 * high * math.tan(half)
    slanted = kerf / math.cos(half)
    per = base / 2 + slanted
    return Cutting(high, (len(keys) + 1) * per, base, per, proud, math.degrees(half))


def strip_for(count: int, cutting: Cutting) -> float:
    """How long a strip (mm) so many of the longest keys of a kind take, those of several boxes too."""
    if cutting.cut_deg == 0.0:
        return count * cutting.per_mm - (cutting.per_mm - cutting.longest_mm)
    return (count + 1) * cutting.per_mm


def from_strip(strip_mm: float, cutting: Cutting) -> int:
    """How many keys a strip of that length gives."""
    if cutting.cut_deg == 0.0:
        kerf = cutting.per_mm - cutting.longest_mm
        return int((strip_mm + kerf) / cutting.per_mm + 1e-9)
    return max(0, int(strip_mm / cutting.per_mm + 1e-9) - 1)


class Times(NamedTuple):
    """Minutes for all slots of so many boxes, in the cradle and by hand; and from how many boxes on the cradle is the
    quicker, 0 where it never is.
    """

    jig_min: float
    hand_min: float
    boxes_from: int


def times_of(job: Job, settings: int, slots: int, boxes: int = 1) -> Times:
    """The cradle against the saw in the hand, by the maker's own times."""
    own = job.shop.times
    jig = own.cradle_min + settings * own.setting_min + boxes * slots * own.slot_min
    hand = boxes * slots * own.hand_slot_min
    saved = slots * (own.hand_slot_min - own.slot_min)
    first = own.cradle_min + settings * own.setting_min
    return Times(jig, hand, math.ceil(first / saved + 1e-9) if saved > 0 else 0)
