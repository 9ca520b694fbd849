"""Hardware a lid is hung and held by, as measured by the maker; a few usual sizes to begin with (common practice)."""

from typing import Annotated, Literal

from msgspec import Meta, Struct

from peristyle.model.limits import Allowance, Index, Length, Play

HingePattern = Literal["butt", "quadrant", "barrel"]


class Hinges(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """Hinges let into the rims of body and lid along one side.

    `length_mm` along the side, `leaf_mm` from the axis to a leaf's edge, `thick_mm` a leaf, `barrel_mm` the barrel's
    diameter; its axis lies `out_mm` outside the side's face. `screw_mm` is how long the screws are, `screws` how many
    to a leaf. `count` of them, the outer ones `inset_mm` from the side's ends. `side` None is across from the front.

    A `quadrant` is a pair, one at each end of the side: its leaves run on round the corner as legs, `leg_mm` from the
    side's face and `leg_wide_mm` wide, `leg_in_mm` in from the face of the side they lie in; under them lies a slot
    `stay_wide_mm` wide, `stay_mm` deeper than the leaf, for the stay. A `barrel` is concealed: bored `deep_mm` into
    both rims, `barrel_mm` wide, its axis in the joint `in_mm` in from the face.
    """

    pattern: HingePattern = "butt"
    count: Annotated[int, Meta(ge=1, le=12)] = 2
    length_mm: Length = 25.0
    leaf_mm: Length = 9.0
    thick_mm: Length = 1.2
    barrel_mm: Length = 4.0
    out_mm: Play = 1.5
    screw_mm: Length = 9.0
    screws: Annotated[int, Meta(ge=1, le=8)] = 2
    inset_mm: Allowance = 30.0
    side: Index | None = None
    leg_mm: Length = 32.0
    leg_wide_mm: Length = 6.0
    leg_in_mm: Allowance = 2.5
    stay_mm: Allowance = 5.0
    stay_wide_mm: Length = 2.0
    in_mm: Length = 6.0
    deep_mm: Length = 10.0

    @property
    def axis_out_mm(self) -> float:
        """How far outside the side's face the axis lies (mm); inside it, negative, where the hinge is concealed."""
        return -self.in_mm if self.pattern == "barrel" else self.out_mm

    @property
    def along_mm(self) -> float:
        """How much of the side's length one takes (mm)."""
        return self.barrel_mm if self.pattern == "barrel" else self.length_mm


class Magnets(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """Round magnets in pairs, let into the rims of body and lid along one side: `thick_mm` deep and `under_mm` more, so
    that they lie under the rim. The outer ones have their middles `inset_mm` from the side's ends; `side` None is the
    front.
    """

    count: Annotated[int, Meta(ge=1, le=12)] = 2
    wide_mm: Length = 5.0
    thick_mm: Length = 3.0
    under_mm: Annotated[float, Meta(ge=0, le=10)] = 0.2
    inset_mm: Allowance = 20.0
    side: Index | None = None


class Latch(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """Catches screwed to the face of one side over the joint of a lid sawn free, half to the body and half to the lid.

    Each plate is `wide_mm` along the side; it reaches `body_mm` under the joint and `lid_mm` over it, along the face.
    Every half has `screws`, `apart_mm` from each other and halfway up it, `screw_mm` long, bored with `bore_mm`. Let in
    `in_mm` deep; 0 leaves the plates on the face. The outer ones have their middles `inset_mm` from the side's ends;
    one alone is in the middle. `side` None is the front.
    """

    count: Annotated[int, Meta(ge=1, le=4)] = 1
    wide_mm: Length = 18.0
    body_mm: Length = 14.0
    lid_mm: Length = 12.0
    in_mm: Allowance = 0.0
    screws: Annotated[int, Meta(ge=1, le=2)] = 2
    apart_mm: Length = 10.0
    screw_mm: Length = 6.0
    bore_mm: Length = 1.2
    inset_mm: Allowance = 40.0
    side: Index | None = None


class Brackets(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """Brackets bent round every corner: at the `bottom`, at the `top`, or `both`.

    Their leaves reach `long_mm` along both sides and are `high_mm` high along the face; let in `in_mm` deep, 0 leaves
    them on the faces. Every leaf has `screws` in a row halfway up it, `screw_mm` long, bored with `bore_mm`.
    """

    at: Literal["bottom", "top", "both"] = "bottom"
    long_mm: Length = 24.0
    high_mm: Length = 18.0
    in_mm: Allowance = 0.0
    screws: Annotated[int, Meta(ge=1, le=4)] = 2
    screw_mm: Length = 6.0
    bore_mm: Length = 1.2
