"""The kinds of parts there are. A new one is a module of `parts` and a line here."""

from typing import Final

from peristyle.planning.making.kind import Kind
from peristyle.planning.making.parts.banding import BANDING
from peristyle.planning.making.parts.blocks import BLOCKS
from peristyle.planning.making.parts.boards import BOARDS
from peristyle.planning.making.parts.corner_blocks import CORNER_BLOCKS
from peristyle.planning.making.parts.covers import COVERS
from peristyle.planning.making.parts.dividers import DIVIDERS
from peristyle.planning.making.parts.edge_strips import EDGE_STRIPS
from peristyle.planning.making.parts.edges import EDGES
from peristyle.planning.making.parts.false_floor import FALSE_FLOOR
from peristyle.planning.making.parts.feet import FEET
from peristyle.planning.making.parts.fittings import FITTINGS, INLAYS
from peristyle.planning.making.parts.hardware import HARDWARE
from peristyle.planning.making.parts.inner_rings import INNER_RINGS
from peristyle.planning.making.parts.keys import KEYS
from peristyle.planning.making.parts.leaves import LEAVES
from peristyle.planning.making.parts.lid import LID
from peristyle.planning.making.parts.liner import LINER
from peristyle.planning.making.parts.lining import LINING
from peristyle.planning.making.parts.moulding import MOULDING
from peristyle.planning.making.parts.openings import OPENINGS
from peristyle.planning.making.parts.panels import PANELS
from peristyle.planning.making.parts.plates import PLATES
from peristyle.planning.making.parts.segment_splines import SEGMENT_SPLINES
from peristyle.planning.making.parts.sides import SIDES
from peristyle.planning.making.parts.splines import SPLINES
from peristyle.planning.making.parts.strip import STRIP
from peristyle.planning.making.parts.work import WORK

KINDS: Final[tuple[Kind, ...]] = (
    WORK,
    SIDES,
    MOULDING,
    LEAVES,
    EDGE_STRIPS,
    PANELS,
    SEGMENT_SPLINES,
    LID,
    STRIP,
    FALSE_FLOOR,
    COVERS,
    LINER,
    INNER_RINGS,
    DIVIDERS,
    SPLINES,
    CORNER_BLOCKS,
    KEYS,
    INLAYS,
    EDGES,
    OPENINGS,
    HARDWARE,
    FITTINGS,
    PLATES,
    BANDING,
    FEET,
    BLOCKS,
    LINING,
    BOARDS,
)
