"""A numbered board: where on it every side's show face comes from, told by the steps alone.

Reads of the steps what a maker would: what is trimmed off, the order of the letters, stops, tilts and what one cut
takes; never where planning has laid the sides.
"""

import math
from typing import NamedTuple

from peristyle.planning.making.step import Step
from peristyle.planning.plan import Plan


class Came(NamedTuple):
    """Which plane of the board a show face was, and where its bottom start and its bottom end and top start lay."""

    plane: str
    start: tuple[float, float]
    end: tuple[float, float]
    top: tuple[float, float]
    board: str = ""


def _stop_of(step: Step, name: str) -> float:
    return next(
        s.value for s in step.settings if s.gauge == "stop" and s.end is None and (not s.of or name in s.of)
    )


def came_from(made: Plan) -> dict[str, Came]:
    """Where each side of an upright box comes from, by its id."""
    steps = [s for s in made.steps if any(p.startswith("side.") for p in s.pieces)]
    trims = [s for s in steps if s.operation == "trim"]
    method = made.job.stock.board.method
    rip = next((s for s in steps if s.operation in ("rip", "strips")), None)
    low = (
        rip.numbers.get("low_mm", rip.numbers.get("edge_mm", 0.0) + rip.numbers.get("across_mm", 0.0))
        if rip
        else 0.0
    )
    if method == "upright":
        return _upright(steps, trims[0].amount("stop"), low)
    assert rip is not None
    high = rip.amount("width")
    if rip.title.endswith(".on"):
        return _from_boards(made, steps)
    if method in ("bevel_direct", "flip_shared"):
        return _bevelled(made, steps, trims[0].amount("stop"), low, high)
    found: dict[str, Came] = {}
    for trim in trims:
        x = trim.amount("stop")
        plane = {"trim.leaf_1": "leaf_1", "trim.leaf_2": "leaf_2"}.get(trim.title, "face")
        for step in (s for s in steps if s.operation == "crosscut"):
            left = step.numbers.get("left_mm", 0.0) / 2
            for name in (name for name in step.pieces if name in trim.pieces):
                stop = step.amount("stop")
                a, b = x + left, x + stop - left
                if plane == "leaf_1":  # it lies turned end for end
                    a, b = made.job.stock.board.length_mm - a, made.job.stock.board.length_mm - b
                found[name] = Came(plane, (a, low), (b, low), (a, low + high))
                x += stop + (step.cut_mm or 0.0)
    return found


def _from_boards(made: Plan, steps: list[Step]) -> dict[str, Came]:
    """Off several boards' strips: what was cut of each before, and what is cut away, tells where the next lies."""
    strips = {
        name: rip for rip in steps if "board" in rip.names and rip.operation == "rip" for name in rip.pieces
    }
    at: dict[str, float] = {}
    found = {}
    for step in steps:
        if step.operation == "trim":
            board = strips[step.pieces[0]].names["board"]
            at[board] = at.get(board, 0.0) + step.amount("stop")
        for name in step.pieces if step.operation == "crosscut" else ():
            rip, left, stop = strips[name], step.numbers.get("left_mm", 0.0) / 2, step.amount("stop")
            board = rip.names["board"]
            low = rip.numbers.get("edge_mm", 0.0) + rip.numbers.get("across_mm", 0.0)
            x = at.get(board, 0.0)
            a, b = x + left, x + stop - left
            own = "" if board == made.job.stock.board.name else board
            found[name] = Came("face", (a, low), (b, low), (a, low + rip.amount("width")), own)
            at[board] = x + stop + (step.cut_mm or 0.0)
    return found


def _bevelled(made: Plan, steps: list[Step], x: float, low: float, high: float) -> dict[str, Came]:
    """Off the board by bevels: two cuts crossing at the show face, or one for two pieces and the board turned over."""
    step = next(s for s in steps if s.operation == "bevel")
    tilt = math.radians(step.amount("tilt"))
    thick = made.pieces[0].thickness_mm
    kerf = made.job.shop.saw.kerf_mm / math.cos(tilt)
    turning = "bevel.flip" in step.says
    # Set clear of the line and crept up to it: so much is gone on either side of it.
    clear = step.numbers["creep_mm"] if "bevel.direct_creep" in step.says else 0.0
    found, over = {}, False
    x += clear
    for name in step.pieces:
        end = x + _stop_of(step, name)
        plane, foot, head = ("under", low + high, low) if over else ("face", low, low + high)
        found[name] = Came(plane, (x, foot), (end, foot), (x, head))
        x = end + kerf + 2 * clear
        if turning:
            x -= thick * math.tan(tilt)  # where the cut comes out on the other face, which is up next
            over = not over
    return found


def _upright(steps: list[Step], x: float, low: float) -> dict[str, Came]:
    heights = next(s for s in steps if s.operation == "heights")
    high, found, y = heights.amount("stop"), {}, low
    for step in (s for s in steps if s.operation == "strips"):
        wide, left = step.amount("width"), step.numbers["creep_mm"]
        for number, name in enumerate(step.pieces):
            row, strip = divmod(number, step.passes)  # of several strips at once the letters run across them
            foot = x + row * (high + (heights.cut_mm or 0.0)) + high  # tops toward the trimmed end
            at = y + strip * (wide + (step.cut_mm or 0.0))
            found[name] = Came("face", (foot, at + left), (foot, at + wide - left), (foot - high, at + left))
        y += step.passes * (wide + (step.cut_mm or 0.0))
    return found
