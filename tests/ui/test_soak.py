"""Random hands on the window (a seeded sample; scripts/soak goes on), and sizes that can be read in any box."""

import random
from collections.abc import Callable
from pathlib import Path

import pytest

from conftest import Driver
from peristyle.model.job import Job
from peristyle.storage import examples
from peristyle.ui import theme
from support.designs import random_design
from support.legible import crowded
from support.soak import Soak


def test_random_events(qapp, tmp_path: Path) -> None:  # type: ignore[no-untyped-def]
    qapp.setFont(theme.load_fonts())
    soak = Soak(1125, tmp_path)
    try:
        soak.run(250)
    finally:
        soak.close()
    assert soak.troubles == []
    assert min(soak.done.values()) > 0


@pytest.mark.parametrize("seed", range(2))
def test_no_size_covers_another_a_letter_or_a_name(open_window: Callable[[Job], Driver], seed: int) -> None:
    chance = random.Random(seed)
    driver = open_window(examples.load(examples.FIRST))
    for _ in range(8):
        assert crowded(driver.window, random_design(chance), chance) == []
