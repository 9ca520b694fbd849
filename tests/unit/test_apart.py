"""The box pulled apart: every piece seen, moved clear of the others; outlines clipped as another library does."""

import itertools
import math
import random

import pytest
import shapely
from msgspec.structs import replace

from peristyle.core.outlines import clipped
from peristyle.drawing.apart import _parts, apart_faces
from peristyle.drawing.solid import Eye
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
    sides = [part for piece in made.pieces if piece.part == "side" for part in _parts(made, 0, piece, 1.0)]
    flat = [
        shapely.MultiPoint([(p[0] + s.moved[0], p[1] + s.moved[1]) for p in (*s.outer, *s.inner)]).convex_hull
        for s in sides
        if s.levels[0] == 0.0
    ]
    for a, b in itertools.combinations(flat, 2):
        assert a.distance(b) > 5.0
    together = [part for piece in made.pieces for part in _parts(made, 0, piece, 0.0)]
    assert all(part.moved == (0.0, 0.0, 0.0) for part in together)
    assert sum(face.kind == "show" for face in apart_faces(made, Eye(), 1.0)) >= 2


@pytest.mark.parametrize("seed", range(30))
def test_any_box_comes_apart(seed: int) -> None:
    made = plan(random_design(random.Random(seed)))
    for share in (0.1, 0.5, 1.0):
        faces = apart_faces(made, Eye(), share)
        assert bool(faces) == made.ring.stands
        assert all(math.isfinite(v) for face in faces for point in face.points for v in point)


def test_a_panel_with_tongues_comes_apart() -> None:
    job = examples.load("Filter tray")
    assert job.design.section.bottom is not None
    made = plan(revised(job, bottom=replace(job.design.section.bottom, groove="tongue")))
    assert any(f.kind == "tongue" for piece in made.pieces for f in piece.features)
    assert apart_faces(made, Eye(), 1.0)
    panel = next(step for step in made.steps if step.operation == "panel")
    assert "panel.tongue" in panel.says


def test_a_part_nobody_knows_is_shown_where_it_stands() -> None:
    made = plan(examples.load(examples.FIRST))
    strange = replace(made.pieces[-1], id="foot.1", part="foot")  # type: ignore[arg-type]
    made.__dict__["pieces"] = (*made.pieces, strange)
    assert len(apart_faces(made, Eye(), 1.0)) > 10
