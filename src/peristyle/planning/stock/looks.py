"""What a board's picture depends on, read off the board."""

from peristyle.model.job import Job
from peristyle.model.stock import Board
from peristyle.planning.cutters import cutter
from peristyle.planning.making.ripping import leaf_mm
from peristyle.planning.stock.laying import SURFACING_MM
from peristyle.wood.looks import Grown, Look


def look_of(board: Board) -> Look:
    """The look of a board as it lies on the bench."""
    whole = board.cut_from
    long, wide = (whole.length_mm, whole.width_mm) if whole else (board.length_mm, board.width_mm)
    grown = Grown(board.wood, board.seed, long, wide, board.thickness_mm, board.sawn, board.looks)
    part = (whole.x_mm, whole.y_mm, board.length_mm, board.width_mm) if whole else None
    return Look(grown, board.picture, board.back_picture, board.face == "back", board.turned, part)


def look_of_sides(job: Job, other: Board | None = None) -> Look:
    """The look of the sides' board, or of another they might come from, and where its leaves would show if it were
    opened like a book.
    """
    board = other or job.stock.board
    look = look_of(board)
    leaf = leaf_mm(job, max(job.design.form.thicknesses_mm)) or board.thickness_mm / 2
    kerf = cutter(job, "resaw").least_mm
    return look._replace(leaves_mm=(leaf - SURFACING_MM / 2, leaf + kerf + SURFACING_MM / 2))
