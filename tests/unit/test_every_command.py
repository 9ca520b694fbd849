"""Every command starts and does its work on a real file, with each of its options at least once."""

import importlib
import pkgutil
import subprocess
import sys
from pathlib import Path
from typing import Any

import pytest

import peristyle
from peristyle import cli
from peristyle.commands import console

# In order: what an earlier line writes, a later one reads. Code 2 where the command is to refuse in one line.
LINES = """
angles --sides 8 --slope 5 --slope2 4 --thickness 9 --thickness2 9 --units mm --json
angles --interior 108
angles --outline 120@90,80@90,120@90,80@90 --slopes 2,2,2,2 --thicknesses 9,9,9,9 --inside
angles --outline 120@90,80@90,120@90,80@90 --outside
angle-sheet --slopes 0,5 --out angles.pdf --paper letter
angle-sheet --json
new a.peristyle --rect --inside 186.5x120 --height 80 --thickness 9 --name A --wood walnut --seed 7 --keys 2
new b.peristyle --sides 6 --across-flats 180 --height 70 --thickness 8 --bottom --lid --lid-height 24
new c.peristyle --rect --outside 10x6 --units in --height 4 --thickness 3/8 --board 72x6x3/4 --bottom
new e.peristyle --like a.peristyle --inside 240x150 --height 70 --thickness 10 --name E --set section.feet=yes
new f.peristyle --rect --inside 200x120 --height 80 --bottom --set section.hinges=yes --set work.boxes=3
plan a.peristyle
plan a.peristyle --json
steps a.peristyle --long
steps a.peristyle --move box.rough_sand --before box.glue  # 2
steps a.peristyle --move box.finish
steps a.peristyle --leave-out box.dry_fit
steps a.peristyle --put-back box.dry_fit
steps a.peristyle --own Rest --text Wait.
boards a.peristyle list
boards a.peristyle add Offcut --size 1400x110x12 --wood oak --sawn quarter --looks knots --seed 3 --price 12
boards a.peristyle add Ply --size 600x300x9 --sheet --picture grain.png --back-picture grain.png
boards a.peristyle use Offcut
match a.peristyle --json
match a.peristyle --stretch 2 --other-face --other-edge --rack --all-corners --take 1
match a.peristyle --replace A
match a.peristyle --break
camera a.peristyle Offcut face.jpg --seed 3 --points 900x700
camera a.peristyle Offcut left.jpg --from 0 --to 800 --points 900x700 --back
photograph a.peristyle Offcut face.jpg --look
photograph a.peristyle Offcut face.jpg --size 1400x110 --json
photograph a.peristyle Offcut left.jpg --back --corners 20,500,880,500,880,200,20,200
photograph a.peristyle Offcut left.jpg left.jpg --stretch 800 --stretch 800  # 2
allocate batch.peristyle-batch --new --job a.peristyle=2 --board Long=2400x120x12@10 --seconds 2
allocate batch.peristyle-batch --rack --seconds 2 --maps maps.pdf --paper letter --json
allocate batch.peristyle-batch --done Long
get a.peristyle sides.slope_deg
get a.peristyle --json
set a.peristyle sides.slope_deg=2
addresses
addresses --json
measure a.peristyle
measure a.peristyle side.A.length_mm=203 --gauge caliper --sure 0.05
measure a.peristyle --measured --json
measure a.peristyle --back side.A.length_mm
fit a.peristyle --way rolled --stop one --test pair --ends saw --gauge 0.1 --limit 0.1 --boxes 20 --seed 2 --json
fit a.peristyle --compare
rescue a.peristyle
rescue a.peristyle short --at A --by 1 --json
rescue a.peristyle short --at A --by 1 --take 1
setup a.peristyle
setup a.peristyle tilt_pair 90.2 --try
setup a.peristyle tilt_pair --simulated 4 --json
setup a.peristyle five_cut --tool Saw --simulated 4  # 2
sled a.peristyle --pdf sled.pdf
sled a.peristyle --json
log a.peristyle --add Begun. --step box.mark --minutes 5 --picture grain.png
log a.peristyle --add Begun! --correct 1
log a.peristyle --by-step --json
log a.peristyle b.peristyle --search begun
log a.peristyle --record record.pdf
log a.peristyle --begin d.peristyle
calendar a.peristyle=3+1 --start 2026-12-01T08:00 --zone Europe/Paris --clamps 4 --by 2026-12-20 --ics a.ics
calendar a.peristyle --move box.finish/1=2026-12-05 --start 2026-12-01
calendar a.peristyle --today --json --start 2026-12-01
export a.peristyle --cut-list a.csv --by-setting s.csv --sheet a.pdf --cards cards.pdf --paper letter
export a.peristyle --template t.pdf --template-svg t.svg --template-dxf t.dxf --plan plan.json
install-desktop
install-desktop --remove
"""
# What `new` asks for has a test of its own kind: any words (properties/test_any_command.py).
ELSEWHERE = {"new", "install-desktop"}


def _code_of(words: list[str]) -> int:
    try:
        return cli.main(words)
    except SystemExit as stop:
        return int(stop.code or 0)


def test_every_command_runs_with_each_option(
    tmp_path: Path, monkeypatch: pytest.MonkeyPatch, capsys: pytest.CaptureFixture[str]
) -> None:
    from PIL import Image  # late: the command line starts without it

    monkeypatch.chdir(tmp_path)
    monkeypatch.setenv("HOME", str(tmp_path))
    monkeypatch.setenv("XDG_DATA_HOME", str(tmp_path / "share"))
    monkeypatch.setenv("XDG_CONFIG_HOME", str(tmp_path / "config"))
    Image.effect_noise((400, 60), 40).save("grain.png")
    known: dict[str, set[str]] = {}
    parse: Any = console.Parser.parse_args

    def noted(self: Any, args: Any = None, namespace: Any = None) -> Any:
        command = self.prog.split()[-1]
        options = {a.option_strings[-1] for a in self._actions if a.option_strings and a.dest != "help"}
        known.setdefault(command, set()).update(options)
        return parse(self, args, namespace)

    monkeypatch.setattr(console.Parser, "parse_args", noted)
    used: dict[str, set[str]] = {name: set() for name in cli.COMMANDS}
    faults: list[str] = []
    for line in LINES.strip().splitlines():
        words, _, refused = line.partition("  # ")
        command, *rest = words.split()
        used[command] |= {word for word in rest if word.startswith("--")}
        code = _code_of([command, *rest])
        said = capsys.readouterr()
        faults += [f"{line}: {said.err}"] if code != (2 if refused else 0) else []
        assert len(said.err.splitlines()) == 1 or not refused, said.err
    assert not faults, "\n".join(faults)
    assert {line.split()[0] for line in LINES.strip().splitlines()} == set(cli.COMMANDS)
    assert {
        name: known[name] - used[name] for name in used if name not in ELSEWHERE and known[name] - used[name]
    } == {}


@pytest.mark.parametrize("command", cli.COMMANDS)
def test_a_command_starts_by_itself(command: str) -> None:
    """In a process of its own: nothing loaded by another test helps it."""
    done = subprocess.run(
        [sys.executable, "-m", "peristyle", command, "--help"], capture_output=True, text=True, check=False
    )
    assert (done.returncode, done.stderr) == (0, "")
    assert f"peristyle {command}" in done.stdout


def test_every_module_can_be_imported() -> None:
    """Of those that need no Qt in an environment without it."""
    windowed = importlib.util.find_spec("PySide6") is not None
    names = [
        m.name for m in pkgutil.walk_packages(peristyle.__path__, "peristyle.") if "__main__" not in m.name
    ]
    for name in names:
        if windowed or not (name.startswith("peristyle.ui") or name == "peristyle.app"):
            importlib.import_module(name)
    assert len(names) > 300
