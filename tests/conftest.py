"""Shared by all tests: the import path of the helpers, and one small box to start from."""

import sys
from pathlib import Path

import pytest
from hypothesis import settings

from peristyle.model.design import Keys, Lid, Panel, Rectangle
from peristyle.model.job import Job, job_of

sys.path.insert(0, str(Path(__file__).parent))

# How long an example takes is a matter of the machine and of what else runs on it: see benchmarks/.
settings.register_profile("peristyle", deadline=None)
settings.load_profile("peristyle")


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """Windows are driven one after the other, by one worker: what has the focus is a matter of the whole screen."""
    for item in items:
        if item.path.parent.name in ("ui", "journeys"):
            item.add_marker(pytest.mark.xdist_group("window"))


@pytest.fixture
def box() -> Job:
    return job_of(
        name="Trial box",
        shape=Rectangle(240.0, 160.0, "outside"),
        height_mm=90.0,
        thicknesses_mm=(9.0,),
        bottom=Panel(),
        lid=Lid(height_mm=24.0),
        keys=Keys(count=3),
    )
