"""Profiles along the edges of a box: chamfers, round-overs, coves, ogees, by the size of the bit."""

from typing import Annotated, Final, Literal

from msgspec import Meta, Struct

from peristyle.model.limits import LEAST_MM, Position

ProfileKind = Literal["chamfer", "round_over", "cove", "ogee"]
EdgeName = Literal["bottom_edge", "top_edge", "lid_edges", "rim_edge", "base_edge", "under_edge"]
ProfileSize = Annotated[float, Meta(ge=LEAST_MM, le=50)]


class EdgeProfile(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """What is taken off along an edge: as far in from the face as it reaches along it, `size_mm`, the bit's own.

    A round-over or a cove has that radius; an ogee is a cove and a round-over of half of it.
    """

    kind: ProfileKind = "chamfer"
    size_mm: ProfileSize = 2.0


class OuterEdge(EdgeProfile, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """Along the bottom or the top outside; where a lid is sawn free, cut `before_lid` or `after_lid`."""

    when: Literal["before_lid", "after_lid"] = "after_lid"


MOST_POINTS: Final = 40
MOST_RADIUS_MM: Final = 2000.0
Radius = Annotated[float, Meta(ge=-MOST_RADIUS_MM, le=MOST_RADIUS_MM)]
_Levels = Annotated[tuple[Position, ...], Meta(max_length=MOST_POINTS)]


class Moulding(Struct, frozen=True, forbid_unknown_fields=True, kw_only=True):
    """The section of moulded sides, point by point from the bottom up: `ups_mm` up the show face, `ins_mm` how far in
    from it. What lies below the first and above the last is left as it is.

    `arcs_mm` is the radius with which the line goes on to the next point: 0 straight, over 0 bulging out, under 0
    hollow; those not given are straight.
    """

    ups_mm: _Levels = (10.0, 14.0, 22.0, 26.0)
    ins_mm: _Levels = (0.0, 2.0, 2.0, 0.0)
    arcs_mm: Annotated[tuple[Radius, ...], Meta(max_length=MOST_POINTS)] = ()
