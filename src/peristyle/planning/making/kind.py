"""A kind of part: all that planning knows of it, in one module of `parts`.

It adds to the four lists (pieces, what is cut into pieces, steps, findings); nothing that reads them knows what
kinds there are.
"""

from collections.abc import Callable, Iterable
from typing import Final, Literal, NamedTuple, get_args

from msgspec import Struct

from peristyle.model.job import Job
from peristyle.planning.corners.blocks import BlocksPlan
from peristyle.planning.corners.frame import Frame
from peristyle.planning.corners.keys import KeysPlan
from peristyle.planning.corners.splines import SplinesPlan
from peristyle.planning.findings import Finding
from peristyle.planning.form.ring import RingPlan
from peristyle.planning.inside.contents import ContentsPlan
from peristyle.planning.inside.divider_plan import DividersPlan
from peristyle.planning.inside.liner import LinerPlan
from peristyle.planning.making.piece import Feature, Piece
from peristyle.planning.making.step import Step
from peristyle.planning.section.levels import SectionPlan
from peristyle.planning.stock.wrap import WrapPlan

# The order of the work; within a phase that of the kinds, and of each kind's own steps.
Phase = Literal[
    "strip", "mark", "ends", "pieces", "bevels", "flat", "dry", "panels", "finish_inside", "glue", "true", "sand",
    "keys", "close", "lid", "seat", "mold", "set", "inside", "fitting", "dividers", "rings", "last", "finish",
]  # fmt: skip
PHASES: Final[tuple[Phase, ...]] = get_args(Phase)


class Settled(Struct, frozen=True, dict=True):
    """What planning has settled before there are pieces: the job, where everything stands, how it is made."""

    job: Job
    ring: RingPlan
    wrap: WrapPlan
    section: SectionPlan
    keys: KeysPlan
    contents: ContentsPlan
    liner: LinerPlan | None
    dividers: DividersPlan
    splines: SplinesPlan = SplinesPlan()
    corner_blocks: BlocksPlan = BlocksPlan()
    frames: tuple[Frame, ...] = ()  # of every corner, where something strengthens them


def _nothing(_plan: Settled) -> tuple[()]:
    return ()


def cut_into(plan: Settled, kinds: Iterable["Kind"]) -> dict[str, list[Feature]]:
    """What these kinds of parts cut into each piece, by its id. Each kind is asked once for all who want to know."""
    found: dict[str, list[Feature]] = {}
    known: dict[Kind, list[tuple[str, Feature]]] = plan.__dict__.setdefault("_cut", {})
    for kind in kinds:
        if kind not in known:
            known[kind] = list(kind.features(plan))
        for piece, feature in known[kind]:
            found.setdefault(piece, []).append(feature)
    return found


class Kind(NamedTuple):
    """What a kind of part adds. `features` go into pieces of any kind, by their ids."""

    name: str
    pieces: Callable[[Settled], Iterable[Piece]] = _nothing
    features: Callable[[Settled], Iterable[tuple[str, Feature]]] = _nothing
    steps: Callable[[Settled], Iterable[tuple[Phase, Step]]] = _nothing
    findings: Callable[[Settled], Iterable[Finding]] = _nothing
