"""Hardware kept in the shop: named once, taken for any box, in files, addresses and the maker's own tools."""

from pathlib import Path

import pytest

from peristyle.cli import main
from peristyle.core.errors import PeristyleError
from peristyle.model import addresses, hardware_edits
from peristyle.model.design import Brackets, Hinges
from peristyle.model.job import Job, revised
from peristyle.storage import files, toolbox
from support.hung_boxes import BOX, QUADRANTS


def kept() -> Job:
    """A box with quadrants, kept under a name."""
    return hardware_edits.keep(revised(BOX, hinges=QUADRANTS), "hinges", "Brass 32")


def test_what_is_kept_is_taken_and_stays_where_it_was() -> None:
    job = kept()
    assert hardware_edits.way(job, "hinges") == "kept:Brass 32"
    assert hardware_edits.to_keep(job) == ["magnets"]
    other = revised(job, hinges=Hinges(count=3, side=1, inset_mm=12.0))
    assert hardware_edits.way(other, "hinges") == "butt"
    taken = hardware_edits.with_way(other, "hinges", "kept:Brass 32").design.section.hinges
    assert taken is not None
    assert (taken.count, taken.side, taken.inset_mm) == (3, 1, 12.0)
    assert (taken.pattern, taken.leg_wide_mm, taken.length_mm) == ("quadrant", 5.0, 32.0)


def test_it_goes_through_files_and_addresses(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    path = tmp_path / "box.peristyle"
    files.save(path, kept())
    assert main(["set", str(path), "section.hinges=no", "shop.hardware=2", "shop.hardware.2.what=brackets",
                 "shop.hardware.2.name=Small brackets", "shop.hardware.2.long_mm=15"]) == 0  # fmt: skip
    assert (
        main(
            ["set", str(path), "section.hinges=yes", "section.hinges.side=b", "section.hinges.kept=Brass 32"]
        )
        == 0
    )
    assert main(["set", str(path), "section.brackets=yes", "section.brackets.kept=Small brackets"]) == 0
    section = files.load(path).job.design.section
    assert section.hinges is not None
    assert (section.hinges.pattern, section.hinges.side) == ("quadrant", 1)
    assert section.brackets == Brackets(long_mm=15.0)
    capsys.readouterr()
    assert main(["get", str(path), "section.hinges.kept"]) == 0
    assert "Brass 32" in capsys.readouterr().out
    with pytest.raises(PeristyleError, match="not kept as hinges in the shop: Brass 32"):
        addresses.put(kept(), "section.hinges.kept", "Silver")


def test_it_is_among_the_makers_own(tmp_path: Path) -> None:
    toolbox.save(tmp_path, kept().shop)
    loaded = toolbox.load(tmp_path)
    assert loaded is not None
    assert [one.name for one in loaded.hardware] == ["Brass 32"]
    assert loaded.hardware[0].part == QUADRANTS
