"""The box pulled apart: every piece seen, moved clear of the others; outlines clipped as another library does."""

import itertools
import math
import random
from collections.abc import Sequence

import pytest
import shapely
from msgspec.structs import replace

from peristyle.core.outlines import bounds, clipped
from peristyle.core.planes import Vector
from peristyle.drawing.apart import parts, standing
from peristyle.drawing.eye import Eye, View, view_of
from peristyle.drawing.solid import Solid
from peristyle.model.job import revised
from peristyle.planning.plan import plan
from peristyle.storage import examples
from support.designs import random_design


@pytest.mark.parametrize("seed", range(60))
def test_an_outline_clipped_by_another(seed: int) -> None:
    chance = random.Random(seed)

    def convex() -> list[tuple[float, float]]:
        cx, cy, r = chance.uniform(-1, 1), chance.uniform(-1, 1), chance.uniform(0.5, 2)
        angles = sorted(chance.uniform(0, 2 * math.pi) for _ in range(chance.randint(3, 7)))
        points = [(cx + r * math.cos(a), cy + r * math.sin(a)) for a in angles]
        return points if chance.random() < 0.5 else points[::-1]

    one, window = convex(), convex()
    wanted = shapely.Polygon(one).intersection(shapely.Polygon(window)).area
    made = clipped(one, window)
    assert (shapely.Polygon(made).area if len(made) > 2 else 0.0) == pytest.approx(wanted, abs=1e-9)


@pytest.mark.parametrize("name", examples.names())
def test_sides_move_clear_of_each_other(name: str) -> None:
    made = plan(examples.load(name))
    sides = [part for piece in made.pieces if piece.part == "side" for part in parts(made, 0, piece, 1.0)]
    flat = [
        shapely.MultiPoint([p[:2] for p in (*s.outer, *s.inner)]).convex_hull
        for s in sides
        if min(y for _x, y in s.show) < 1e-9  # not the lid of it
    ]
    for a, b in itertools.combinations(flat, 2):
        assert a.distance(b) > 5.0
    together = [part for piece in made.pieces for part in parts(made, 0, piece, 0.0)]
    assert all(part.place is part.piece.place for part in together)
    assert sum(face.kind == "show" for face in Solid(made, 1.0).faces(Eye())) >= 2


@pytest.mark.parametrize("seed", range(30))
def test_any_box_comes_apart(seed: int) -> None:
    made = plan(random_design(random.Random(seed)))
    for share in (0.0, 0.5, 1.0):
        faces = Solid(made, share).faces(Eye())
        assert bool(faces) == made.ring.stands
        assert all(math.isfinite(v) for face in faces for point in face.points for v in point)


def test_a_panel_with_tongues_comes_apart() -> None:
    job = examples.load("Filter tray")
    assert job.design.section.bottom is not None
    made = plan(revised(job, bottom=replace(job.design.section.bottom, groove="tongue")))
    assert any(f.kind == "tongue" for piece in made.pieces for f in piece.features)
    assert Solid(made, 1.0).faces(Eye())
    panel = next(step for step in made.steps if step.operation == "panel")
    assert "panel.tongue" in panel.says


def test_a_part_nobody_knows_is_shown_where_it_stands() -> None:
    made = plan(examples.load(examples.FIRST))
    strange = replace(made.pieces[-1], id="foot.1", part="foot")  # type: ignore[arg-type]
    made.__dict__["pieces"] = (*made.pieces, strange)
    assert len(Solid(made, 1.0).faces(Eye())) > 10


@pytest.mark.parametrize("left", [(), ((0.0, 0.0), (20.0, 0.0), (0.0, 20.0))])
def test_a_piece_of_which_a_face_is_gone_is_drawn_as_far_as_it_is_there(
    left: tuple[tuple[float, float], ...],
) -> None:
    """Slopes of a gable can take all of a hopeless side's inside away: met by random hands, it ended the window."""
    made = plan(examples.load(examples.FIRST))
    side = next(n for n, piece in enumerate(made.pieces) if piece.part == "side")
    gone = replace(made.pieces[side], inside_face=left, features=())
    made.__dict__["pieces"] = (*made.pieces[:side], gone, *made.pieces[side + 1 :])
    for share, fine in itertools.product((0.0, 1.0), (False, True)):
        assert len(Solid(made, share).faces(Eye(), fine=fine)) > 8


@pytest.mark.parametrize("seed", range(12))
def test_what_is_seen_is_what_a_ray_from_the_eye_meets_first(seed: int) -> None:
    """Against rays: whichever face lies nearest along the line of sight is the last one drawn there."""
    chance = random.Random(seed)
    made = plan(examples.load(chance.choice(examples.names())) if seed % 3 else random_design(chance))
    eye = Eye(chance.uniform(-180, 180), chance.uniform(5, 80))
    share = chance.choice((0.0, 0.3, 1.0))
    faces = Solid(made, share).faces(eye)
    if not faces:
        return
    view = view_of(made, eye, 1.0 + 0.55 * share)
    bodies = [face for body in standing(made, share) for face in body]
    seen = [face for face in bodies if view.faces_eye(face.normal, *face.points[0])]
    flat = [(shapely.Polygon([view.point(*p) for p in face.points]), face) for face in seen]
    drawn = [(shapely.Polygon(face.points), face) for face in faces]
    x0, y0, x1, y1 = bounds([p for face in faces for p in face.points])
    met = 0
    for _ in range(120):
        spot = shapely.Point(chance.uniform(x0, x1), chance.uniform(y0, y1))
        if any(abs(polygon.exterior.distance(spot)) < 0.2 for polygon, _face in (*flat, *drawn)):
            continue  # too near an outline to say
        hit = [(_depth(face.points, view, spot), face) for polygon, face in flat if polygon.contains(spot)]
        on_top = [face for polygon, face in drawn if polygon.contains(spot)]
        assert bool(hit) == bool(on_top)
        if not hit:
            continue
        met += 1
        nearest = min(deep for deep, _face in hit)
        allowed = {(face.kind, face.pick) for deep, face in hit if deep < nearest + 1e-3}
        assert (on_top[-1].kind, on_top[-1].pick) in allowed
    assert met > 5


def _depth(points: Sequence[Vector], view: View, spot: shapely.Point) -> float:
    """How deep a face lies where a line of sight meets it, by halving: fractions of its corners that appear there."""
    a, b, c = (points[len(points) * k // 3] for k in range(3))  # well apart, of a circle too

    def at(u: float, v: float) -> Vector:
        x, y, z = (p + (q - p) * u + (r - p) * v for p, q, r in zip(a, b, c, strict=True))
        return (x, y, z)

    u = v = 0.3
    for _ in range(30):  # Newton's method: the perspective is mild
        (x, y), (xu, yu), (xv, yv) = (
            view.point(*at(u, v)),
            view.point(*at(u + 1e-6, v)),
            view.point(*at(u, v + 1e-6)),
        )
        xu, yu, xv, yv = (xu - x) * 1e6, (yu - y) * 1e6, (xv - x) * 1e6, (yv - y) * 1e6
        det = xu * yv - xv * yu
        dx, dy = spot.x - x, spot.y - y
        u, v = u + (dx * yv - dy * xv) / det, v + (dy * xu - dx * yu) / det
    return view.deep(*at(u, v))
