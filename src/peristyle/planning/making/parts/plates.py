"""Hardware that is screwed to the faces: latches over the lid's joint, brackets round the corners."""

from collections.abc import Iterable, Iterator, Sequence
from typing import Final

from peristyle.core.outlines import slot
from peristyle.model.design import Brackets, Latch
from peristyle.planning.making.kind import Kind, Phase, Settled
from peristyle.planning.making.parts.plate_findings import plate_findings
from peristyle.planning.making.parts.plate_places import Plate, angles_deg, plates, screws_out_mm
from peristyle.planning.making.piece import Feature
from peristyle.planning.making.setting import Setting, bit, height
from peristyle.planning.making.step import Step, make

_SQUARE_DEG: Final = 0.5  # brackets are bought square; what is further off is bent (our rule)
# What is struck with a knife or bored is measured from there.
_RIMS: Final = ("the body's rim, along the face", "the lid's rim, along the face")
_EDGES: Final = {
    "bottom": "the bottom edge, along the face",
    "top": "the top edge, along the face",
    "both": "the bottom or the top edge, along the face",
}
_ARRIS: Final = "the corner's arris, level"
_KNIFE: Final = "the knife line"
_BIT: Final = "the middle of the bit"


def _pilots(plate: Plate) -> Iterator[tuple[str, Feature]]:
    piece = f"side.{plate.side.name}"
    if plate.in_mm > 0:
        yield (
            piece,
            Feature(f"{piece}.{plate.name}", "recess", "show", outline=plate.outline, in_mm=plate.in_mm),
        )
    deep = plate.in_mm + plate.screw_mm
    for number, (x, y) in enumerate(plate.screws, 1):
        hole = slot(x, y, plate.bore_mm, plate.bore_mm)
        yield (
            piece,
            Feature(f"{piece}.{plate.name}.screw.{number}", "pilot", "show", outline=hole, in_mm=deep),
        )


def _features(plan: Settled) -> Iterator[tuple[str, Feature]]:
    for plate in plates(plan):
        yield from _pilots(plate)


def _steps(plan: Settled) -> Iterator[tuple[Phase, Step]]:
    section, every = plan.job.design.section, list(plates(plan))
    latch = [plate for plate in every if plate.word == "latch"]
    if section.latch is not None and latch:
        yield from _latch_steps(section.latch, latch)
    if section.brackets is not None and plan.ring.stands:
        leaves = [plate for plate in every if plate.word == "bracket"]
        yield from _bracket_steps(plan, section.brackets, leaves)


def _latch_steps(latch: Latch, own: Sequence[Plate]) -> Iterator[tuple[Phase, Step]]:
    numbers = {
        "count": float(latch.count), "wide_mm": latch.wide_mm, "body_mm": latch.body_mm, "lid_mm": latch.lid_mm,
        "screw_mm": latch.screw_mm, "in_mm": latch.in_mm, "screws": float(2 * latch.count * latch.screws),
    }  # fmt: skip
    names, reach = {"side": own[0].side.name}, (latch.body_mm, latch.lid_mm)
    if latch.in_mm > 0:
        lines = dict.fromkeys(round(x, 6) for plate in own for x, _y in plate.outline)
        ups = [Setting("fence", mm, "mm", rim, _KNIFE) for rim, mm in zip(_RIMS, reach, strict=True)]
        beds = (*(_along(x, _KNIFE) for x in sorted(lines)), *ups, height(latch.in_mm))
        yield "last", _step("plate_recess", own, beds, numbers, names)
    across = dict.fromkeys(round(x, 6) for plate in own for x, _y in plate.screws)
    ups = [Setting("fence", mm / 2, "mm", rim, _BIT) for rim, mm in zip(_RIMS, reach, strict=True)]
    bored = (*(_along(x, _BIT) for x in across), *ups, bit(latch.bore_mm), height(latch.screw_mm))
    yield "last", _step("plate_bore", own, bored, numbers, names)
    yield "finish", _step("plate_screw", own, (), numbers, names)


def _bracket_steps(plan: Settled, brackets: Brackets, own: Sequence[Plate]) -> Iterator[tuple[Phase, Step]]:
    count = len(plan.ring.sides) * (2 if brackets.at == "both" else 1)
    numbers = {
        "count": float(count), "long_mm": brackets.long_mm, "high_mm": brackets.high_mm, "in_mm": brackets.in_mm,
        "screw_mm": brackets.screw_mm, "screws": 2.0 * count * brackets.screws,
    }  # fmt: skip
    names, edge = {"row": str(brackets.at)}, _EDGES[brackets.at]
    if brackets.in_mm > 0:
        beds = (
            Setting("stop", brackets.long_mm, "mm", _ARRIS, _KNIFE),
            Setting("fence", brackets.high_mm, "mm", edge, _KNIFE),
            height(brackets.in_mm),
        )
        yield "last", _step("plate_recess", own, beds, numbers, names)
    outs = [Setting("stop", mm, "mm", _ARRIS, _BIT) for mm in screws_out_mm(brackets)]
    up = Setting("fence", brackets.high_mm / 2, "mm", edge, _BIT)
    bent = any(abs(angle - 90.0) > _SQUARE_DEG for angle in angles_deg(plan))
    bored = (*outs, up, bit(brackets.bore_mm), height(brackets.screw_mm))
    yield "last", _step("plate_bore", own, bored, numbers, names, *(["plate_bore.bent"] if bent else []))
    yield "finish", _step("plate_screw", own, (), numbers, names)


def _along(mm: float, to: str) -> Setting:
    return Setting("stop", mm, "mm", "the start of the side's bottom edge, square to it", to)


def _step(
    operation: str,
    own: Sequence[Plate],
    settings: Iterable[Setting],
    numbers: dict[str, float],
    names: dict[str, str],
    *more: str,
) -> Step:
    pieces, word = tuple(dict.fromkeys(f"side.{plate.side.name}" for plate in own)), own[0].word
    kind = {"plate_recess": "recess", "plate_bore": "pilot"}.get(operation)
    made = [feature.id for plate in own for _piece, feature in _pilots(plate) if feature.kind == kind]
    return make(
        operation, pieces, word, tool="drill_press" if operation == "plate_bore" else "by_hand", makes=made,
        settings=settings, passes=max(1, len(made)), title=f"{operation}.{word}", says=(f"{operation}.{word}", *more),
        numbers=numbers, names=names, lies="show_up" if made else "flat",
    )  # fmt: skip


PLATES: Final = Kind("plate", features=_features, steps=_steps, findings=plate_findings)
