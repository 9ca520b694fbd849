"""Things packed into one block in three directions: what was cut from a block goes back into one."""

import itertools
import random
from collections import Counter

import manifold3d
import pytest

from peristyle.core.lengths import Format
from peristyle.model.addresses import applied
from peristyle.model.design import Liner, Rectangle, Thing, Together
from peristyle.model.job import Job, revised
from peristyle.planning.inside.together import Size, packed_together
from peristyle.planning.plan import Plan, plan
from peristyle.words.contents import contents_in_words
from support.edged import BOX
from support.solids import placed


def thing(name: str, count: int, *size: float) -> Thing:
    long, wide, high = size
    return Thing(
        name=name, count=count, length_mm=long, width_mm=wide, height_mm=high, made=True, play_mm=1.0
    )


# Weights in sizes that together fill 7 × 3 × 2 units of 18 mm.
WEIGHTS = (thing("small", 6, 18, 18, 18), thing("bar", 6, 36, 18, 18), thing("slab", 4, 36, 36, 18),
           thing("cube", 1, 36, 36, 36))  # fmt: skip


def holding(*things: Thing, high_mm: float = 0.0) -> Job:
    return revised(BOX, contents=things, together=Together(high_mm=high_mm))


def blocks(made: Plan) -> list[manifold3d.Manifold]:
    return [placed(piece) for piece in made.pieces if piece.part == "block"]


def cut_up(seed: int) -> tuple[Size, Counter[Size]]:
    """A block sawn into 6 to 24 pieces at random, on a unit of its own."""
    chance = random.Random(seed)
    unit = chance.choice([5.0, 6.35, 18.0])
    whole = [chance.randint(2, 6) for _ in range(3)]
    pieces, most = [tuple(whole)], chance.randint(6, 24)
    while len(pieces) < most:
        pieces.sort(key=lambda p: p[0] * p[1] * p[2])
        largest = list(pieces.pop())
        axis = max(range(3), key=lambda i: largest[i])
        if largest[axis] < 2:
            pieces.append(tuple(largest))
            break
        at = chance.randint(1, largest[axis] - 1)
        pieces += [tuple(size if i != axis else part for i, size in enumerate(largest))
                   for part in (at, largest[axis] - at)]  # fmt: skip
    sizes = [tuple(chance.sample([v * unit for v in p], 3)) for p in pieces]
    a, b, c = (v * unit for v in whole)
    return (a, b, c), Counter((s[0], s[1], s[2]) for s in sizes)


@pytest.mark.parametrize("seed", range(30))
def test_what_was_cut_from_a_block_fills_one_again(seed: int) -> None:
    whole, kinds = cut_up(seed)
    found = packed_together(tuple(kinds.items()))
    assert found is not None
    assert found.full
    assert found.size[0] * found.size[1] * found.size[2] == pytest.approx(whole[0] * whole[1] * whole[2])
    solids = []
    for one in found.stood:
        size = one.turned(list(kinds)[one.kind])
        solids.append(manifold3d.Manifold.cube(size).translate(one.at))
    assert len(solids) == sum(kinds.values())
    together = manifold3d.Manifold.batch_boolean(solids, manifold3d.OpType.Add)
    assert together.volume() == pytest.approx(whole[0] * whole[1] * whole[2], rel=1e-6)
    assert together.bounding_box()[3:] == pytest.approx(found.size, abs=1e-6)


def test_a_puzzle_that_is_hard_by_hand() -> None:
    """Six of 1 × 2 × 4, six of 2 × 2 × 3 and five of 1 fill a cube of 5 (a known puzzle, from memory)."""
    found = packed_together((((1.0, 2.0, 4.0), 6), ((2.0, 2.0, 3.0), 6), ((1.0, 1.0, 1.0), 5)))
    assert found is not None
    assert found.full
    assert found.size == pytest.approx((5.0, 5.0, 5.0))


def test_the_box_fits_them_and_they_lie_clear_of_each_other() -> None:
    made = plan(holding(*WEIGHTS))
    assert (made.contents.length_mm, made.contents.width_mm) == pytest.approx((127.0, 55.0))
    solids = blocks(made)
    assert len(solids) == 17
    assert max((a ^ b).volume() for a, b in itertools.combinations(solids, 2)) < 1e-3
    whole = manifold3d.Manifold.batch_boolean(solids, manifold3d.OpType.Add)
    assert whole.volume() == pytest.approx(42 * 18**3, rel=1e-9)
    wood = manifold3d.Manifold.batch_boolean(
        [placed(piece) for piece in made.pieces if piece.part in ("side", "panel")], manifold3d.OpType.Add
    )
    assert (whole ^ wood).volume() < 1e-3
    told = contents_in_words(made, Format("mm"))
    assert told[-2:] == ["Packed: on the floor 3 bar, 1 cube, 4 slab", "Packed: 18\u202fmm up 3 bar, 6 small"]


def test_no_higher_than_is_said() -> None:
    bricks = thing("brick", 24, 30, 20, 10)
    assert plan(holding(bricks)).contents.height_mm == 40.0
    made = plan(holding(bricks, high_mm=20.0))
    assert made.contents.height_mm <= 20.0
    assert made.contents.length_mm * made.contents.width_mm > 24 * 30 * 20 / 2


def test_what_cannot_be_packed_is_said_and_stands_beside() -> None:
    many = holding(thing("block", 25, 30, 20, 10))
    ball = revised(holding(thing("block", 2, 30, 20, 10)), contents=(Thing(round=True, length_mm=20.0, width_mm=20.0,
                                                                         height_mm=20.0),))  # fmt: skip
    tall = holding(thing("block", 2, 30, 20, 10), high_mm=5.0)
    for job in (many, ball, tall):
        made = plan(job)
        found = next(finding for finding in made.findings if finding.code == "no_way_together")
        assert made.contents.blocks[0].spots_mm
        mended = plan(applied(job, found.fixes[0].changes))
        assert "no_way_together" not in {finding.code for finding in mended.findings}


def test_a_liner_takes_them_too() -> None:
    made = plan(revised(holding(*WEIGHTS), shape=Rectangle(200.0, 100.0), liner=Liner(height_mm=40.0)))
    assert made.liner is not None
    liner = [placed(piece) for piece in made.pieces if piece.part == "liner"]
    assert max((a ^ b).volume() for a in liner for b in blocks(made)) < 1e-3


@pytest.mark.parametrize("size", [(60.0, 60.0, 60.0), (120.0, 60.0, 30.0), (180.0, 40.0, 30.0)])
def test_a_block_that_is_named_is_the_one_that_is_packed(size: tuple[float, float, float]) -> None:
    long, wide, high = size
    cut = (((long / 2, wide, high / 3), 4), ((long / 2, wide / 2, high / 3), 4))
    found = packed_together(cut, high, (wide, long))
    assert found is not None
    assert (sorted(found.size[:2]), found.size[2], found.full) == (sorted((long, wide)), high, True)
    assert packed_together(cut, high, (wide, long + 7.0)) is None
