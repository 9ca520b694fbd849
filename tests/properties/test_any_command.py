"""Any words on the command line give a plan or one clear line, never a traceback, never a bad file."""

import contextlib
import io
import json
import random
from pathlib import Path

import pytest

from peristyle import cli
from peristyle.storage import files
from support.schemas import check_plan

LENGTHS = ["12.5", "80", "186.5", "6 5/8in", "2in", "300", "25", "=3*40", "1", "5"]
BROKEN = ["0", "-4", "x", "0.001", "19999", "", "1200"]
ANGLES = ["0", "5", "-12", "30", "22.5"]
OPTIONS = [
    "--kerf", "--trim", "--creep", "--shift", "--groove-height", "--groove-depth", "--panel-thickness",
    "--panel-play", "--groove-fit", "--lid-height", "--lid-kerf", "--clean-up", "--key-thickness",
    "--key-depth", "--key-leg", "--key-edge", "--top-groove-height", "--top-groove-depth", "--top-groove-fit",
    "--top-panel-thickness", "--top-panel-play", "--ring", "--top-ring", "--overhang", "--liner-gap",
    "--divider-thickness", "--divider-height", "--dado", "--lining", "--play",
]  # fmt: skip


def some_words(chance: random.Random) -> list[str]:
    """A command as a hurried maker, or a broken script, might put it together."""
    # Half of the commands are meant well; in the others anything may stand anywhere.
    broken = chance.random() < 0.5

    def pick(options: list[str]) -> str:
        if broken and chance.random() < 0.15:
            return chance.choice(BROKEN)
        return chance.choice(options)

    def shape() -> list[str]:
        measure = pick(["--inside", "--outside", "--across-flats", "--across-corners"])
        match chance.randrange(5):
            case 0:
                return ["--rect", measure, f"{pick(LENGTHS)}x{pick(LENGTHS)}"]
            case 1:
                return [
                    "--sides",
                    pick(["3", "4", "5", "7", "12", "24", "60", "361"]),
                    measure,
                    pick(LENGTHS),
                ]
            case 2:
                corners = ["?", "90", "120", "60", "135", "179", "200"]
                parts = [f"{pick(['?', pick(LENGTHS)])}@{pick(corners)}" for _ in range(chance.randint(2, 7))]
                return ["--outline", ",".join(parts), pick(["--inside", "--outside"])]
            case 3:
                return [
                    "--house",
                    f"{pick(LENGTHS)}x{pick(LENGTHS)}@{pick(['40', '8/12', '89', '0', 'x'])}",
                    "--outside",
                ]
            case _:
                things = [
                    "8 of 24x24x40",
                    "3 of round 50x30",
                    "1 of 0x1x1",
                    "junk",
                    "",
                    "19 of round 30x20",
                    "200 of 10x10x1; 2 of 30x40x50",
                ]
                return [pick(["--rect", "--sides=6"]), "--contents", pick(things)]

    words = ["new", "f.peristyle", *shape()]
    for part, odds in (
        (["--height", pick(LENGTHS)], 0.8),
        (["--thickness", pick(["9", "3", "40", "0.1", "3/8in"])], 0.7),
        (
            chance.choice(
                [
                    ["--slope", pick(ANGLES)],
                    ["--top", pick(LENGTHS)],
                    ["--slopes", ",".join(pick(ANGLES) for _ in range(chance.randint(1, 6)))],
                ]
            ),
            0.4,
        ),
        (["--keys", pick(["1", "3", "12", "0", "41"])], 0.3),
        (["--liner", f"4x{pick(LENGTHS)}"], 0.2),
        (["--dividers", pick(["3", "2x2", "60x60", "0"])], 0.2),
        (["--segments", pick(["8", "3", "2"])], 0.2),
        (["--board", "x".join(pick(LENGTHS) for _ in range(3))], 0.3),
        (["--top-segments", pick(["8", "5", "2", "x"])], 0.2),
        (["--top-panel"], 0.2),
        (["--machine", pick(["chamfer-bit", "shooting-board", "miter-saw"])], 0.2),
        (["--gives", pick(["22.5,30", "45", "x", "0", "11,25 30"])], 0.1),
        (["--saw-step", pick(ANGLES)], 0.1),
        (["--tilts", "right"], 0.1),
        (["--thicknesses", ",".join(pick(["9", "12", "3/8in"]) for _ in range(chance.randint(1, 6)))], 0.1),
        (["--fit-board"], 0.1),
        (["--fit-board", "with-panels"], 0.1),
        (["--method", "bevel_direct"], 0.2),
    ):
        if chance.random() < odds:
            words += part
    for option in chance.sample(OPTIONS, chance.randint(0, 3)):
        words += [option, pick(LENGTHS)]
    return words


@pytest.mark.parametrize("batch", range(6))
def test_any_command(batch: int, tmp_path: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.chdir(tmp_path)
    chance = random.Random(batch)
    path = tmp_path / "f.peristyle"
    made = 0
    for _ in range(90):
        words = some_words(chance)
        path.unlink(missing_ok=True)
        out, err = io.StringIO(), io.StringIO()
        with contextlib.redirect_stdout(out), contextlib.redirect_stderr(err):
            try:
                code = cli.main(words)
            except SystemExit as stop:
                code = int(stop.code or 0)
        if code:
            assert code == 2, words
            assert len(err.getvalue().strip().splitlines()) <= 2, (words, err.getvalue())
            assert not path.exists()
            continue
        made += 1
        files.load(path)
        with contextlib.redirect_stdout(out := io.StringIO()):
            assert cli.main(["plan", str(path), "--json"]) == 0
        data = json.loads(out.getvalue(), parse_constant=pytest.fail)
        check_plan(data)
        assert data["sides"] or any(f["severity"] == "stop" for f in data["findings"]), words
    assert made >= 3
