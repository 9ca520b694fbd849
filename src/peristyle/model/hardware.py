"""Hardware a lid is hung and held by, as measured by the maker; a few usual sizes to begin with (common practice)."""

from typing import Annotated

from msgspec import Meta, Struct

from peristyle.model.limits import Allowance, Index, Length, Play


class Hinges(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """Butt hinges let into the rims of body and lid along one side.

    `length_mm` along the side, `leaf_mm` from the axis to a leaf's edge, `thick_mm` a leaf, `barrel_mm` the barrel's
    diameter; its axis lies `out_mm` outside the side's face. `screw_mm` is how long the screws are, `screws` how many
    to a leaf. `count` of them, the outer ones `inset_mm` from the side's ends. `side` None is across from the front.
    """

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
