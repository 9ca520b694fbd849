"""Boxes put together step by step as solids: nothing stands where the next part has to pass."""

import pytest
from msgspec.structs import replace

from peristyle.model.design import Dividers, Fillets, Lid, Liner, Panel, Rectangle
from peristyle.model.job import job_of, revised
from peristyle.model.stock import Board
from peristyle.planning.plan import plan
from peristyle.words import step_texts
from support.put_in import met_on_the_way, put_together

BOX = job_of(
    shape=Rectangle(240.0, 160.0), height_mm=90.0, thicknesses_mm=(12.0,), bottom=Panel(), top=Panel(), lid=Lid(),
    board=Board(length_mm=3000.0, width_mm=400.0, thickness_mm=12.0),
)  # fmt: skip


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


def _changed(fix: object) -> dict[str, float]:
    ((address, value),) = fix.changes  # type: ignore[attr-defined]
    return {address.removeprefix("inside.liner."): value}
