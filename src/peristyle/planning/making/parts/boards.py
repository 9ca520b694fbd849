"""What the boards ask for: parts that come from boards of the rack."""

from collections.abc import Iterator
from typing import Final

from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import Gable, Insert
from peristyle.model.job import Job
from peristyle.model.stock import Board
from peristyle.planning.findings import Finding, Fix, Place
from peristyle.planning.making.kind import Kind, Settled
from peristyle.planning.section.covers import roof_of

# Which of the stock's choices a part of each kind follows.
OF_PART: Final[dict[str, str]] = {
    "panel": "panels",
    "roof": "panels",
    "liner": "liner",
    "fillet": "liner",
    "tray": "liner",
    "key": "keys",
}


def board_of(job: Job, part: str) -> Board | None:
    """The board a kind of part comes from, None where the maker has named none."""
    name = getattr(job.stock.parts, OF_PART[part]) if part in OF_PART else ""
    known = {board.name: board for board in (job.stock.board, *job.stock.rack)}
    return known.get(name) if name else None


def _findings(plan: Settled) -> Iterator[Finding]:
    """Parts that do not come out of the board they are to come from."""
    needed = [
        ("panel", p.thickness_mm, p.length_mm, p.width_mm)
        for p in plan.section.panels
        if not p.segments and not (p.name == "lid" and isinstance(plan.job.design.section.cover, Insert))
    ]
    roof, cover = roof_of(plan.job.design, plan.ring.slabs), plan.job.design.section.cover
    if roof is not None and isinstance(cover, Gable):
        needed.append(("panel", cover.thickness_mm, roof.long_mm + 2 * cover.ends_mm, roof.slope_mm))
    if plan.liner is not None and plan.liner.ring.sides:
        own = plan.liner.ring.sides
        needed.append((
            "liner", max(s.thickness_mm for s in own), max(s.blank_mm for s in own), max(s.rip_mm for s in own)
        ))  # fmt: skip
    for part, thick, long, wide in needed:
        board = board_of(plan.job, part)
        if board is None:
            continue
        numbers = {"thick_mm": thick, "long_mm": long, "wide_mm": wide, "board_mm": board.sound_thickness_mm}
        fix = Fix("other_wood", ((f"stock.parts.{OF_PART[part]}", ""),))
        names = {"part": part, "board": board.name}
        if board.sound_thickness_mm < thick - DEFAULT.length_mm:
            yield Finding("part_board_thin", "caution", Place("board"), numbers, (fix,), names)
        sizes = sorted((long, wide))
        if any(have < want - DEFAULT.length_mm for have, want in
               zip(sorted((board.length_mm, board.width_mm)), sizes, strict=True)):  # fmt: skip
            yield Finding("part_board_small", "caution", Place("board"), numbers, (fix,), names)


BOARDS: Final = Kind("boards", findings=_findings)
