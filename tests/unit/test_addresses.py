"""Addresses: every value named, read and written back; the commands that speak them."""

import json
import random
from pathlib import Path

import pytest

from peristyle.cli import main
from peristyle.core.errors import PeristyleError
from peristyle.model import addresses, fields
from peristyle.model.design import Lid, Outline, Panel, Rectangle, Regular
from peristyle.model.faults import breaches
from peristyle.model.job import Job, job_of, revised
from peristyle.storage import files
from support.designs import random_design


@pytest.mark.parametrize("seed", range(16))
def test_what_is_written_reads_back_the_same(seed: int) -> None:
    job = random_design(random.Random(seed))
    for address in addresses.addresses(job):
        if address.id in ("form.room_mm", "form.body_mm") and address.get(job) <= 0:
            continue  # of a hopeless box: nothing that can be asked for
        text = addresses.written(address, job)
        again = addresses.put(job, address.id, text)
        assert address.get(again) == address.get(job), (address.id, text)
        if ".A." not in address.id:
            assert again == job, (address.id, text)


# Lists of their own, with addresses item by item; what the program itself keeps.
ELSEWHERE = {"stock.board.cut_from"}


def test_every_field_of_every_part_has_its_address() -> None:
    ids = {address.id for address in addresses.every()}
    for head, _name, kind, _words in (*addresses._PARTS, *addresses._ALWAYS):
        missing = [f"{head}.{name}" for name in kind.__struct_fields__ if f"{head}.{name}" not in ids]
        assert [name for name in missing if name not in ELSEWHERE] == []
    assert "shop.saw.kerf_mm" in ids
    rows = [addresses.described(address) for address in addresses.every()]
    assert len({row["address"] for row in rows}) == len(rows)
    assert all(row["words"] and row["unit"] for row in rows)
    assert next(row for row in rows if row["address"] == "shop.saw.kerf_mm")["least"] == 0.1


def box() -> Job:
    return job_of(shape=Rectangle(200.0, 120.0), lid=Lid(), bottom=Panel())


def test_one_side_by_its_letter_and_back_to_one_for_all() -> None:
    job = addresses.put(box(), "sides.C.thickness_mm", "12")
    assert job.design.form.thicknesses_mm == (9.0, 9.0, 12.0, 9.0)
    assert addresses.put(job, "sides.C.thickness_mm", "9").design.form.thicknesses_mm == (9.0,)
    assert addresses.put(box(), "sides.slope_deg", "8; -5; 8; -5").design.form.slopes_deg == (
        8.0,
        -5.0,
        8.0,
        -5.0,
    )
    assert addresses.put(box(), "form.front", "c").design.form.front == 2
    assert addresses.put(box(), "stock.closing_corner", "bc").stock.closing_corner == 1
    octagon = revised(box(), shape=Regular(8, 100.0), front=7, thicknesses_mm=(9.0,) * 7 + (10.0,))
    six = addresses.put(octagon, "form.sides", "6")
    assert not breaches(six)


@pytest.mark.parametrize(
    ("place", "text", "says"),
    [
        ("section.lid.heigth_mm", "30", "section.lid.height_mm"),
        ("section.top.depth_mm", "3", "section.top=yes"),
        ("section.lid.height_mm", "thirty", "section.lid.height_mm"),
        ("section.lid.height_mm", "30000", "at most 20000"),
        ("shop.saw.kerf_mm", "0", "at least 0.1"),
        ("section.lid", "maybe", "neither yes nor no"),
        ("form.measure", "sideways", "not one of"),
        ("form.front", "Q", "A to D"),
        ("stock.closing_corner", "AC", "AB, BC, CD, DA"),
        ("sides.thickness_mm", "", "at least 1"),
        ("", "1", "is no address"),
    ],
)
def test_what_cannot_be_says_what_can(place: str, text: str, says: str) -> None:
    with pytest.raises(PeristyleError, match=says):
        addresses.put(box(), place, text)


def test_set_and_get_on_the_command_line(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    path = tmp_path / "box.peristyle"
    files.save(path, revised(box(), units="in"))
    assert (
        main(["set", str(path), "section.lid.height_mm=1 1/8", "section.top=yes", "section.top.depth_mm=3mm"])
        == 0
    )
    job = files.load(path).job
    assert job.design.section.lid is not None
    assert job.design.section.top is not None
    assert job.design.section.lid.height_mm == pytest.approx(28.575)
    assert job.design.section.top.depth_mm == 3.0
    assert "section.lid.height_mm: " in capsys.readouterr().out
    assert main(["get", str(path), "section.lid.height_mm"]) == 0
    assert capsys.readouterr().out.strip() == "1\u202f⅛\u202fin"
    assert main(["get", str(path), "--json"]) == 0
    assert json.loads(capsys.readouterr().out)["section.lid.height_mm"] == pytest.approx(28.575)
    before = path.read_bytes()
    assert main(["set", str(path), "section.lid.height_mm=2", "form.height_mm=-3"]) == 2
    assert path.read_bytes() == before  # all, or none
    assert "form.height_mm" in capsys.readouterr().err
    assert main(["set", str(path), "nonsense"]) == 2
    assert main(["set", str(path), "sides.thickness_mm=9mm; 9mm"]) == 2
    assert "for 4 sides" in capsys.readouterr().err
    assert main(["set", str(path), "inside.contents=1", "form.length_mm=12"]) == 0
    assert "What it holds gives the ring its size" in capsys.readouterr().out
    assert main(["addresses", "--json"]) == 0
    assert {"address", "words", "unit", "least", "most", "default"} == set(
        json.loads(capsys.readouterr().out)[0]
    )


def test_a_size_of_a_side_that_is_gone_is_simply_not_left_open() -> None:
    """A drawing that is not shown keeps the sizes of a larger ring until it is: dressing them must not stumble."""
    ring = job_of(shape=Outline((90.0, 120.0, None), (None, 90.0, None)))
    assert fields.side_length(2).open(ring)  # type: ignore[misc]
    assert not fields.side_length(5).open(ring)  # type: ignore[misc]
    assert not fields.side_length(5).open(job_of(shape=Regular(8, 60.0)))  # type: ignore[misc]


def test_a_corner_that_would_read_as_none_is_refused() -> None:
    ring = job_of(shape=Outline((160.0, 130.0, None, None), (95.0, 90.0, 82.0, None)))
    field = fields.corner_angle(0)
    assert field.parse(ring, "0.1") == 0.1
    for text in ("0", "0.0001", "179.95"):
        with pytest.raises(PeristyleError, match=r"at least 0\.1° and at most 179\.9°"):
            field.parse(ring, text)
