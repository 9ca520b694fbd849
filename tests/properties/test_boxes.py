"""Random boxes: what must hold for all of them."""

import math

import pytest
import shapely
from hypothesis import given, settings
from hypothesis import strategies as st

from peristyle.export.planjson import as_data
from peristyle.model.design import Keys, Lid, Outline, Panel, Rectangle, Regular
from peristyle.model.job import Job, job_of, revised
from peristyle.planning.plan import Plan, plan

lengths = st.floats(60, 500)
thin = st.floats(3, 15)
lean = st.floats(-8, 30)


@st.composite
def boxes(draw: st.DrawFn) -> Job:
    shape = draw(st.one_of(
        st.builds(Rectangle, lengths, lengths, st.sampled_from(["inside", "outside"])),
        st.builds(Regular, st.integers(3, 24), lengths,
                  st.sampled_from(["inside", "outside", "across_flats", "across_corners"])),
    ))  # fmt: skip
    return job_of(
        shape=shape,
        height_mm=draw(st.floats(20, 150)),
        thicknesses_mm=(draw(thin),),
        slopes_deg=(draw(lean),),
        bottom=draw(st.none() | st.just(Panel())),
        lid=draw(st.none() | st.just(Lid(height_mm=12.0))),
        keys=draw(st.none() | st.builds(Keys, count=st.integers(1, 6))),
        units=draw(st.sampled_from(["mm", "in"])),
    )


@given(boxes())
@settings(max_examples=150)
def test_every_box_has_a_finite_plan(job: Job) -> None:
    found = plan(job)

    def finite(value: object) -> bool:
        if isinstance(value, float):
            return math.isfinite(value)
        if isinstance(value, dict):
            return all(finite(v) for v in value.values())
        return all(finite(v) for v in value) if isinstance(value, list) else True

    assert finite(as_data(found))
    if not found.ring.sides:
        assert any(f.severity == "stop" for f in found.findings)


@given(boxes())
@settings(max_examples=100)
def test_inside_from_outside_and_back(job: Job) -> None:
    found = plan(job)
    if not found.ring.stands:
        return
    sides = found.ring.sides
    if isinstance(job.design.form.shape, Rectangle):
        there = Rectangle(sides[0].inside_mm or 0, sides[1].inside_mm or 0, "inside")
    else:
        there = Regular(len(sides), sides[0].inside_mm or 0, "inside")
    back = plan(revised(job, shape=there)).ring.sides
    for a, b in zip(sides, back, strict=True):
        assert b.outside_mm == pytest.approx(a.outside_mm, rel=1e-9)


@given(boxes())
@settings(max_examples=100)
def test_the_ring_closes_and_the_panel_lies_in_its_grooves(job: Job) -> None:
    found = plan(job)
    if not found.ring.stands:
        return
    ring = found.ring
    outer, inner = shapely.Polygon(ring.outer_bottom), shapely.Polygon(ring.inner_bottom)
    assert outer.is_valid
    assert outer.contains(inner)
    assert outer.length == pytest.approx(sum(s.outside_mm for s in ring.sides), rel=1e-9)
    for panel in found.section.panels:
        outline = shapely.Polygon(panel.outline)
        groove = job.design.section.bottom
        assert groove is not None
        if not job.design.form.slopes_deg[0]:
            # A general polygon library's mitered offset gives the same panel.
            wanted = inner.buffer(groove.depth_mm - groove.play_mm, join_style="mitre", mitre_limit=50)
            assert outline.symmetric_difference(wanted).area == pytest.approx(0.0, abs=1e-3)


def outline_box(shift: int, mirror: bool) -> Plan:
    """An irregular ring, begun at another side or seen in a mirror."""
    sides: list[tuple[float | None, float | None, float, float]] = [
        (140.0, 100.0, 5.0, 9.0),
        (90.0, 110.0, -3.0, 8.0),
        (120.0, 95.0, 8.0, 7.0),
        (None, 125.0, 0.0, 9.0),
        (None, None, 4.0, 6.0),
    ]
    if mirror:
        corners = [s[1] for s in sides]
        sides = [(s[0], corners[i - 1], s[2], s[3]) for i, s in enumerate(sides)][::-1]
    sides = sides[shift:] + sides[:shift]
    return plan(job_of(
        shape=Outline(tuple(s[0] for s in sides), tuple(s[1] for s in sides)), height_mm=60.0,
        slopes_deg=tuple(s[2] for s in sides), thicknesses_mm=tuple(s[3] for s in sides),
    ))  # fmt: skip


@pytest.mark.parametrize("shift", range(5))
@pytest.mark.parametrize("mirror", [False, True])
def test_turned_or_mirrored_the_pieces_are_the_same(shift: int, mirror: bool) -> None:
    first, other = outline_box(0, False).ring.sides, outline_box(shift, mirror).ring.sides
    assert first
    for index, side in enumerate(first):
        k = (4 - index - shift) % 5 if mirror else (index - shift) % 5
        twin = other[k]
        start, end = (twin.end, twin.start) if mirror else (twin.start, twin.end)
        assert twin.outside_mm == pytest.approx(side.outside_mm, abs=1e-6)
        assert twin.inside_mm == pytest.approx(side.inside_mm, abs=1e-6)
        assert (*start, *end) == pytest.approx((*side.start, *side.end), abs=1e-7)


@given(boxes(), st.floats(0.5, 2.0))
@settings(max_examples=60)
def test_scaled_all_lengths_scale_and_no_angle_changes(job: Job, factor: float) -> None:
    from peristyle.planning.form.slabs import scaled

    larger = scaled(job, factor)
    assert larger is not None
    larger = revised(larger, height_mm=job.design.form.height_mm * factor,
                     thicknesses_mm=tuple(t * factor for t in job.design.form.thicknesses_mm))  # fmt: skip
    for a, b in zip(plan(job).ring.sides, plan(larger).ring.sides, strict=True):
        assert b.outside_mm == pytest.approx(a.outside_mm * factor, rel=1e-9)
        assert (*b.start, *b.end) == pytest.approx((*a.start, *a.end), abs=1e-9)
