"""Fillets and trays as solids in the box: against the walls, on what they lie on, out through the mouth."""

import itertools

import manifold3d
import pytest

from peristyle.model.addresses import applied
from peristyle.model.design import Tray, replace
from peristyle.model.job import revised
from peristyle.planning.plan import Plan, plan
from support import inner_rings
from support.bench import wrongly_made
from support.solids import in_box, solid


def wood(made: Plan, *parts: str) -> manifold3d.Manifold:
    """The pieces of some parts, or of those ids, as they lie in the box."""
    found = [in_box(p, solid(p)) for p in made.pieces if p.part in parts or p.id in parts]
    return manifold3d.Manifold.batch_boolean(found, manifold3d.OpType.Add)


@pytest.mark.parametrize("changes", inner_rings.SHOWN)
def test_rings_within_the_box_are_made_and_lie_where_they_should(changes: dict[str, object]) -> None:
    made = plan(revised(inner_rings.BOX, **changes))  # type: ignore[typeddict-item]
    assert made.buildable, [f.code for f in made.findings if f.severity == "stop"]
    assert not wrongly_made(made)
    ids = ("side", "liner", "fillet")
    parts = [part for part in ids if any(p.part == part for p in made.pieces)]
    for one, other in itertools.combinations(parts, 2):
        assert (wood(made, one) ^ wood(made, other)).volume() < 1e-2
    if (
        made.job.design.inside.fillets is not None
    ):  # glued to the wall all round: moved out a hair, it is in it
        out = wood(made, "fillet").scale([1.001, 1.001, 1.0])
        assert (out ^ wood(made, "side")).volume() > 1.0
    if made.job.design.inside.tray is None:
        return
    tray, held = wood(made, "tray", "panel.tray"), wood(made, *parts)
    body = held.trim_by_plane([0.0, 0.0, -1.0], -(made.section.lid.lost_low_mm if made.section.lid else 1e3))
    assert (tray ^ body).volume() < 1e-2
    assert (tray.translate([0.0, 0.0, -0.1]) ^ body).volume() > 1.0  # it lies on something, all round
    for up in range(1, 60, 3):  # lifted out, it meets nothing
        assert (tray.translate([0.0, 0.0, float(up)]) ^ body).volume() < 1e-2


def test_a_tray_too_wide_for_the_mouth_is_met() -> None:
    box = revised(inner_rings.BOX, **inner_rings.SHOWN[3])
    made = plan(revised(box, tray=replace(box.design.inside.tray or Tray(), gap_mm=0.5)))
    tray, body = wood(made, "tray"), wood(made, "side")
    lid = made.section.lid
    assert lid is not None
    body = body.trim_by_plane([0.0, 0.0, -1.0], -lid.lost_low_mm)
    assert any((tray.translate([0.0, 0.0, float(up)]) ^ body).volume() > 1.0 for up in range(0, 40, 3))


@pytest.mark.parametrize(("changes", "code"), inner_rings.PROVOKED)
def test_what_is_wrong_is_said_and_mended(changes: dict[str, object], code: str) -> None:
    job = revised(inner_rings.BOX, **changes)  # type: ignore[typeddict-item]
    found = next(finding for finding in plan(job).findings if finding.code == code)
    for fix in found.fixes:
        assert code not in {f.code for f in plan(applied(job, fix.changes)).findings}, fix
