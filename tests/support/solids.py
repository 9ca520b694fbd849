"""Pieces as solids, made of nothing but their faces, features and places, by a general solid-geometry library."""

import manifold3d
import numpy as np

from peristyle.planning.making.piece import Feature, Piece


def whole(piece: Piece) -> manifold3d.Manifold:
    """The piece without its features, in its own frame: both faces are convex."""
    points = [[x, y, 0.0] for x, y in piece.show_face]
    points += [[x, y, piece.thickness_mm] for x, y in piece.inside_face]
    return manifold3d.Manifold.hull_points(np.array(points))


def swept(feature: Feature, piece: Piece, past: float = 0.0) -> manifold3d.Manifold:
    """What a feature takes, in the piece's own frame; a key's slot `past` the faces by a share, as a saw goes."""
    if feature.ends:
        ends = [np.array(end) for end in feature.ends]
        if past and feature.kind == "slot":
            feet = [(end[1] + end[2]) / 2 for end in ends]  # the middle of the floor
            ends = [foot + (end - foot) * (1.0 + past) for foot, end in zip(feet, ends, strict=True)]
        return manifold3d.Manifold.hull_points(np.concatenate(ends))
    if feature.outline:
        through = manifold3d.CrossSection([[list(p) for p in feature.flat]]).extrude(feature.depth_mm)
        return (
            through
            if feature.face == "show"
            else through.translate([0, 0, piece.thickness_mm - feature.depth_mm])
        )
    (x0, y0), (x1, y1) = feature.path
    run = float(np.hypot(x1 - x0, y1 - y0))
    along = np.array([x1 - x0, y1 - y0, 0.0]) / run
    left = np.array([-along[1], along[0], 0.0])
    show = feature.face == "show"
    into = np.array([0.0, 0.0, 1.0 if show else -1.0])
    start = np.array([x0, y0, 0.0 if show else piece.thickness_mm])
    points = [list(p) for p in feature.profile]
    section = manifold3d.CrossSection([points])
    if section.area() <= 0:
        section = manifold3d.CrossSection([points[::-1]])
    return section.extrude(run).transform(np.column_stack([left, into, along, start]))


def solid(piece: Piece, *, without: tuple[str, ...] = ()) -> manifold3d.Manifold:
    """The piece with its features cut, in its own frame; `without` leaves out kinds of features."""
    made = whole(piece)
    for feature in piece.features:
        if feature.kind not in without:
            made -= swept(feature, piece, 0.05)
            made.num_tri()  # cut now, one after another: put off and done together they lead the library astray
    return made


def placed(piece: Piece, *, without: tuple[str, ...] = ()) -> manifold3d.Manifold:
    """The piece where it belongs in the box."""
    return in_box(piece, solid(piece, without=without))


def in_box(piece: Piece, made: manifold3d.Manifold) -> manifold3d.Manifold:
    """A solid of the piece's own frame, moved to where the piece stands."""
    place = piece.place
    return made.transform(np.column_stack([place.x, place.y, place.z, place.origin]))
