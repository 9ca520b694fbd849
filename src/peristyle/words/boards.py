"""Boards, suggestions and what wood costs, in words."""

from typing import TYPE_CHECKING

from peristyle.core.lengths import Format
from peristyle.model.design import corner_name, side_name
from peristyle.model.stock import Board
from peristyle.planning.plan import Plan
from peristyle.planning.stock.reckoned import BOARD_FOOT_MM3, Reckoned, offcuts, reckoned
from peristyle.reference.woods import wood_named

if TYPE_CHECKING:  # the search brings NumPy with it
    from peristyle.planning.stock.search import Suggestion
    from peristyle.wood.match import Scale

SAWN = {"plain": "plain-sawn", "quarter": "quarter-sawn", "rift": "rift-sawn"}
METHODS = {
    "square_first": "square, then bevel", "bevel_direct": "bevel off the board",
    "flip_shared": "turned over, cuts shared", "book": "opened like a book", "upright": "grain upright",
    "none": "no grain to match",
}  # fmt: skip

# What stands against a way of cutting, in a word; the finding says it whole.
AGAINST = {
    "flip_cannot_be": "not for this ring and saw", "upright_cannot_be": "not for this ring and saw",
    "direct_cannot_be": "not for this ring and saw", "resaw_too_thin": "the board is too thin",
    "board_too_narrow": "the board is too narrow", "board_too_short": "the board is too short",
    "strip_off_end": "it runs off the board's end",
}  # fmt: skip


NO_START = "No start keeps clear of all that is marked: try the other face or edge, or another board."
NOT_HELD = (
    "The ring does not go on the board as it is to be cut: see what stands against it, or try another way of cutting "
    "or another board."
)
NOT_SEARCHED = "There is no start to search: where the grain is not matched, it makes no difference."
NO_SPARE = (
    "No board of the rack holds this side, clear of what is marked on it: put spare wood on the rack first."
)
_MOST_NAMED = 4  # corners, one by one


def deciding(corners: tuple[int, ...], count: int) -> str:
    """Which corners a score is of, of so many that the box has."""
    names = [corner_name(k, count) for k in corners]
    if len(names) < 2:
        return "the closing corner"
    if len(names) == count:
        return "the worst of all corners"
    if len(names) > _MOST_NAMED:
        return f"the worst of {len(names)} corners"
    return f"the worst of corners {', '.join(names[:-1])} and {names[-1]}"


def board_line(board: Board, fmt: Format) -> str:
    """A board in a line: its name, size, wood, and what is to be known of it."""
    size = f"{fmt.length(board.length_mm)} × {fmt.length(board.width_mm)} × {fmt.length(board.thickness_mm, unit=True)}"
    kind = "sheet stock" if board.sheet else f"{wood_named(board.wood).words.lower()}, {SAWN[board.sawn]}"
    parts = [size, kind]
    parts += [", ".join(board.looks)] if board.looks else []
    parts += [f"{len(board.marks)} marked"] if board.marks else []
    parts += ["a picture of its own"] if board.picture else []
    parts += [f"price {fmt.number(board.price, 2)}"] if board.price else []
    return f"{board.name}: {'; '.join(parts)}"


def nothing_found(fits: bool, *, replaces: bool) -> str:
    """Why a search found nothing."""
    return NO_SPARE if replaces else NO_START if fits else NOT_HELD


def suggestion_line(one: "Suggestion", own: Board, fmt: Format, count: int) -> str:
    """A suggestion in a line."""
    if one.replaces is not None:
        side, before = side_name(one.replaces), (one.replaces - 1) % count
        corners = ", ".join(f"{corner_name(k, count)} {one.corners[k]:.0f}" for k in (before, one.replaces))
        away = fmt.length(one.shift_mm, unit=True)
        return f"side {side} from “{one.board}”, {away} cut away first; corners {corners}"
    match = f"match {one.match:.0f}" + (", as good as wood that runs on" if one.runs_on else "")
    parts = [match, f"start {fmt.length(one.shift_mm, unit=True)}"]
    parts += [f"board “{one.board}”"] if one.rack is not None else []
    parts += [f"{one.face} up"] if one.face != own.face else []
    parts += ["turned end for end"] if one.turned != own.turned else []
    if one.stretch_mm:
        parts.append(
            f"ring {'longer' if one.stretch_mm > 0 else 'shorter'} by {fmt.length(abs(one.stretch_mm), unit=True)}"
        )
    parts.append(
        "corners " + ", ".join(f"{corner_name(k, count)} {score:.0f}" for k, score in enumerate(one.corners))
    )
    parts += [f"{one.unmet} wish{'es' if one.unmet > 1 else ''} not met"] if one.unmet else []
    return "; ".join(parts)


def scale_words(scale: "Scale") -> str:
    """How the scores are made, in a sentence."""
    runs, strange = scale.runs_on_spread, scale.strange_spread
    return (
        "Scores: 100 as well as wood that truly runs on does on this board (unlikeness "
        f"{scale.runs_on:.3f}, for most between {runs[0]:.3f} and {runs[1]:.3f}), 0 as two edges taken at random "
        f"({scale.strange:.3f}, {strange[0]:.3f} to {strange[1]:.3f})."
    )


def volume(mm3: float, fmt: Format) -> str:
    """A volume in litres, or in board feet for a maker who works in inches."""
    if fmt.units == "in":
        return f"{fmt.number(mm3 / BOARD_FOOT_MM3, 2)} board feet"
    return f"{fmt.number(mm3 / 1e9, 5)} m³"


def reckoned_words(plan: Plan, fmt: Format) -> str:
    """What the sides take of their board, what is lost, what it costs, and what is left to keep."""
    made: Reckoned = reckoned(plan)
    of = "its boards" if plan.wrap.runs else f"the board's {volume(made.board_mm3, fmt)}"
    parts = [
        f"The box takes {volume(made.taken_mm3, fmt)} of {of}; "
        f"{fmt.number(100 * made.waste, 0)} % of that is lost in cuts, height and ends"
    ]
    parts += [f"it costs {fmt.number(made.cost, 2)}"] if made.cost is not None else []
    left = [
        f"{fmt.length(one.length_mm)} × {fmt.length(one.width_mm, unit=True)} {one.name.rpartition(', ')[2]}"
        for one in offcuts(plan)
    ]
    parts += [f"left to keep: {', '.join(left)}"] if left else []
    return "; ".join(parts) + "."
