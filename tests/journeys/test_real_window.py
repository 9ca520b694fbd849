"""A real window on a virtual display, driven by real keys and clicks."""

import os
import shutil
import subprocess
import sys
import time
from collections.abc import Iterator
from pathlib import Path

import pytest

from peristyle.storage import examples, files

pytest.importorskip("PySide6")
needed = ("Xvfb", "openbox", "xdotool")
pytestmark = [
    pytest.mark.display,
    pytest.mark.skipif(any(shutil.which(n) is None for n in needed), reason="needs " + ", ".join(needed)),
]


def managed(env: dict[str, str]) -> "subprocess.Popen[bytes]":
    """A window manager that is at work: one that gave up on a display just begun is started again."""
    while True:
        manager = subprocess.Popen(["openbox"], env=env, stderr=subprocess.DEVNULL, stdout=subprocess.DEVNULL)
        end = time.monotonic() + 20.0
        while manager.poll() is None and time.monotonic() < end:
            told = subprocess.run(["xdotool", "get_num_desktops"], env=env, check=False, capture_output=True)
            if told.returncode == 0:  # only a manager says so
                return manager
            time.sleep(0.05)
        manager.kill()
        manager.wait()


@pytest.fixture
def display(tmp_path: Path) -> Iterator[dict[str, str]]:
    reader, writer = os.pipe()
    server = subprocess.Popen(
        ["Xvfb", "-displayfd", str(writer), "-screen", "0", "1280x800x24"],
        pass_fds=(writer,), stderr=subprocess.DEVNULL,
    )  # fmt: skip
    os.close(writer)
    with os.fdopen(reader) as stream:
        number = stream.readline().strip()
    env = {k: v for k, v in os.environ.items() if k not in ("QT_QPA_PLATFORM", "WAYLAND_DISPLAY")}
    env |= {
        "DISPLAY": f":{number}",
        "XDG_CONFIG_HOME": str(tmp_path / "c"),
        "XDG_STATE_HOME": str(tmp_path / "s"),
    }
    manager = managed(env)
    yield env
    for process in (manager, server):
        process.terminate()
        process.wait()


def xdo(env: dict[str, str], *words: str) -> str:
    return subprocess.run(
        ["xdotool", *words], env=env, check=True, capture_output=True, text=True
    ).stdout.strip()


def wait_for(what, seconds: float = 60.0):  # type: ignore[no-untyped-def]
    """Poll until `what` gives something: another process has no signal to wait on."""
    end = time.monotonic() + seconds
    while time.monotonic() < end:
        found = what()
        if found:
            return found
        time.sleep(0.05)
    raise AssertionError("waited in vain")


def window_of(env: dict[str, str], title: str) -> str:
    def look() -> str:
        found = subprocess.run(
            ["xdotool", "search", "--onlyvisible", "--name", title],
            env=env,
            check=False,
            capture_output=True,
            text=True,
        )
        return found.stdout.split("\n")[0].strip()

    return str(wait_for(look))


def activate(env: dict[str, str], window: str) -> None:
    """Give a window the keyboard; the window manager may still be starting."""

    def try_once() -> bool:
        command = ["xdotool", "windowactivate", "--sync", window]
        try:
            return (
                subprocess.run(command, env=env, check=False, capture_output=True, timeout=3).returncode == 0
            )
        except subprocess.TimeoutExpired:
            return False  # it waits for ever where the window manager was not ready to hear it: once more

    wait_for(try_once)


def test_rename_and_save_with_real_keys_then_survive_a_kill(display: dict[str, str], tmp_path: Path) -> None:
    path = tmp_path / "box.peristyle"
    files.save(path, examples.load("Star-chart box"))
    peristyle = subprocess.Popen([sys.executable, "-m", "peristyle", str(path)], env=display)
    try:
        window = window_of(display, "box.peristyle")
        activate(display, window)
        xdo(display, "mousemove", "--window", window, "640", "720", "click", "1")
        xdo(display, "key", "F2")
        dialog = window_of(display, "Rename box")
        activate(display, dialog)
        xdo(display, "key", "ctrl+a")
        xdo(display, "type", "Chart chest")
        xdo(display, "key", "Return")
        activate(display, window)
        xdo(display, "key", "ctrl+s")
        wait_for(lambda: files.load(path).job.design.name == "Chart chest")
        # An edit that is not saved, then the worst: the copy is there for the next start.
        xdo(display, "key", "ctrl+Right", "ctrl+f")
        xdo(display, "key", "ctrl+Right", "ctrl+f")
        copies = tmp_path / "s" / "peristyle" / "recovery"
        wait_for(lambda: list(copies.glob("*.json")))
    finally:
        peristyle.kill()
        peristyle.wait()
    again = subprocess.Popen([sys.executable, "-m", "peristyle"], env=display)
    try:
        window_of(display, "Peristyle")
        question = window_of(display, "^Peristyle$")
        activate(display, question)
        xdo(display, "key", "Return")
        window_of(display, "box.peristyle")
        # Taken up again, it is this window's copy now.
        assert files.load(path).job.design.form.front == 0
        xdo(display, "key", "ctrl+s")
        wait_for(lambda: files.load(path).job.design.form.front == 1)
    finally:
        again.kill()
        again.wait()


def test_the_demo_pictures_itself(display: dict[str, str], tmp_path: Path) -> None:
    target = tmp_path / "shot.png"
    subprocess.run(
        [sys.executable, "-m", "peristyle", "--demo", "--screenshot", str(target)],
        env=display,
        check=True,
        timeout=60,
    )
    from PySide6.QtGui import QImage

    image = QImage(str(target))
    assert (image.width(), image.height()) == (1280, 800)
    frieze = {image.pixel(x, 700) for x in range(100, 1180, 3)}
    assert len(frieze) > 100, "the frieze wears wood"


def test_without_a_display_there_is_a_clear_word(tmp_path: Path) -> None:
    env = {k: v for k, v in os.environ.items() if k not in ("DISPLAY", "WAYLAND_DISPLAY", "QT_QPA_PLATFORM")}
    said = subprocess.run(
        [sys.executable, "-m", "peristyle"], env=env, capture_output=True, text=True, check=False
    )
    assert said.returncode == 2
    assert "no display" in said.stderr
