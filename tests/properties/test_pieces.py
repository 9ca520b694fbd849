"""Pieces as solids in their places: the ring closes, panels lie in their grooves, dividers in dadoes, keys in wood."""

import itertools
import math
import random

import manifold3d
import pytest

from peristyle.model.design import Panel, replace
from peristyle.model.job import revised
from peristyle.planning.making.piece import Piece
from peristyle.planning.plan import Plan, plan
from support.designs import random_design
from support.solids import in_box, placed, whole


def buildable(seed: int) -> Plan | None:
    """A box whose pieces can be made; one with panels in leaning sides as often as not."""
    chance = random.Random(seed)
    for _ in range(120):
        job = random_design(chance)
        if job.design.side_count > 12:
            continue
        if chance.random() < 0.5:
            ways = [chance.choice(["level", "square", "tongue"]) for _ in range(2)]
            job = revised(
                job, bottom=Panel(depth_mm=3.0, groove=ways[0]), top=Panel(depth_mm=3.0, groove=ways[1])
            )
        made = plan(job)
        geometric = [f for f in made.findings if f.severity == "stop" and f.place.kind != "board"]
        if made.pieces and not geometric:
            return made
    return None


def of(made: Plan, *parts: str) -> list[Piece]:
    return [piece for piece in made.pieces if piece.part in parts]


def overlap(a: manifold3d.Manifold, b: manifold3d.Manifold) -> float:
    return (a ^ b).volume()


@pytest.mark.parametrize("seed", range(40))
def test_pieces_in_their_places(seed: int) -> None:
    made = buildable(seed)
    assert made is not None
    assert len({piece.id for piece in made.pieces}) == len(made.pieces)
    walls = of(made, "side")
    wood = sum(whole(piece).volume() for piece in walls)
    tiny = 1e-6 * wood
    # The ring closes: as much wood joined as apart, and none of it twice.
    stood = [in_box(piece, whole(piece)) for piece in walls]
    for a, b in itertools.pairwise([*stood, stood[0]]):
        assert overlap(a, b) <= tiny
    cut = {piece.id: placed(piece, without=("lid_kerf", "slot", "edge")) for piece in made.pieces}
    holders = of(made, "side", "liner")
    for piece in of(made, "panel", "divider"):
        for wall in holders if piece.part == "divider" else walls:
            assert overlap(cut[piece.id], cut[wall.id]) <= tiny, (piece.id, wall.id)
    for one, other in itertools.combinations(of(made, "divider"), 2):
        assert overlap(cut[one.id], cut[other.id]) <= tiny, (one.id, other.id)
    # Keys lie in wood alone, and in their slots.
    joined = manifold3d.Manifold.batch_boolean(stood, manifold3d.OpType.Add)
    slotted = [placed(piece, without=("lid_kerf", "groove", "dado")) for piece in walls]
    for key in of(made, "key")[:8]:
        own = placed(key)
        assert own.volume() - overlap(own, joined) <= 1e-5 * own.volume() + 1e-6, key.id
        assert sum(overlap(own, wall) for wall in slotted) <= 1e-5 * own.volume() + 1e-6, key.id
    for piece in made.pieces:
        place = piece.place
        for axis in (place.x, place.y, place.z):
            assert math.isclose(sum(v * v for v in axis), 1.0)
        assert place.back(place.of((1.0, 2.0, 3.0))) == pytest.approx((1.0, 2.0, 3.0))


def test_a_planted_fault_is_caught() -> None:
    made = buildable(3)
    assert made is not None
    piece = of(made, "side")[0]
    place = piece.place
    moved = replace(
        piece, place=replace(place, origin=(place.origin[0] + 0.2, place.origin[1] + 0.2, place.origin[2]))
    )
    stood = [in_box(p, whole(p)) for p in (moved, *of(made, "side")[1:])]
    wood = sum(solid.volume() for solid in stood)
    assert max(overlap(a, b) for a, b in itertools.pairwise([*stood, stood[0]])) > 1e-6 * wood
