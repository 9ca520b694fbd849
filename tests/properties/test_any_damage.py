"""Damaged design files (a seeded sample; scripts/fuzz goes on): refused in time and clearly, or planned."""

import random

from support.fuzz import damaged, everything, planned, read, seeds


def test_damaged_files_are_refused_or_planned() -> None:
    chance = random.Random(20261125)
    opened = 0
    for _ in range(300):
        job = read(damaged(seeds(chance), chance))
        if job is not None:
            opened += 1
            planned(job)
    assert 30 < opened < 285


def test_some_through_every_drawing_export_and_fix() -> None:
    chance = random.Random(41)
    for _ in range(25):
        job = read(damaged(seeds(chance), chance))
        if job is not None:
            everything(job)
