"""Leaves of a lining as solids in the box: between the walls, clear of each other, as large as their step tells."""

import itertools

import pytest

from peristyle.core.lengths import Format
from peristyle.model.addresses import applied
from peristyle.model.design import CornerBlocks, Dividers, Flat, Liner, Opening, Regular
from peristyle.model.job import revised
from peristyle.planning.plan import Plan, plan
from peristyle.words.steps import how
from support.edged import BOX
from support.solids import placed

LINED = revised(BOX, lining_mm=3.0)
BOXES = [
    {},
    {"lid": None, "top": None},
    {"shape": Regular(6, 120.0), "slopes_deg": (10.0,)},
    {"shape": Regular(5, 130.0), "slopes_deg": (-7.0,)},
    {"liner": Liner(height_mm=66.0, thickness_mm=5.0)},
    {"lid": None, "top": None, "cover": Flat(), "cloth_mm": 0.0},
    {"lining_mm": 0.6},
]


def leaves(made: Plan) -> dict[str, tuple[float, ...]]:
    return {piece.id: piece.size_mm for piece in made.pieces if piece.part == "lining"}


@pytest.mark.parametrize("changes", BOXES)
def test_leaves_lie_in_no_wood_and_not_in_each_other(changes: dict[str, object]) -> None:
    made = plan(revised(LINED, **changes))  # type: ignore[typeddict-item]
    solids = [
        (piece.part, piece.id, placed(piece))
        for piece in made.pieces
        if piece.part in ("lining", "side", "liner", "panel")
    ]
    own = [row for row in solids if row[0] == "lining"]
    assert len(own) > len(made.ring.sides)
    for (_p, name, one), (part, other, two) in itertools.product(own, solids):
        if name < other or part != "lining":
            assert (one ^ two).volume() < 1.0, f"{name} in {other}"


def test_sizes_are_the_inside_less_lining_and_cloth() -> None:
    """Inside 216 × 136: the floor less the cloth, walls between their neighbours' fronts. Source: sums."""
    found = leaves(plan(LINED))
    assert found["lining.floor"] == pytest.approx((216.0 - 1.0, 136.0 - 1.0))
    assert found["lining.A"] == pytest.approx((216.0 - 6.0 - 1.0, 67.0 - 12.0 - 3.0 - 1.0))
    assert found["lining.B"][0] == pytest.approx(136.0 - 6.0 - 1.0)


def test_the_step_tells_every_size_and_the_cloth() -> None:
    made = plan(LINED)
    told = {step.operation: how(step, Format("mm")) for step in made.steps}
    assert (
        "floor, under the lid 215 × 135\u202fmm; A, C 209 × 51\u202fmm; B, D 129 × 51\u202fmm"
        in told["lining"]
    )
    assert "A, C in the lid 209 × 13.9\u202fmm" in told["lining"]
    assert "floor, under the lid 245 × 165\u202fmm" in told["lining_cover"]


@pytest.mark.parametrize(
    ("changes", "code"),
    [
        ({"dividers": Dividers()}, "lining_meets"), ({"corner_blocks": CornerBlocks()}, "lining_meets"),
        ({"openings": (Opening(),)}, "lining_over_opening"),
    ],
)  # fmt: skip
def test_what_stands_in_the_leaves_way_is_said(changes: dict[str, object], code: str) -> None:
    job = revised(LINED, **changes)  # type: ignore[typeddict-item]
    found = next(finding for finding in plan(job).findings if finding.code == code)
    for fix in found.fixes:
        assert code not in {f.code for f in plan(applied(job, fix.changes)).findings}


def test_cloth_alone_has_no_leaves_under_it() -> None:
    made = plan(revised(BOX, lining_mm=0.6))
    assert {piece.stock for piece in made.pieces if piece.part == "lining"} == {"cloth"}
    assert "lining_cover" not in {step.operation for step in made.steps}
    assert leaves(made)["lining.floor"] == pytest.approx((216.0, 136.0))
