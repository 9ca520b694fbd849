"""Structure-aware damage to design files, and what must hold whatever comes of it."""

import copy
import json
import math
import random
import time
from typing import Any

from peristyle.core.errors import PeristyleError
from peristyle.core.lengths import Format
from peristyle.drawing.board import board_drawing
from peristyle.drawing.corner import corner_drawing
from peristyle.drawing.eye import Eye
from peristyle.drawing.frieze import frieze_drawing
from peristyle.drawing.largest import largest_drawing
from peristyle.drawing.operations import operation_drawing
from peristyle.drawing.section import section_drawing
from peristyle.drawing.size import size_drawing
from peristyle.drawing.solid import Solid
from peristyle.export.cutlist import cut_list
from peristyle.export.planjson import as_data
from peristyle.export.plantext import as_text
from peristyle.export.sheet import shop_sheet
from peristyle.model.job import Job
from peristyle.planning.mending import mended
from peristyle.planning.plan import plan
from peristyle.storage import codec, examples
from peristyle.words.findings import offered, said
from support.designs import random_design
from support.mending import not_mended

REFUSED_S = 0.5
AWKWARD: tuple[Any, ...] = (
    None, 0, -1, 1, 3, 0.01, 1e-9, 0.1, 1e9, 1e308, -0.0, 20000, 19999.9, 360, 361, 2**63, 10**400, True, "", "x", "12",
    "\u0000", "🪵" * 50, [], [1], [[]], {}, {"kind": "regular"}, 45.0, 89.9, 179.99, 1000, 10000, "rectangle", "inside",
)  # fmt: skip


def seeds(chance: random.Random) -> dict[str, Any]:
    """A sound file to damage: an example, or any box at all."""
    job = examples.load(chance.choice(examples.names())) if chance.random() < 0.4 else random_design(chance)
    raw: dict[str, Any] = json.loads(codec.encode(job))
    return raw


def places(value: Any, path: tuple[Any, ...] = ()) -> list[tuple[Any, ...]]:
    """Every place in the data."""
    found = [path] if path else []
    items = value.items() if isinstance(value, dict) else enumerate(value) if isinstance(value, list) else ()
    for key, inner in items:
        found += places(inner, (*path, key))
    return found


def damaged(raw: dict[str, Any], chance: random.Random) -> dict[str, Any]:
    """Some values changed, left out, doubled, exchanged; mostly still in the shape of a file."""
    whole = copy.deepcopy(raw)
    for _ in range(chance.choice((1, 1, 2, 3))):
        spots = places(whole["design"] if isinstance(whole.get("design"), dict) else whole)
        if not spots:
            break
        *way, last = chance.choice(spots)
        holder: Any = whole["design"] if isinstance(whole.get("design"), dict) else whole
        for key in way:
            holder = holder[key]
        now = holder[last]
        match chance.randrange(12):
            case 0:
                holder[last] = copy.deepcopy(chance.choice(AWKWARD))
            case 1 if isinstance(holder, dict):
                del holder[last]
            case 2 if isinstance(now, list):
                holder[last] = now * chance.choice((0, 2, 40))
            case 3 if isinstance(holder, dict):
                holder[f"{last}x"] = now
            case _ if isinstance(now, int | float) and not isinstance(now, bool):
                scale = chance.choice((0.001, 0.03, 0.5, 0.99, 1.01, 2, 30, 1000, -1))
                whole_number = isinstance(now, int) and abs(now) < 2**53
                holder[last] = int(now * scale) if whole_number else float(min(now, 1e300)) * scale
            case _:
                holder[last] = copy.deepcopy(chance.choice(AWKWARD))
    return whole


def read(raw: dict[str, Any], within_s: float = math.inf) -> Job | None:
    """The design, or None where it is refused with one clear line; in time, where that is asked."""
    start = time.perf_counter()
    try:
        return codec.decode(json.dumps(raw).encode(), "fuzz")
    except PeristyleError as error:
        took = time.perf_counter() - start
        assert took < within_s, f"refused only after {took:.2f} s"
        assert len(str(error)) < 12_000
        return None


def planned(job: Job) -> None:
    """Planned, told as data and as text, and the same again from its own file."""
    found = plan(job)
    json.dumps(as_data(found), allow_nan=False)
    as_text(found)
    assert codec.decode(codec.encode(job), "again") == job


def everything(job: Job) -> None:
    """Every drawing, every export, and every fix that is offered: it mends what it says."""
    found = plan(job)
    for fmt in (Format("mm"), Format("in", ",")):
        for finding in found.findings:
            assert len(said(finding, fmt)) > 20
            assert all(offered(fix, fmt) for fix in finding.fixes)
        for draw in (size_drawing, section_drawing, board_drawing, frieze_drawing, largest_drawing):
            draw(found, fmt)
        corner_drawing(found, 0, None, fmt)
        for cut in found.steps[:30]:
            operation_drawing(found, cut, fmt)
    Solid(found).faces(Eye())
    cut_list(found)
    shop_sheet(found)
    for finding in mended(found):
        for fix in finding.fixes:
            why = not_mended(found, finding, fix)
            assert not why, why
