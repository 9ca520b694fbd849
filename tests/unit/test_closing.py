"""Rings of sides and corners in which some values are left open."""

import math

import pytest

from peristyle.core.closing import close_ring
from peristyle.core.errors import ShapeError
from peristyle.model.design import Outline
from peristyle.model.job import job_of
from peristyle.planning.plan import plan
from support.telling import button, told, with_fix


@pytest.mark.parametrize(
    ("lengths", "angles", "want_lengths", "want_angles"),
    [
        ([120, 80, None, None], [90] * 4, [120, 80, 120, 80], [90] * 4),
        # 3-4-5: the right angle lies between 3 and 4 (Euclid I.48).
        (
            [3, 4, 5],
            [None] * 3,
            [3, 4, 5],
            [90, math.degrees(math.acos(4 / 5)), math.degrees(math.acos(3 / 5))],
        ),
        ([100, None, None], [60, 60, None], [100, 100, 100], [60, 60, 60]),
        ([120, 80, 130, None], [90, None, None, 90], [120, 80, 130, 30], None),
        ([100] * 7, [128.571] * 7, [100] * 7, [180 - 360 / 7] * 7),
    ],
)
def test_works_out_what_is_open(lengths, angles, want_lengths, want_angles) -> None:  # type: ignore[no-untyped-def]
    ring = close_ring(lengths, angles)
    assert ring.lengths_mm == pytest.approx(want_lengths, abs=1e-6)
    if want_angles:
        assert ring.interiors_deg == pytest.approx(want_angles, abs=1e-6)


@pytest.mark.parametrize(
    ("lengths", "angles", "code", "words"),
    [
        (
            [120, 80, 120, 81],
            [90] * 4,
            "outline_open",
            "Side B cannot be 80\u202fmm: it would have to be 81\u202fmm",
        ),
        ([120, 80, 120, 80], [90, 90, 90, 95], "outline_open", "cannot be 95°: it would have to be 90°"),
        ([120, 80, 110, 85], [90] * 4, "outline_open", "would have to be 120\u202fmm and 80\u202fmm"),
        ([1, 1, 100], [None] * 3, "outline_open", "do not settle"),
        ([1, None, None, 2], [None, None, 90, 90], "outline_unknowns", "Give 1 more"),
        ([None] * 3, [60] * 3, "outline_unknowns", "length of one side"),
        ([80] * 4, [90, 90, 200, 90], "outline_concave", "convex"),
    ],
)
def test_says_what_cannot_be(lengths, angles, code: str, words: str) -> None:  # type: ignore[no-untyped-def]
    with pytest.raises(ShapeError) as caught:
        close_ring(lengths, angles)
    assert caught.value.code == code
    (finding,) = plan(job_of(shape=Outline(tuple(lengths), tuple(angles)))).findings
    assert finding.code == code
    assert words in told(finding)


def test_a_ring_with_too_little_known_is_filled_in() -> None:
    shape = Outline((210.0, 140.0, None, 95.0, None), (95.0, 100.0, 110.0, None, None))
    bare = plan(job_of(shape=shape))
    (finding,) = [f for f in bare.findings if f.code == "outline_unknowns"]
    assert button(finding.fixes[0]) == "Fill in what is missing"
    filled = plan(with_fix(bare.job, finding.fixes[0]))
    assert filled.ring.stands
    made = filled.job.design.form.shape
    assert isinstance(made, Outline)
    assert (made.lengths_mm[0], made.lengths_mm[3], made.interiors_deg[2]) == (210.0, 95.0, 110.0)
    nothing = plan(job_of(shape=Outline((None,) * 5, (None,) * 5)))
    assert plan(with_fix(nothing.job, nothing.findings[0].fixes[0])).ring.stands
