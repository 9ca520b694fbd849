"""Files of version 1 open, as they were written, and say what is wrong where the maker finds it."""

import json
from pathlib import Path

import pytest

from peristyle.model.design import replace
from peristyle.storage import codec, examples, migrations

OLD = Path(__file__).parents[1] / "data" / "version-1"


@pytest.mark.parametrize("file", sorted(OLD.glob("*.peristyle")), ids=lambda path: path.stem)
def test_the_boxes_of_version_1_open_as_they_were(file: Path) -> None:
    data = file.read_bytes()
    flat = json.loads(data)["design"]
    job = codec.decode(data, file.name)
    assert job == replace(examples.load(flat["name"]), log=(), progress=())
    assert job.shop.saw.kerf_mm == flat["board"]["kerf_mm"]
    assert json.loads(codec.encode(job))["version"] == codec.VERSION


def test_faults_of_version_1_are_named_where_they_stand() -> None:
    raw = json.loads((OLD / "ticket-box.peristyle").read_bytes())
    flat = raw["design"]
    flat["board"] |= {"kerf_mm": -1, "width_mm": 0, "grain": "?"}
    flat["contents"] = [{"height_mm": "x", "length_mm": 1, "width_mm": 1}]
    flat["colour"] = "red"
    flat["front"], flat["closing_corner"] = 400, 77
    with pytest.raises(codec.FileError) as caught:
        codec.decode(json.dumps(raw).encode(), "box")
    for path in ("board.kerf_mm", "board.width_mm", "board.grain", "contents.0.height_mm", "colour", "front"):
        assert f"design.{path}:" in str(caught.value)
    assert "job." not in str(caught.value)
    assert migrations.path_in_1("job.stock.closing_corner") == "design.closing_corner"


@pytest.mark.parametrize("design", [None, [], 7, {}, {"board": 3, "saw": 4, "shape": None}])
def test_what_is_no_design_is_refused(design: object) -> None:
    data = json.dumps({"format": codec.FORMAT, "version": 1, "design": design}).encode()
    with pytest.raises(codec.FileError, match="cannot be used"):
        codec.decode(data, "box")
