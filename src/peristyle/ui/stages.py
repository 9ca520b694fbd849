"""The stages of the work: one table for the column, the menu, the keys and the views."""

from collections.abc import Callable
from typing import Final, NamedTuple

from peristyle.core.lengths import Format
from peristyle.planning.findings import Finding
from peristyle.planning.plan import Plan
from peristyle.words.corners import told


class Stage(NamedTuple):
    """One stage. Its view is the module of its name; `words` has the menu's mnemonic; `figure` tells the most.

    `late` is a figure that takes working out: it waits until a drag rests.
    """

    id: str
    words: str
    why: str
    figure: Callable[[Plan, Format], str]
    late: bool = False

    @property
    def title(self) -> str:
        """What it is called."""
        return self.words.replace("&", "")


def _size(plan: Plan, fmt: Format) -> str:
    sides = plan.ring.sides
    bevels = sorted({round(abs(s.end.bevel_deg), 4) for s in sides if s.end.bevel_deg}) or [0.0]
    angle = fmt.angle(bevels[0]) if len(bevels) == 1 else f"{fmt.angle(bevels[0])}…"
    return f"{len(sides)} × {angle}"


def _section(plan: Plan, fmt: Format) -> str:
    lid = plan.section.lid
    body = fmt.length(plan.section.finished_mm)
    return f"{body}, lid {fmt.length(lid.lid_mm)}" if lid else f"{body} high"


def _board(plan: Plan, fmt: Format) -> str:
    return f"{fmt.length(plan.wrap.needed_mm)} of {fmt.length(plan.job.stock.board.length_mm)}"


def _corners(plan: Plan, fmt: Format) -> str:
    if len(plan.keys.sets) == 1 and not plan.splines.splines and plan.keys.sets[0].keys.kind == "straight":
        return f"{len(plan.keys.heights_mm)} × {len(plan.keys.sets[0].corners)} keys"
    return told(plan)


def _saw(plan: Plan, fmt: Format) -> str:
    return f"{len(plan.steps)} steps"


def _fit(plan: Plan, fmt: Format) -> str:
    del fmt
    count = len(plan.job.measured)
    return f"{count} measured" if count else "nothing measured"


def _log(plan: Plan, fmt: Format) -> str:
    del fmt
    count = len(plan.job.log)
    return f"{count} {'entry' if count == 1 else 'entries'}" if count else "nothing logged"


STAGES: Final = (
    Stage("size", "&Size", "Decide how large it is, and what it holds", _size),
    Stage("section", "S&ection", "Decide what closes it below and above, and every height", _section),
    Stage("board", "&Board", "Decide where on the board each side is cut", _board),
    Stage("corners", "&Corners", "Decide what holds the corners together", _corners),
    Stage("saw", "Sa&w", "Decide in which order and at which settings it is cut", _saw, late=True),
    Stage("fit", "Fi&t", "Decide what to do about the wood as it came out", _fit),
    Stage("log", "Lo&g", "Decide when it is done, and keep what it taught", _log),
)


def figure(plan: Plan, stage: Stage, fmt: Format) -> str:
    """The one telling figure of a stage."""
    return stage.figure(plan, fmt) if plan.ring.sides else "no ring yet"


def stage_of(finding: Finding) -> str:
    """The stage a finding belongs to."""
    if finding.code.startswith("key"):
        return "corners"
    if finding.code.startswith("ring_misses"):
        return "fit"
    kind = finding.place.kind
    return kind if kind in ("board", "section", "fit") else "size"
