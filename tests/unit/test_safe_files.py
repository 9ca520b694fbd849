"""Files that are no files, names of any bytes, damaged designs, terminals of every kind: one clear line, no harm."""

import json
import os
import socket
import subprocess
import sys
import threading
import timeit
from pathlib import Path

import pytest

from peristyle import cli
from peristyle.model.design import Outline
from peristyle.model.faults import breaches
from peristyle.model.job import Job, Saw, revised
from peristyle.storage import codec, examples, files
from peristyle.storage.recovery import RecoveryCopy, orphans


@pytest.fixture
def made(tmp_path: Path, box: Job) -> Path:
    path = tmp_path / "box.peristyle"
    files.save(path, box)
    return path


def run(*words: str | bytes, **env: str) -> subprocess.CompletedProcess[bytes]:
    return subprocess.run(
        [sys.executable, "-m", "peristyle", *words], capture_output=True, check=False, timeout=60,
        env={**os.environ, "QT_QPA_PLATFORM": "offscreen", **env},
    )  # fmt: skip


@pytest.mark.parametrize("kind", ["fifo", "socket", "folder", "device"])
def test_what_is_no_file_is_neither_read_nor_replaced(tmp_path: Path, box: Job, kind: str) -> None:
    path = tmp_path / "thing.peristyle"
    holder = socket.socket(socket.AF_UNIX)
    match kind:
        case "fifo":
            os.mkfifo(path)
        case "socket":
            holder.bind(str(path))
        case "folder":
            path.mkdir()
        case _:
            path = Path("/dev/null")
    before = path.stat().st_mode
    for act in (
        lambda: files.load(path),
        lambda: files.save(path, box),
        lambda: files.save(path, box, "stamp"),
    ):
        worker_error: list[BaseException] = []

        def guarded(act=act, found=worker_error) -> None:  # type: ignore[no-untyped-def]
            try:
                act()
            except codec.FileError as error:
                found.append(error)

        thread = threading.Thread(target=guarded, daemon=True)
        thread.start()
        thread.join(5)
        assert not thread.is_alive(), "it hangs"
        assert worker_error
    assert path.stat().st_mode == before
    holder.close()


def test_a_protected_file_is_written_only_with_a_word(made: Path, box: Job) -> None:
    made.chmod(0o444)
    with pytest.raises(files.FileProtected, match="not to be written"):
        files.save(made, revised(box, name="New"))
    assert files.load(made).job.design.name == "Trial box"
    files.save(made, revised(box, name="New"), over=True)
    assert files.load(made).job.design.name == "New"


def test_recovery_copies_name_whole_paths_and_are_swept(tmp_path: Path, box: Job, monkeypatch) -> None:  # type: ignore[no-untyped-def]
    monkeypatch.chdir(tmp_path)
    copy = RecoveryCopy(tmp_path / "r")
    odd = Path(os.fsdecode(b"caf\xe9.peristyle"))
    copy.keep(box, odd, "stamp")
    os.close(copy._lock)  # type: ignore[arg-type]  # as a kill lets go of it
    (tmp_path / "r" / "stale.lock").touch()
    (tmp_path / "r" / ".stale.json.123abc").touch()
    (found,) = orphans(tmp_path / "r")
    assert (found.path, found.stamp) == (tmp_path / odd, "stamp")
    assert sorted(p.suffix for p in (tmp_path / "r").iterdir()) == [".json", ".lock"]
    found.release()
    # One that was kept with a relative path belongs nowhere: it must not overwrite a file of that name here.
    body = {"path": "box.peristyle", "file": codec.encode(box).decode()}
    old = tmp_path / "r" / "old.json"
    old.write_text(json.dumps({"format": codec.COPY_FORMAT, **body}))
    assert codec.decode_copy(old.read_bytes(), "old").path is None


def _refused(damaged: bytes) -> None:
    with pytest.raises(codec.FileError):
        codec.decode(damaged, "box")


def test_damage_is_refused_fast_with_what_matters_first(box: Job) -> None:
    raw = json.loads(codec.encode(box))
    job = raw["job"]
    job["stock"]["board"]["length_mm"] = 30000
    job["design"]["form"]["shape"] = {"kind": "regular", "sides": 8, "size_mm": -5, "colour": 1}
    job["design"] |= {f"extra{i}": i for i in range(50_000)}
    damaged = json.dumps(raw).encode()
    # Held against what the file alone takes to be read, in the same minute: the machine's own speed is nothing.
    floor = timeit.timeit(lambda: json.loads(damaged), number=3)
    with pytest.raises(codec.FileError) as caught:
        codec.decode(damaged, "box")
    assert min(timeit.repeat(lambda: _refused(damaged), number=1, repeat=3)) < 20 * floor
    text = str(caught.value)
    assert "job.stock.board.length_mm: length 30000\u202fmm: at most 20000\u202fmm" in text
    assert "job.design.form.shape.size_mm: size -5\u202fmm: at least 0.01\u202fmm" in text
    assert text.count(";") <= 21
    assert text.index("length 30000") < text.index("not known here")
    assert "rectangle" not in text  # not the name of another shape
    job["design"]["form"]["shape"]["kind"] = "blob"
    with pytest.raises(codec.FileError, match=r"design\.form\.shape\.kind: kind “blob” is not one of"):
        codec.decode(json.dumps(raw).encode(), "box")
    with pytest.raises(codec.FileError, match="too large"):
        codec.decode(b" " * (codec.MAX_BYTES + 1), "box")


def test_every_example_is_sound_and_bad_values_are_breaches(box: Job) -> None:
    assert all(not breaches(examples.load(name)) for name in examples.names())
    for bad in (
        revised(box, height_mm=float("inf")),
        revised(box, saw=Saw(kerf_mm=0.01)),
        revised(box, name=""),
    ):
        assert breaches(bad)
    assert "corner angle" in breaches(revised(box, shape=Outline((1.0,) * 4, (90.0,) * 3)))[0].text


# --- the command line


def test_values_that_begin_with_a_minus_are_read(capsys: pytest.CaptureFixture[str]) -> None:
    ring = ("--outline", "120@90,80@90,120@90,80@90")
    for words in (
        ("angles", *ring, "--slopes", "-3.75,6,-3.75,6"),
        ("angles", "--sides", "6", "--slope", "-12"),
        ("angles", "--interior", "120", "--slope", "5", "--slope2", "-5"),
        ("angle-sheet", "--slopes", "-5,5"),
    ):
        assert cli.main(list(words)) == 0, words
    assert "-" in capsys.readouterr().out.replace("−", "-")


def test_a_corner_a_hair_under_a_whole_turn(capsys: pytest.CaptureFixture[str]) -> None:
    assert cli.main(["angles", "--outline", "100@159.3,80@110.7,120@90,?@90,?@90"]) == 0
    assert "159.3°" in capsys.readouterr().out


def test_several_exports_at_once_and_to_standard_output(made: Path, tmp_path: Path) -> None:
    csv, pdf = tmp_path / "a.csv", tmp_path / "a.pdf"
    assert cli.main(["export", str(made), "--cut-list", str(csv), "--sheet", str(pdf)]) == 0
    assert csv.read_text().startswith("part,")
    assert pdf.read_bytes().startswith(b"%PDF")
    assert run("export", str(made), "--cut-list", "-").stdout == csv.read_bytes()
    assert run("export", str(made), "--sheet", "/dev/stdout").stdout == pdf.read_bytes()
    before = made.read_bytes()
    link = tmp_path / "link.csv"
    link.symlink_to(made)
    for place in (str(made), str(link), "/dev/null"):
        assert cli.main(["export", str(made), "--cut-list", place]) == 2
    assert made.read_bytes() == before


@pytest.mark.parametrize(
    "words",
    [
        ("plan", "x" * 300),
        ("new", "x" * 300, "--rect", "--outside", "9x9", "--height", "9"),
        (b"plan", b"caf\xe9"),
        ("angles", "--sides", "9" * 400),
        ("angles", "--interior", "9" * 400),
        ("angles", "--slope", "1" * 100, "--sides", "5"),
        ("new", "{folder}/a", "--rect", "--outside", "9" * 400, "--height", "9"),
        ("new", "{folder}/a", "--sides", "9" * 5000, "--outside", "9", "--height", "9"),
        ("new", "{folder}/a", "--rect", "--contents", "9" * 5000 + " of 1x1x1", "--height", "9"),
        ("new", "{folder}/a", "--rect", "--outside", "9x9", "--height", "9", "--keys", "9" * 400),
        ("plan", "{folder}"),
        ("new", "/dev/null", "--rect", "--outside", "9x9", "--height", "9"),
        ("new", "/proc/nowhere/a", "--rect", "--outside", "9x9", "--height", "9"),
    ],
)
def test_one_clear_line_and_never_a_traceback(words: tuple[str | bytes, ...], tmp_path: Path) -> None:
    given = [w.replace("{folder}", str(tmp_path)) if isinstance(w, str) else w for w in words]
    done = run(*given)
    assert done.returncode == 2, done
    assert b"Traceback" not in done.stderr
    assert len(done.stderr.strip().splitlines()) == 1, done.stderr


@pytest.mark.parametrize("coding", ["ascii", "latin-1", "utf-8"])
def test_any_terminal_and_a_full_device(made: Path, coding: str) -> None:
    for words in (
        ("plan", str(made)),
        ("plan", str(made), "--json"),
        ("angles", "--sides", "7", "--slope", "-3"),
    ):
        done = run(*words, PYTHONIOENCODING=coding, PYTHONUTF8="0")
        assert done.returncode == 0, done.stderr
        if "--json" in words:
            assert json.loads(done.stdout.decode(coding))["format"] == "peristyle-plan"
    with open("/dev/full", "wb") as full:
        done = subprocess.run(
            [sys.executable, "-m", "peristyle", "plan", str(made)],
            stdout=full,
            stderr=subprocess.PIPE,
            check=False,
        )
    assert done.returncode == 2
    assert b"Traceback" not in done.stderr
    assert b"Exception" not in done.stderr


def test_names_of_any_bytes_are_kept(tmp_path: Path) -> None:
    name = os.fsencode(tmp_path) + b"/caf\xe9.peristyle"
    done = run(b"new", name, b"--rect", b"--outside", b"200x120", b"--height", b"60")
    assert done.returncode == 0, done.stderr
    assert name in done.stdout
    assert run(b"plan", name).returncode == 0
