"""Profiles along the edges of a box: chamfers, round-overs, coves, ogees, by the size of the bit."""

from typing import Annotated, Literal

from msgspec import Meta, Struct

from peristyle.model.limits import LEAST_MM

ProfileKind = Literal["chamfer", "round_over", "cove", "ogee"]
EdgeName = Literal["bottom_edge", "top_edge", "lid_edges", "rim_edge"]
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
