"""The file: round trip, faults all at once, atomic saves, the copy that outlives a crash."""

import errno
import json
import os
import random
import signal
import subprocess
import sys
import time
from collections.abc import Callable
from importlib import resources
from pathlib import Path
from typing import Any

import pytest
from msgspec.structs import replace

from peristyle.core.errors import PeristyleError
from peristyle.export import planjson
from peristyle.model.design import Keys, Rectangle
from peristyle.model.job import Job, revised
from peristyle.storage import codec, examples, files
from peristyle.storage.recovery import RecoveryCopy, orphans


def test_round_trip(box: Job, tmp_path: Path) -> None:
    path = tmp_path / "box.peristyle"
    stamp = files.save(path, box)
    assert files.load(path) == (box, stamp)


@pytest.mark.parametrize(("name", "schema"), [("design", codec.schema), ("plan", planjson.schema)])
def test_shipped_schemas_are_made_from_the_types(name: str, schema: Callable[[], Any]) -> None:
    shipped = resources.files("peristyle").joinpath("data", f"{name}.schema.json").read_text("utf-8")
    assert json.loads(shipped) == schema(), "run scripts/schemas"


@pytest.mark.parametrize("name", examples.names())
def test_examples_open(name: str) -> None:
    assert examples.load(name).design.name == name


def test_all_faults_are_reported_at_once_with_their_paths(box: Job) -> None:
    raw = json.loads(codec.encode(box))
    job = raw["job"]
    job["design"]["form"]["height_mm"] = -1
    job["shop"]["saw"]["kerf_mm"] = "x"
    job["design"]["form"]["shape"]["length_mm"] = None
    with pytest.raises(codec.FileError) as caught:
        codec.decode(json.dumps(raw).encode(), "box")
    for path in ("job.design.form.height_mm", "job.shop.saw.kerf_mm", "job.design.form.shape.length_mm"):
        assert path in str(caught.value)


@pytest.mark.parametrize(
    ("data", "words"),
    [
        (b"", "empty"),
        (b"junk", "cut short"),
        (b"\xff\xfe\x00", "cut short"),
        (b"[" * 5000, "cut short"),
        (b'{"format": "something"}', "not a Peristyle design"),
        (b'{"format": "peristyle-design", "version": 99}', "newer Peristyle"),
        (b'{"format": "peristyle-design", "version": 1}', "design"),
    ],
)
def test_bad_files_are_explained(data: bytes, words: str) -> None:
    with pytest.raises(codec.FileError, match=words):
        codec.decode(data, "box")


def test_contradictions_are_explained(box: Job) -> None:
    raw = json.loads(codec.encode(box))
    raw["job"]["design"]["form"] |= {"slopes_deg": [1, 2, 3], "front": 7}
    with pytest.raises(codec.FileError, match=r"3 values for 4 sides.*7 names no side"):
        codec.decode(json.dumps(raw).encode(), "box")


def mutated(data: bytes, chance: random.Random) -> bytes:
    """Bytes flipped, cut, doubled or exchanged for awkward JSON."""
    text = bytearray(data)
    for _ in range(chance.randint(1, 4)):
        at = chance.randrange(len(text))
        match chance.randrange(6):
            case 0:
                text[at] = chance.randrange(256)
            case 1:
                del text[at : at + chance.randint(1, 30)]
            case 2:
                text[at:at] = text[at : at + chance.randint(1, 30)]
            case 3:
                text[at:at] = chance.choice(
                    [b"null", b"1e999", b"-0", b"[]", b"{}", b'"', b"NaN", b"1e308", b"0"]
                )
            case 4:
                del text[at:]
            case _:
                digits = [i for i, c in enumerate(text) if chr(c).isdigit()]
                if digits:
                    text[chance.choice(digits)] = ord(chance.choice("0123456789.-e"))
        if not text:
            break
    return bytes(text)


def test_two_thousand_mutated_files_never_half_open() -> None:
    from peristyle.export.planjson import as_data
    from peristyle.planning.plan import plan

    chance = random.Random(20261123)
    sources = [codec.encode(examples.load(name)) for name in examples.names()]
    opened = 0
    for _ in range(2000):
        data = mutated(chance.choice(sources), chance)
        try:
            job = codec.decode(data, "box")
        except PeristyleError:
            continue
        opened += 1
        json.dumps(as_data(plan(job)), allow_nan=False)
        assert codec.decode(codec.encode(job), "again") == job
    assert 50 < opened < 1950


def test_what_could_not_be_opened_again_is_not_written(box: Job, tmp_path: Path) -> None:
    path = tmp_path / "box.peristyle"
    files.save(path, box)
    with pytest.raises(codec.FileError, match=r"board.length_mm"):
        files.save(path, revised(box, board=replace(box.stock.board, length_mm=20_001.0)))
    assert files.load(path).job == box


def test_another_windows_save_is_not_lost(box: Job, tmp_path: Path) -> None:
    path = tmp_path / "box.peristyle"
    mine = files.save(path, box)
    files.save(path, revised(box, name="Theirs"))
    with pytest.raises(files.FileChanged, match="another window"):
        files.save(path, box, mine)
    assert files.load(path).job.design.name == "Theirs"


@pytest.mark.parametrize(
    ("number", "words"),
    [(errno.ENOSPC, "disk is full"), (errno.EROFS, "read-only"), (errno.EACCES, "may not write")],
)
def test_a_full_disk_keeps_the_old_file(
    box: Job, tmp_path: Path, monkeypatch: pytest.MonkeyPatch, number: int, words: str
) -> None:
    path = tmp_path / "box.peristyle"
    files.save(path, box)

    def full(_handle: int) -> None:
        raise OSError(number, "no")

    monkeypatch.setattr(os, "fsync", full)
    with pytest.raises(codec.FileError, match=words):
        files.save(path, revised(box, name="New"))
    assert files.load(path).job == box
    assert [p.name for p in tmp_path.iterdir()] == ["box.peristyle"]


@pytest.mark.parametrize("path", ["missing/box.peristyle", "x" * 300, "bad\0name", "."])
def test_saves_that_cannot_be(box: Job, tmp_path: Path, path: str) -> None:
    with pytest.raises(codec.FileError, match="not saved"):
        files.save(tmp_path / path, box)


SAVER = """
import sys
from pathlib import Path
from typing import Any
from peristyle.model.job import revised
from peristyle.storage import files
path = Path(sys.argv[1])
job = files.load(path).job
print("ready", flush=True)
n = 0
while True:
    n += 1
    files.save(path, revised(job, name=f"save {n}", notes="x" * 15_000))
"""


def test_killed_thirty_times_in_the_middle_of_saving(box: Job, tmp_path: Path) -> None:
    path = tmp_path / "box.peristyle"
    files.save(path, box)
    chance = random.Random(50)
    for _ in range(30):
        saver = subprocess.Popen([sys.executable, "-c", SAVER, str(path)], stdout=subprocess.PIPE)
        assert saver.stdout is not None
        assert saver.stdout.readline() == b"ready\n"
        time.sleep(chance.uniform(0.0, 0.03))
        saver.send_signal(signal.SIGKILL)
        saver.wait()
        saver.stdout.close()
        assert files.load(path).job.design.form.shape == box.design.form.shape


def test_recovery_copy_is_found_only_when_its_window_is_gone(box: Job, tmp_path: Path) -> None:
    copy = RecoveryCopy(tmp_path)
    copy.keep(box, Path("/somewhere/box.peristyle"))
    assert list(orphans(tmp_path)) == []
    child = subprocess.run(
        [sys.executable, "-c", "import sys, os\nfrom pathlib import Path\nfrom peristyle.storage import examples\n"
         "from peristyle.storage.recovery import RecoveryCopy\n"
         "RecoveryCopy(Path(sys.argv[1])).keep(examples.load('Filter tray'), None)\n"
         "os.kill(os.getpid(), 9)", str(tmp_path)],
        check=False,
    )  # fmt: skip
    assert child.returncode == -9
    found = list(orphans(tmp_path))
    assert [(f.job.design.name, f.path) for f in found] == [("Filter tray", None)]
    found[0].discard()
    copy.close()
    assert list(tmp_path.iterdir()) == []


def test_history_joins_steps_and_forgets_nothing(box: Job) -> None:
    from peristyle.model.history import History

    history = History(box)
    for height in (91.0, 92.0, 93.0):
        history.push("Set height", revised(box, height_mm=height), join=True)
    history.push("Add keys", revised(box, keys=Keys(), height_mm=93.0))
    assert history.undo_label == "Add keys"
    history.undo()
    assert history.job.design.form.height_mm == 93.0
    assert history.undo() == box
    assert history.undo() == box
    assert history.redo().design.form.height_mm == 93.0
    assert not history.push("Nothing", history.job)
    history.push("Another", revised(box, shape=Rectangle(1.0, 1.0)))
    assert history.redo_label is None
