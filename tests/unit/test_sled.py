"""The sled: its screws and cuts against the blade as a solid of its own; carried out or refused."""

import json
import math
import random
from pathlib import Path

import numpy as np
import pytest

from peristyle.cli import main
from peristyle.core.errors import PeristyleError
from peristyle.core.lengths import Format
from peristyle.drawing.sled import sled_drawing
from peristyle.model.design import Outline, Panel, Rectangle, Regular, replace
from peristyle.model.job import Job, SledTable
from peristyle.planning.plan import plan
from peristyle.planning.sled import Sled, sled
from peristyle.storage import examples, files
from peristyle.words import sled as words
from support import fits


def with_table(job: Job, **sizes: object) -> Job:
    return replace(job, shop=replace(job.shop, table=SledTable(**sizes)))  # type: ignore[arg-type]


def blade(made: Sled, tilt: float) -> np.ndarray:
    """Points of the blade's near face, as far as it rises for a tilt, the steepest one's height; from the table up."""
    lean = math.tan(math.radians(tilt)) * (1 if made.over else -1)
    z = np.linspace(0.0, made.numbers["needed_mm"] * math.cos(math.radians(made.tilts_deg[0])), 400)
    return np.column_stack([lean * z, z])


def clear(made: Sled) -> float:
    """How near any screw of runner or fence comes to the blade (mm)."""
    base, found = made.numbers["base_mm"], []
    for screws, low, high in (
        (made.fence_screws, 0.0, base + 25.0), (made.runner_screws, -made.numbers["runner_mm"], base),
    ):  # fmt: skip
        for x, _y in screws:
            z = np.linspace(low, high, 300)
            shank = np.column_stack([np.full_like(z, x - 2.5), z])
            for tilt in made.tilts_deg:
                apart = shank[:, None, :] - blade(made, tilt)[None, :, :]
                found.append(float(np.hypot(apart[..., 0], apart[..., 1]).min()))
    return min(found)


@pytest.mark.parametrize("seed", range(12))
def test_no_screw_comes_near_the_blade_and_everything_has_room(seed: int) -> None:
    chance = random.Random(seed)
    shape = chance.choice([Rectangle(240.0, 130.0), Regular(chance.choice([3, 5, 6, 8, 12]), 90.0)])
    job = fits.box(shape, bottom=Panel())
    if chance.random() < 0.4:
        job = replace(
            job,
            design=replace(job.design, form=replace(job.design.form, slopes_deg=(chance.uniform(5, 20),))),
        )
    job = with_table(
        job, slot_mm=chance.uniform(40, 180), slot_side=chance.choice(["away", "under"]),
        blade_high_mm=chance.uniform(25, 90), base_mm=chance.choice([9.0, 12.0, 18.0]),
    )  # fmt: skip
    made = plan(job)
    try:
        found = sled(made)
    except PeristyleError as error:
        assert "shop.table" in str(error) or "nothing to do" in str(error) or "sled for each" in str(error)
        return
    assert clear(found) >= 10.0 - 0.02
    n, tilt = found.numbers, math.radians(found.tilts_deg[0])
    longest = max(piece.length_mm for piece in made.pieces if piece.id.startswith("side."))
    assert n["longest_mm"] == pytest.approx(longest)
    assert n["fence_mm"] >= longest + 55.0
    # The whole of the cut, kerf and all, is within what stands past the line.
    away = 0.0 if found.over else math.tan(tilt)
    assert n["spare_mm"] >= n["base_mm"] * away + 5.0 / math.cos(tilt)
    assert n["past_mm"] >= n["needed_mm"] * math.sin(tilt) * (0 if found.over else 1) + 5.0 / math.cos(tilt)
    assert n["needed_mm"] <= job.shop.table.blade_high_mm + 1e-9
    assert n["needed_mm"] * math.cos(tilt) == pytest.approx(
        n["base_mm"] + max(job.design.form.thicknesses_mm) + 3.0
    )
    for _x, y in (*found.fence_screws, *found.runner_screws):
        assert 0 < y < n["depth_mm"]
    assert all(x < n["wide_mm"] for x, _y in (*found.fence_screws, *found.runner_screws))
    assert len(sled_drawing(found, Format("mm")).shapes) > 15
    told = " ".join(words.steps(found, Format("in")))
    assert "{" not in told
    assert ("swings" in told) == (found.swing_deg > 0.005)


def test_several_tilts_have_a_strip_each_and_no_screw_in_it() -> None:
    job = fits.box(Outline((200.0, 150.0, None, None), (100.0, 80.0, 105.0, None)))
    found = sled(plan(job))
    assert found.several
    (strips,) = (one for one in found.parts if one.key == "edge")
    assert strips.count == len(found.tilts_deg) >= 2
    assert found.fence_screws[0][0] >= 45.0 + 10.0
    assert "exchanged" in " ".join(words.steps(found, Format("mm")))


def test_what_cannot_be_cut_on_it_is_refused_with_what_to_do(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    path = tmp_path / "box.peristyle"
    files.save(path, with_table(examples.load("Ticket box"), blade_high_mm=20.0))
    assert main(["sled", str(path)]) == 2
    assert "larger blade" in capsys.readouterr().err
    files.save(path, examples.load("Ticket box"))
    assert main(["sled", str(path), "--json"]) == 0
    assert json.loads(capsys.readouterr().out)["tilts_deg"] == [45.0]
    assert main(["sled", str(path), "--pdf", str(tmp_path / "sled.pdf")]) == 0
    assert (tmp_path / "sled.pdf").read_bytes().startswith(b"%PDF")
    assert main(["set", str(path), "shop.table.slot_mm=4 15/16in"]) == 0
    assert files.load(path).job.shop.table.slot_mm == pytest.approx(125.4125)
    job = examples.load("Ticket box")
    shot = replace(job, shop=replace(job.shop, saw=replace(job.shop.saw, kind="miter_saw")))
    with pytest.raises(PeristyleError, match="nothing to do"):
        sled(plan(shot))
