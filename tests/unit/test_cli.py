"""The command line, as a maker or a script uses it."""

import csv
import json
import subprocess
import sys
from pathlib import Path
from shutil import which

import pytest

from peristyle import cli
from peristyle.export.cells import plain_cells
from peristyle.storage import files
from peristyle.storage.codec import FileError
from support.schemas import check_plan


def run(capsys: pytest.CaptureFixture[str], *words: str) -> tuple[int, str, str]:
    try:
        code = cli.main(list(words))
    except SystemExit as stop:
        code = int(stop.code or 0)
    said = capsys.readouterr()
    return code, said.out, said.err


NEW = (
    ("--rect --inside 186.5x12cm --height 80 --thickness 9", 4),
    ("--sides 8 --across-flats 236 --height 132 --thickness 9 --keys 2 --lid-height 38 --groove-depth 4", 8),
    ("--sides 3 --outside 7in --height 3in --thickness 3/8in --units in --keys 1 --key-leg 1/2", 3),
    ("--sides 24 --inside 2 --height 4 --thickness 1/4 --units in --slope 7.5 --bottom", 24),
    ("--sides 6 --outside 120x80 --height 50 --thickness 6 --method bevel_direct", 6),
    ("--outline 120@90,80@135,?@?,60@? --outside --height 60 --thickness 7 --slopes 5,5,12,0", 4),
    ("--outline 120@90,80@90,120@90,81@90 --inside --height 60 --thicknesses 9,9,12,9", 4),
    ("--rect --outside 300x5 --height 60 --thickness 9", 4),
    (
        "--sides 5 --across-corners 300 --height 60 --thickness 9 --board 400x50x5 --kerf 2.4 --trim 5 --slope -12",
        5,
    ),
)


@pytest.mark.parametrize(("words", "sides"), NEW)
def test_new_then_plan(capsys: pytest.CaptureFixture[str], tmp_path: Path, words: str, sides: int) -> None:
    path = str(tmp_path / "box.peristyle")
    assert run(capsys, "new", path, *words.split())[0] == 0
    code, out, err = run(capsys, "plan", path, "--json")
    assert (code, err) == (0, "")
    data = json.loads(out)
    check_plan(data)
    assert len(data["sides"]) in (0, sides)
    if not data["sides"]:
        assert data["findings"][0]["severity"] == "stop"
    code, out, _err = run(capsys, "plan", path)
    assert code == 0
    assert len(out.splitlines()) > 2
    for option, target in (("--cut-list", "o.csv"), ("--sheet", "o.pdf")):
        assert run(capsys, "export", path, option, str(tmp_path / target))[0] == 0
    assert (tmp_path / "o.pdf").read_bytes().startswith(b"%PDF")
    rows = list(csv.DictReader((tmp_path / "o.csv").read_text().splitlines()))
    made = [piece["id"] for piece in data["pieces"] if piece["part"] == "side"]
    assert len([r for r in rows if r["kind"] == "side"]) == len(made)


@pytest.mark.parametrize(
    ("words", "said"),
    [
        ("new b --sides 2 --inside 10 --height 3", "3 to 360 sides, not 2"),
        ("new b --sides 6 --inside 0 --height 3", "more than 0"),
        ("new b --sides 6 --inside 6_5/ --height 3", "--inside"),
        ("new b --sides 6 --rect --inside 6 --height 3", "shape once"),
        ("new b --sides 6 --height 3", "size once"),
        ("new b --sides 6 --inside 10 --height 0", "--height: Height cannot be 0"),
        ("new b --sides 7 --inside 10x20 --height 5", "even number"),
        ("new b --rect --inside 10x20 --height 5 --front E", "not one of A, B, C, D"),
        ("new b --rect --inside 10x20 --height 5 --board 100x20", "length × width × thickness"),
        ("new b --outline 10@90,20 --inside --height 5", "needs a length and a corner"),
        ("new b --rect --inside 10x20 --height 5 --slopes 1,2", "2 values for 4 sides"),
        ("new b --rect --contents 8_of_24x24x40 --play 2000", "more than 1 m"),
        ("plan nothing.peristyle", "no file"),
        ("plan .", "folder"),
        ("angles --sides 2", "at least three sides"),
        ("angles", "which corner"),
        ("angles --sides 6 --slope 95", "under 90°"),
        ("angles --interior 180", "between 0° and 180°"),
        ("angles --sides six", "--sides"),
        ("export nothing.peristyle", "required"),
    ],
)
def test_errors_are_one_clear_line(
    capsys: pytest.CaptureFixture[str], tmp_path: Path, monkeypatch: pytest.MonkeyPatch, words: str, said: str
) -> None:
    monkeypatch.chdir(tmp_path)
    code, out, err = run(capsys, *(w.replace("_", " ") for w in words.split()))
    assert (code, out) == (2, "")
    assert said in err
    assert len(err.splitlines()) == 1
    assert list(tmp_path.iterdir()) == []


def test_what_cannot_be_built_is_never_written_without_saying_so(
    capsys: pytest.CaptureFixture[str], tmp_path: Path
) -> None:
    """On paper as well: a card at the saw has no list of findings beside it."""
    box, paper = str(tmp_path / "b.peristyle"), str(tmp_path / "cards.pdf")
    words = ["--rect", "--outside", "200x140", "--height", "80", "--bottom"]
    for more, refused in (([], False), (["--groove-depth", "40"], True)):
        assert run(capsys, "new", box, *words, *more)[0] == 0
        code, _out, told = run(capsys, "export", box, "--cards", paper)
        assert code == 0
        assert ("cannot be built so" in told) == refused
        assert run(capsys, "steps", box)[1].startswith("Cannot be built so (section)") == refused
        if which("pdftotext"):
            done = subprocess.run(
                ["pdftotext", "-layout", paper, "-"], capture_output=True, text=True, check=True
            )
            cards = done.stdout.count("☐ done")
            assert cards > 15
            assert ("Cannot be built so (section)" in done.stdout) == refused
            assert done.stdout.count("The box cannot be built so") == (cards if refused else 0)


def test_angles_in_every_convention(capsys: pytest.CaptureFixture[str]) -> None:
    _code, out, _err = run(capsys, "angles", "--sides", "6", "--thickness", "9", "--json")
    data = json.loads(out)
    hexagon = {"bevel_deg": 30, "bevel_from_face_deg": 60, "interior_deg": 120, "half_corner_deg": 60}
    assert {k: pytest.approx(v) for k, v in hexagon.items()} == {k: data[k] for k in hexagon}
    _code, out, _err = run(capsys, "angles", "--interior", "60")
    assert "on end, blade at 30°" in out


def test_the_old_file_is_kept(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    path = tmp_path / "b.peristyle"
    path.write_text("precious")
    code, _out, err = run(capsys, "new", str(path), "--rect", "--inside", "100", "--height", "50")
    assert code == 0
    assert "kept" in err
    assert (tmp_path / "b.peristyle~").read_text() == "precious"


def test_no_qt_and_no_numpy_for_the_quick_answers() -> None:
    script = (
        "import sys\nfrom peristyle.cli import main\n"
        "main(['angles', '--sides', '8'])\n"
        "bad = {'PySide6', 'numpy', 'msgspec', 'reportlab'} & set(sys.modules)\nassert not bad, bad"
    )
    subprocess.run([sys.executable, "-c", script], check=True, capture_output=True)


def test_a_plan_needs_no_numbers_package() -> None:
    """They take longer to load than all that is ours, and a window waits for its plan."""
    code = (
        "import sys\nfrom peristyle.planning.plan import plan\n"
        "from peristyle.storage import examples\nplan(examples.load(examples.FIRST)).steps\n"
        "bad = {'numpy', 'scipy', 'PIL', 'reportlab'} & set(sys.modules)\nassert not bad, bad"
    )
    subprocess.run([sys.executable, "-c", code], check=True)


def test_a_bare_number_is_in_the_unit_its_address_names(
    capsys: pytest.CaptureFixture[str], tmp_path: Path
) -> None:
    path = str(tmp_path / "b.peristyle")
    run(
        capsys,
        "new",
        path,
        "--rect",
        "--outside",
        "10x6",
        "--units",
        "in",
        "--height",
        "4",
        "--lid",
        "--bottom",
    )
    for typed, told in (("25.4", "1 in"), ("1 1/4 in", "1 ¼ in"), ("19,05", "¾ in")):
        assert run(capsys, "set", path, f"section.lid.height_mm={typed}")[0] == 0
        assert run(capsys, "get", path, "section.lid.height_mm")[1].strip().replace("\u202f", " ") == told


def test_many_tools_are_not_dropped_by_one_number(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    path = str(tmp_path / "b.peristyle")
    run(capsys, "new", path, "--rect", "--outside", "200x140", "--height", "80")
    code, _out, err = run(capsys, "set", path, "shop.tools=1")
    assert code == 2
    assert "would remove 10 tools" in err
    assert run(capsys, "set", path, "shop.tools=10")[0] == 0


def test_names_from_strangers_stay_text(capsys: pytest.CaptureFixture[str], tmp_path: Path) -> None:
    """No control sequence reaches a terminal, no cell a spreadsheet would run."""
    path = tmp_path / "b.peristyle"
    run(
        capsys,
        "new",
        str(path),
        "--rect",
        "--outside",
        "200x140",
        "--height",
        "80",
        "--name",
        "a\x1b[31mb\x00",
    )
    out = run(capsys, "plan", str(path))[1]
    assert "\x1b" not in out
    assert "a[31mb" in out
    assert plain_cells(["=1+1", "-2+3", "@x", "-30.000", 4, "A"]) == [
        "'=1+1",
        "'-2+3",
        "'@x",
        "-30.000",
        4,
        "A",
    ]


def test_a_box_from_a_description(tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    """Options and addresses, a line each; what is typed besides counts more."""
    monkeypatch.chdir(tmp_path)
    Path("clock.txt").write_text(
        "# a clock box\nsides = 8\nacross-flats: 6in\n--units in\nheight = 2 1/2\nlid\nbottom = yes\nkeys = no\n"
        "section.feet = yes\nname = 'Clock box'\n".replace("--units in", "--units = in"),
        encoding="utf-8",
    )
    assert cli.main(["new", "a.peristyle", "--from", "clock.txt", "--height", "3"]) == 0
    job = files.load(Path("a.peristyle")).job
    assert (job.design.name, job.design.side_count, job.design.units) == ("Clock box", 8, "in")
    assert job.design.form.height_mm == pytest.approx(76.2)
    assert job.design.section.feet is not None
    assert job.design.section.lid is not None
    assert job.design.joints.keys is None
    assert job.stock.as_needed


@pytest.mark.parametrize(
    ("text", "says"),
    [
        ("sides = 8\n= 4\n", "line 2"),
        ("like = other.peristyle\n", "command line"),
        ("sides = 8\nheight = 60\ninside = 90\nsection.fet = yes\n", "section.fet"),
        ("\x00\x01", "box.txt"),
    ],
)
def test_a_description_that_cannot_be_read_says_where(
    text: str, says: str, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    monkeypatch.chdir(tmp_path)
    Path("box.txt").write_text(text, encoding="utf-8")
    assert cli.main(["new", "a.peristyle", "--from=box.txt"]) != 0
    told = capsys.readouterr().err
    assert says in told
    assert not Path("a.peristyle").exists()


@pytest.mark.parametrize(
    ("value", "needed"), [("stock.board.length_mm=2000", False), ("stock.board.wood=oak", True)]
)
def test_a_board_sized_by_its_address_stays(
    value: str, needed: bool, tmp_path: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.chdir(tmp_path)
    words = ["new", "a.peristyle", "--rect", "--inside", "200x120", "--height", "80", "--set", value]
    assert cli.main(words) == 0
    stock = files.load(Path("a.peristyle")).job.stock
    assert stock.as_needed == needed
    assert (stock.board.length_mm == 2000.0) != needed


def test_a_file_whose_saw_contradicts_itself_says_what_to_choose(tmp_path: Path) -> None:
    path = tmp_path / "a.peristyle"
    assert cli.main(["new", str(path), "--rect", "--inside", "200x120", "--height", "80"]) == 0
    raw = json.loads(path.read_text(encoding="utf-8"))
    raw["job"]["shop"]["saw"] = {"kind": "table_saw", "table_saw": False}
    path.write_text(json.dumps(raw), encoding="utf-8")
    with pytest.raises(FileError, match="choose miter_saw"):
        files.load(path)
