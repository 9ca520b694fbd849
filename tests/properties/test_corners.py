"""Strengthened corners as solids: keys fill their slots, splines their grooves, nothing is where it must not be."""

import pytest

from peristyle.model.job import Job, revised
from peristyle.model.tools import Bit
from peristyle.planning.plan import plan
from support import bench, corners, glued


@pytest.mark.parametrize("seed", range(0, 60, 2))
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
