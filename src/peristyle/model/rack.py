"""Boards put on the rack, taken from it, and what is left of a board once the sides are out of it."""

from peristyle.core.errors import PeristyleError
from peristyle.model.design import replace
from peristyle.model.stock import MOST_BOARDS, Board, CutFrom, Mark, Stock, took


def names_of(stock: Stock) -> tuple[str, ...]:
    """The names of all boards, that of the sides first."""
    return (stock.board.name, *(board.name for board in stock.rack))


def free_name(stock: Stock, wanted: str) -> str:
    """A name no board has: the wanted one, or that with a number."""
    taken = names_of(stock)
    if wanted not in taken:
        return wanted
    return next(name for n in range(2, MOST_BOARDS + 3) if (name := f"{wanted[:110]} {n}") not in taken)


def added(stock: Stock, board: Board) -> Stock:
    """With another board on the rack, under a name of its own. Raises PeristyleError where the rack is full."""
    if len(stock.rack) >= MOST_BOARDS:
        raise PeristyleError(f"The rack holds {MOST_BOARDS} boards: take one off first.")
    named: Board = replace(board, name=free_name(stock, board.name or "Board"))
    made: Stock = replace(stock, rack=(*stock.rack, named))
    return made


def put_with(own: tuple[Board, ...], board: Board) -> tuple[Board, ...]:
    """The maker's own boards with one more, under a name that none of them has; one that is there already stays."""
    if board in own:
        return own
    taken, name, number = {other.name for other in own}, board.name, 2
    while name in taken:
        name, number = f"{board.name[:110]} {number}", number + 1
    named: Board = replace(board, name=name)
    return (*own, named)


def number_of(stock: Stock, name: str) -> int:
    """The number on the rack of the board of that name. Raises PeristyleError where there is none."""
    names = [board.name for board in stock.rack]
    if name not in names:
        known = ", ".join(names) or "none"
        raise PeristyleError(f"“{name[:60]}” is no board on the rack. There: {known}.")
    return names.index(name)


def removed(stock: Stock, name: str) -> Stock:
    """Without a board of the rack; parts that were to come from it come from other wood."""
    number = number_of(stock, name)
    parts = {part: "" for part in stock.parts.__struct_fields__ if getattr(stock.parts, part) == name}
    made: Stock = replace(
        stock, rack=(*stock.rack[:number], *stock.rack[number + 1 :]), parts=replace(stock.parts, **parts)
    )
    return made


def chosen(stock: Stock, name: str) -> Stock:
    """The sides from the board of that name."""
    return stock if name == stock.board.name else took(stock, number_of(stock, name))


def part_of(board: Board, name: str, x: float, y: float, length: float, width: float) -> Board:
    """A part of a board as it lies on the bench, a board of its own: its size, its part of the picture, its marks."""
    # Back to how it is pictured, since that is how a board is kept.
    (xa, ya), (xb, yb) = board.lying(x, y), board.lying(x + length, y + width)
    x0, y0 = min(xa, xb), min(ya, yb)
    whole = board.cut_from or CutFrom(length_mm=board.length_mm, width_mm=board.width_mm)
    marks = []
    for mark in board.marks:
        low, high = max(mark.x_mm, x0), min(mark.x_mm + mark.length_mm, x0 + length)
        down, up = max(mark.y_mm, y0), min(mark.y_mm + mark.width_mm, y0 + width)
        if high - low > 0.01 and up - down > 0.01:
            moved: Mark = replace(
                mark, x_mm=low - x0, y_mm=down - y0, length_mm=high - low, width_mm=up - down, sides=()
            )
            marks.append(moved)
    share = length * width / (board.length_mm * board.width_mm)
    made: Board = replace(
        board, name=name, length_mm=length, width_mm=width, marks=tuple(marks), shift_mm=0.0, across_mm=0.0,
        edge_mm=0.0, face="front", turned=False, price=round(board.price * share, 2), method="square_first",
        cut_from=replace(whole, x_mm=whole.x_mm + x0, y_mm=whole.y_mm + y0),
    )  # fmt: skip
    return made
