"""What a board's picture depends on, read off the board."""

from peristyle.model.stock import Board
from peristyle.wood.looks import Grown, Look


def look_of(board: Board) -> Look:
    """The look of a board as it lies on the bench."""
    grown = Grown(
        board.wood, board.seed, board.length_mm, board.width_mm, board.thickness_mm, board.sawn, board.looks
    )
    return Look(grown, board.picture, board.back_picture, board.face == "back", board.turned)
