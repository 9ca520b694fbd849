"""Boxes put together step by step as solids: nothing stands where the next part has to pass."""

import random

import pytest
from msgspec.structs import replace

from peristyle.model.design import Dividers, Fillets, Hinges, Lid, Liner, Panel, Tray
from peristyle.model.job import Job, revised
from peristyle.planning.plan import plan
from peristyle.words import step_texts
from support import hung, hung_boxes, pairs
from support.plain import BOX as PLAIN
from support.put_in import met_on_the_way, put_together
from support.solids import placed

BOX = revised(PLAIN, top=Panel(), lid=Lid())


@pytest.mark.parametrize("seed", range(3))
def test_what_goes_in_meets_nothing(seed: int) -> None:
    count, wrong = put_together(seed, 150)
    assert count["put together"] > 15
    assert not wrong, wrong[:5]


def test_a_wrong_order_is_found_out(monkeypatch: pytest.MonkeyPatch) -> None:
    """Fillets glued in before what they come over, and dividers slotted from above dropped over the others."""
    made = plan(
        revised(BOX, dividers=Dividers(across=2, along=1, height_mm=30.0), fillets=Fillets(height_mm=6.0))
    )
    assert not list(met_on_the_way(made))
    names = {step.operation: step for step in made.steps}
    early = [step for step in made.steps if step.operation != "fillet_glue"]
    early.insert(early.index(names["divider_fit"]), names["fillet_glue"])
    assert any("meets fillet" in met for met in met_on_the_way(made, early))
    monkeypatch.setitem(step_texts.SAYS, "divider_fit.crossing", "From the top: those along first.")
    assert any("meets divider" in met for met in met_on_the_way(made))


def test_a_liner_that_leans_out_over_the_rim_is_refused() -> None:
    """Wider at its top than the lid's own rim: the lid comes down over it only with room for the wedge."""
    job = revised(BOX, slopes_deg=(8.0,), liner=Liner(height_mm=66.0, gap_mm=0.2))
    made = plan(job)
    (found,) = [one for one in made.findings if one.code == "lip_wedges"]
    assert any("meets liner" in met for met in met_on_the_way(made))
    for fix in found.fixes:
        mended = plan(revised(job, liner=replace(job.design.inside.liner, **_changed(fix))))  # type: ignore[type-var]
        assert not any("meets liner" in met for met in met_on_the_way(mended)), fix


def _hinged(chance: random.Random) -> Job:
    """A lid on hinges over a liner's lip and a tray, on rings of all kinds."""
    own = chance.choice((hung_boxes.BARRELS, hung_boxes.QUADRANTS, Hinges(inset_mm=40.0, screw_mm=4.0)))
    high = chance.uniform(60.0, 78.0)
    liner = Liner(height_mm=high, gap_mm=chance.choice((0.2, 1.0)))
    tray = Tray(height_mm=chance.choice((8.0, 16.0))) if chance.random() < 0.4 else None
    return revised(
        pairs.BASE, height_mm=120.0, liner=liner, tray=tray, hinges=own, **chance.choice(pairs.RINGS)
    )


@pytest.mark.parametrize("seed", range(3))
def test_a_hinged_lid_clears_what_stands_out_or_it_is_told(seed: int) -> None:
    chance, swung, told = random.Random(seed), 0, 0
    for _ in range(40):
        made = plan(_hinged(chance))
        if not made.buildable:
            continue
        _body, lid = hung.halves(made)
        inside = [placed(piece) for piece in made.pieces if piece.part in ("liner", "tray")]
        degrees = (0.02, 0.5, 1.0, 2.0, 4.0, 8.0, 15.0, 30.0, 60.0)
        met = max(
            (lid.transform(hung.turned(made, one)) ^ still).volume() for one in degrees for still in inside
        )
        said = any(finding.code == "hinge_lip_binds" for finding in made.findings)
        assert said or met < 1.0, (made.job.design, met)
        swung, told = swung + 1, told + said
    assert swung > 5
    assert told < swung


def _changed(fix: object) -> dict[str, float]:
    ((address, value),) = fix.changes  # type: ignore[attr-defined]
    return {address.removeprefix("inside.liner."): value}
