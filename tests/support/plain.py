"""A plain upright box: a bottom in its groove, nothing else."""

from peristyle.model.design import Panel, Rectangle
from peristyle.model.job import job_of
from peristyle.model.stock import Board

BOX = job_of(
    shape=Rectangle(240.0, 160.0), height_mm=90.0, thicknesses_mm=(12.0,), bottom=Panel(),
    board=Board(length_mm=3000.0, width_mm=400.0, thickness_mm=12.0),
)  # fmt: skip
