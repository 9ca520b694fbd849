"""The list of all pieces, each with its features, in its place, whatever kinds of parts there are."""

from collections.abc import Mapping, Sequence
from typing import Final, get_args

from peristyle.model.design import replace
from peristyle.model.panels import InsertOf
from peristyle.planning.making.kind import Kind, Settled
from peristyle.planning.making.parts.boards import board_of
from peristyle.planning.making.piece import Feature, Piece

_NOT_OF_BOARDS: Final = ("segments", *get_args(InsertOf))  # what panels are of that come from no board


def plan_pieces(
    plan: Settled, kinds: Sequence[Kind], cut: Mapping[str, Sequence[Feature]]
) -> tuple[Piece, ...]:
    """All pieces in the order of the kinds, each with what is `cut` into it; nothing where the ring does not stand."""
    if not plan.ring.stands:
        return ()
    return tuple(
        _from_board(plan, replace(piece, features=tuple(cut[piece.id])) if piece.id in cut else piece)
        for kind in kinds
        for piece in kind.pieces(plan)
    )


def _from_board(plan: Settled, piece: Piece) -> Piece:
    """The piece with the board it comes from, where the maker has named one for such parts."""
    board = board_of(plan.job, piece.part)
    if board is None or (piece.part == "panel" and piece.stock in _NOT_OF_BOARDS):
        return piece
    made: Piece = replace(
        piece, stock=board.name, says=(*piece.says, "from_board"), names=piece.names | {"board": board.name}
    )
    return made
