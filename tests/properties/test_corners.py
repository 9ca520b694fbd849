"""Strengthened corners as solids: keys fill their slots, splines their grooves, nothing is where it must not be."""

import random

import manifold3d
import pytest

from peristyle.model.design import Panel, Regular, Segments
from peristyle.model.job import Job, Saw, job_of, revised
from peristyle.model.tools import Bit
from peristyle.planning.corners import keys
from peristyle.planning.plan import plan
from support import bench, corners, glued, small_parts
from support.designs import random_design
from support.solids import in_box, placed, swept


@pytest.mark.parametrize("seed", range(0, 60, 4))
def test_keys_splines_and_blocks_are_as_told(seed: int) -> None:
    """The large count is scripts/proof's."""
    assert not corners.wrong_corners(seed)


def _with_bit(job: Job) -> Job:
    """The job with a bit for its dovetails."""
    bits = tuple(
        Bit(name=f"Dovetail {n}", cuts="dovetail", width_mm=keys.thickness_mm, angle_deg=keys.angle_deg)
        for n, keys in enumerate((job.design.joints.keys, job.design.joints.other_keys))
        if keys is not None and keys.kind == "dovetail"
    )
    return revised(job, tools=(*job.shop.tools, *bits))


def _built(seed: int):  # type: ignore[no-untyped-def]
    """A strengthened box that nothing says stop to, from that seed on."""
    for number in range(seed, seed + 400):
        made = plan(_with_bit(corners.strengthened(number)))
        if made.buildable:
            return made
    raise AssertionError


@pytest.mark.parametrize("seed", [0, 40, 80, 120, 160, 200, 240, 280])
def test_the_steps_cut_slots_and_grooves_as_told(seed: int) -> None:
    made = _built(seed)
    assert not glued.wrongly_glued(made)
    assert not bench.wrongly_made(made)
    assert not small_parts.wrong_parts(made)


@pytest.mark.parametrize("kind", ["key_stock", "key_stock.veneer", "key_stock.dovetail", "corner_block"])
def test_keys_and_blocks_come_off_their_strips_as_told(kind: str) -> None:
    told = []
    for seed in range(0, 2000, 7):
        made = plan(_with_bit(corners.strengthened(seed)))
        if made.buildable and any(step.title == kind for step in made.steps):
            told.append(made)
            assert not small_parts.wrong_parts(made)
        if len(told) == 3:
            break
    wrong = [bench.settings_moved(s, "width", -4.0) if s.title == kind else s for s in told[0].steps]
    if kind != "key_stock.dovetail":  # a bar's figures are held against each other
        assert small_parts.wrong_parts(told[0], wrong)


@pytest.mark.parametrize(
    ("operation", "gauge"),
    [("keys", "tip"), *(("spline_groove", gauge) for gauge in ("fence", "height", "stop"))],
)
def test_one_wrong_setting_is_caught(operation: str, gauge: str) -> None:
    made = next(
        found
        for seed in range(0, 4000, 7)
        if (found := plan(_with_bit(corners.strengthened(seed)))).buildable
        and any(step.operation == operation and any(step.values(gauge)) for step in found.steps)
    )
    wrong = tuple(bench.settings_moved(s, gauge, 0.3) if s.operation == operation else s for s in made.steps)
    assert glued.wrongly_glued(made, wrong) if operation == "keys" else bench.wrongly_made(made, wrong)


@pytest.mark.parametrize("style", ["pie", "ring"])
def test_splines_between_segments_lie_in_their_grooves(style: str) -> None:
    segments = Segments(style=style, ring_mm=30.0, spline_mm=1.5)  # type: ignore[arg-type]
    made = plan(
        job_of(
            shape=Regular(8, 90.0),
            height_mm=80.0,
            thicknesses_mm=(10.0,),
            bottom=Panel(thickness_mm=6.0, segments=segments),
            saw=Saw(kerf_mm=1.5),
        )
    )
    assert made.buildable
    splines = [piece for piece in made.pieces if piece.id.startswith("segment_spline.")]
    cut = [piece for piece in made.pieces if piece.part == "segment"]
    assert len(splines) == len(cut) == 8
    grooves = manifold3d.Manifold.batch_boolean(
        [in_box(piece, swept(feature, piece)) for piece in cut for feature in piece.features],
        manifold3d.OpType.Add,
    )
    for spline in splines:
        assert corners.outside(placed(spline), grooves) < 1e-3
    # The two grooves of a segment do not meet.
    first, second = (swept(feature, cut[0]) for feature in cut[0].features)
    assert (first ^ second).volume() < 1e-6
    order = [step.operation for step in made.steps]
    assert not small_parts.wrong_parts(made)
    assert order.index("segment") < order.index("segment_groove") < order.index("segment_glue")


@pytest.mark.parametrize("seed", [15164, 15244, *range(15000, 15014)])
def test_no_slot_opens_into_anything_unsaid(seed: int) -> None:
    assert not corners.opened_unsaid(seed)


@pytest.mark.parametrize("seed", [31592, 31140, 30499, 40394, 41213])
def test_slices_taken_together_keep_no_less_clear_and_hardly_more(
    seed: int, monkeypatch: pytest.MonkeyPatch
) -> None:
    """Profiles past corners in slices, and a hinge's two bevels, which are slices of nothing (31592)."""

    def spans() -> list[tuple[str, int, float, float]]:
        made = plan(random_design(random.Random(seed)))
        return [
            (out.why, out.corner, out.low_mm, out.high_mm) for one in made.keys.sets for out in one.keep_outs
        ]

    together = spans()
    monkeypatch.setattr(keys, "gathered", lambda cuts: cuts)
    for why, corner, low, high in spans():
        assert any(
            (why, corner) == (w, c) and a <= low + 1e-6 and high <= b + 1e-6 and b - a < high - low + 1.0
            for w, c, a, b in together
        ), (why, corner, low, high)
