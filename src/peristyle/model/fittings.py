"""What is set on a box or let into it from outside: inlays, handles, knobs, pulls."""

from typing import Annotated, Literal

from msgspec import Meta, Struct

from peristyle.model.limits import Allowance, Length

On = Literal["top", "front"]
Shift = Annotated[float, Meta(ge=-2000, le=2000)]


class Inlay(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """A piece let into the lid's or the top's upper face, or into the front: its middle `along_mm` and `across_mm` off
    the face's own. The pocket is `pocket_mm` deep, less than the inlay is thick, so that it is planed flush. `round`
    ones are as wide as they are long.
    """

    on: On = "top"
    round: bool = False
    length_mm: Length = 60.0
    width_mm: Length = 30.0
    thickness_mm: Length = 3.0
    pocket_mm: Length = 2.0
    along_mm: Shift = 0.0
    across_mm: Shift = 0.0


class Handle(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """What the lid is lifted or drawn by: a `wedge` of what the bevels cut off, `length_mm` long and glued on; a `knob`
    with one screw; a `pull` with two, `apart_mm` from each other.

    Holes of `bore_mm` for screws `screw_mm` long, of which `bites_mm` hold in the knob; `washer_mm` is how thick a
    washer is.
    """

    kind: Literal["wedge", "knob", "pull"] = "knob"
    on: On = "top"
    length_mm: Length = 60.0
    apart_mm: Length = 64.0
    bore_mm: Length = 4.0
    screw_mm: Length = 20.0
    bites_mm: Length = 8.0
    washer_mm: Allowance = 1.0
