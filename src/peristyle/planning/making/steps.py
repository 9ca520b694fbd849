"""From the operations in their order to steps: pieces by id, what each makes, its settings as values."""

from collections.abc import Iterator, Sequence
from typing import Final, Literal

from peristyle.model.design import side_name
from peristyle.model.job import Saw
from peristyle.planning.cut import Cut
from peristyle.planning.making.piece import Piece
from peristyle.planning.making.step import After, Lies, Setting, Step

_TOOLS: Final = {
    "plane": "planer", "rip": "table_saw", "groove": "table_saw", "dado": "table_saw", "panel": "table_saw",
    "keys": "table_saw", "lid": "table_saw", "segment": "table_saw", "divider": "table_saw", "halve": "table_saw",
    "dry_fit": "tape", "glue": "clamps", "segment_glue": "clamps", "liner_fit": "tape",
}  # fmt: skip

# What comes before an operation on the same part, and why; the last such step there is.
_AFTER: Final[dict[str, tuple[tuple[str, str], ...]]] = {
    "rip": (("plane", "a saw kerf is set by a face that is flat and as thick as it will be"),
            ("crosscut", "sides that lean unlike each other are ripped one by one")),
    "groove": (("rip", "the ripped edge rides on the fence"),),
    "trim": (("rip", "the strip is crosscut from its ripped edge"),),
    "crosscut": (("trim", "the strip is measured from its trimmed end"),
                 ("groove", "grooves run in the long strip, so that they line up at every corner")),
    "bevel": (("crosscut", "the bevel dies at the end of the length"), ("trim", "the first bevel starts there"),
              ("groove", "the groove is cut before the ends are fragile")),
    "dado": (("bevel", "the dado is measured from the finished start"),),
    "dry_fit": (("bevel", "all miters are cut"), ("dado", "dadoes are cut while the sides lie flat")),
    "panel": (("dry_fit", "the panel is fitted to the ring as it came out"),
              ("segment_glue", "the panel is cut from its glued segments")),
    "segment_glue": (("segment", "all segments are cut"),),
    "glue": (("panel", "a panel goes in as the ring closes"), ("dry_fit", "a rehearsal comes before glue")),
    "keys": (("glue", "the slots cross glued corners"),),
    "lid": (("keys", "a key across the line would be cut"), ("glue", "the closed box is sawn round")),
    "liner_fit": (("lid", "the liner goes in from above"), ("bevel", "its sides are cut")),
    "halve": (("divider", "the dividers are at their length"),),
}  # fmt: skip


def plan_steps(cuts: Sequence[Cut], pieces: Sequence[Piece], saw: Saw) -> tuple[Step, ...]:
    """The steps, in the order of the operations."""
    known = {piece.id: piece for piece in pieces}
    named = list(known)
    steps: list[Step] = []
    done: dict[tuple[str, str], list[tuple[str, tuple[str, ...]]]] = {}
    taken: dict[str, int] = {}
    for cut in cuts:
        mine = _pieces_of(cut, named)
        own = _id(cut)
        taken[own] = taken.get(own, 0) + 1
        if taken[own] > 1:
            own = f"{own}.{taken[own]}"
        steps.append(
            Step(
                id=own,
                operation=cut.operation,
                tool=_tool(cut, saw),
                title=cut.title,
                pieces=mine,
                makes=tuple(_makes(cut, [known[name] for name in mine])),
                after=tuple(_after(cut, mine, done)),
                lies=_lies(cut),
                edge=cut.edge,
                settings=tuple(_settings(cut, saw)),
                passes=max(1, cut.count),
                setting=cut.setting,
                how=cut.how,
                cautions=cut.cautions,
            )
        )
        done.setdefault((cut.part, cut.operation), []).append((own, mine))
    return tuple(steps)


def _id(cut: Cut) -> str:
    """What the step does: part, operation, and on what."""
    words: list[str] = [cut.part, cut.operation]
    if cut.panels:
        words += cut.panels
    if cut.end in ("start", "end"):
        words.append(cut.end)
    if cut.operation in ("crosscut", "bevel", "dado", "groove", "lid", "rip") and cut.sides:
        words.append("_".join(side_name(i) for i in cut.sides))
    if cut.corners:
        words.append("_".join(cut.corners))
    if cut.items and not cut.panels:
        words.append("_".join(str(item + 1) for item in cut.items))
    return ".".join(words)


def _tool(cut: Cut, saw: Saw) -> str:
    if cut.operation == "bevel":
        return saw.kind
    if cut.operation in ("crosscut", "trim"):
        return "miter_saw" if saw.kind == "miter_saw" else "table_saw"
    return _TOOLS[cut.operation]


def _lies(cut: Cut) -> Lies:
    if cut.on_end:
        return "on_edge" if cut.operation == "rip" else "on_end"
    if cut.operation == "keys":
        return "in_cradle"
    if cut.operation == "lid":
        return "on_side"
    if cut.operation in ("groove", "dado"):
        return "show_up"
    if cut.operation in ("crosscut", "bevel", "rip"):
        return "inside_up" if cut.face_up == "inside" else "show_up"
    return "flat"


def _pieces_of(cut: Cut, named: Sequence[str]) -> tuple[str, ...]:
    """Ids of the pieces that the step is done to."""
    if cut.operation in ("panel", "segment", "segment_glue"):
        word = "panel" if cut.operation == "panel" else "segment"
        return tuple(name for name in named for panel in cut.panels if _is(name, word, panel))
    if cut.operation in ("divider", "halve"):
        dividers = [name for name in named if name.startswith("divider.")]
        return tuple(dividers[item] for item in cut.items if item < len(dividers))
    word = "liner" if cut.part == "liner" else "side"
    walls = [name for name in named if name.startswith(f"{word}.")]
    if cut.operation == "glue":
        return tuple(name for name in named if name.startswith(("side.", "panel.")))
    if not cut.sides:
        return tuple(walls)
    wanted = {f"{word}.{side_name(i)}" for i in cut.sides}
    return tuple(name for name in walls if name in wanted)


def _is(name: str, word: str, panel: str) -> bool:
    return name == f"{word}.{panel}" or name.startswith(f"{word}.{panel}.")


def _makes(cut: Cut, pieces: Sequence[Piece]) -> Iterator[str]:
    """Ids of the features and edges, or of whole pieces, that are there after the step."""
    kinds = {"groove": "groove", "dado": "dado", "keys": "slot", "lid": "lid_kerf", "halve": "notch"}
    for piece in pieces:
        match cut.operation:
            case "rip":
                yield from (f"{piece.id}.bottom", f"{piece.id}.top")
            case "crosscut":
                yield from (f"{piece.id}.start", f"{piece.id}.end")
            case "bevel":
                yield f"{piece.id}.{cut.end}"
            case "groove" | "dado" | "keys" | "lid" | "halve":
                for feature in piece.features:
                    if feature.kind == kinds[cut.operation] and _by_this(cut, feature.id):
                        yield feature.id
            case "panel" | "segment" | "divider":
                yield piece.id
            case _:
                pass


def _by_this(cut: Cut, feature: str) -> bool:
    """Whether a feature of the right kind is cut by this step and not by another of its kind."""
    if cut.operation == "groove":
        return any(feature.endswith(f".groove.{panel}") for panel in cut.panels)
    if cut.operation == "keys":
        ends = tuple(
            f".slot.{corner.replace('-', '_')}.{item + 1}" for corner in cut.corners for item in cut.items
        )
        return feature.endswith(ends)
    return True


def _after(
    cut: Cut, mine: tuple[str, ...], done: dict[tuple[str, str], list[tuple[str, tuple[str, ...]]]]
) -> Iterator[After]:
    """What comes before: of each such operation the steps on the same pieces, or else the last."""
    for operation, why in _AFTER.get(cut.operation, ()):
        other = (
            "segment" if operation == "segment_glue" else "box" if cut.operation == "liner_fit" else cut.part
        )
        before = done.get((other, operation), [])
        shared = [own for own, pieces in before if set(pieces) & set(mine)] or [
            own for own, _p in before[-1:]
        ]
        if operation == "panel" and cut.operation == "glue":
            shared = [own for own, _pieces in before]
        for own in shared:
            yield After(own, why)


_LENGTH_OF: Final = {
    "fence": ("the fence", "the near side of the blade at the table"),
    "stop": ("the stop", "the blade, at the face that lies up"),
    "height": ("the table", "the top of the blade"),
    "width": ("one long edge", "the other, along the face"),
    "thickness": ("the table", "the cutters"),
}  # fmt: skip


def _settings(cut: Cut, saw: Saw) -> Iterator[Setting]:
    """The settings as values; those that are square or have no part in it are left out."""
    tilts = saw.step_deg if cut.operation == "bevel" else None
    if cut.tilt_deg:
        yield Setting("tilt", cut.tilt_deg, "deg", "square to the table", "the blade", tilts)
    if cut.swings_deg:
        for end, swing in cut.swings_deg:
            at: Literal["start", "end"] = "start" if end == "start" else "end"
            yield Setting("swing", swing, "deg", "square to the gauge", "the line of the cut", None, at)
    elif cut.gauge_deg:
        yield Setting("swing", cut.gauge_deg, "deg", "square to the gauge", "the line of the cut")
    if cut.cradle_deg is not None:
        yield Setting("cradle", cut.cradle_deg, "deg", "one face of the cradle", "the other")
    wide = cut.operation in ("rip", "panel", "segment", "divider")
    if cut.operation in ("dado", "halve"):
        for value in cut.fences_mm:
            yield Setting("stop", value, "mm", "the stop at the piece's start", "the near side of the blade")
    else:
        if cut.start_mm is not None:
            start = ("the blank's start, along the edge", "the blade, at the face that lies up")
            yield Setting("stop", cut.start_mm, "mm", *start, None, "start")
        if cut.stop_mm is not None:
            yield Setting("stop", cut.stop_mm, "mm", *_LENGTH_OF["stop"])
        for value in cut.fences_mm:
            yield Setting(
                "width" if wide else "fence", value, "mm", *_LENGTH_OF["width" if wide else "fence"]
            )
    if cut.depth_mm is not None:
        thick = cut.operation in ("plane", "panel", "segment", "divider")
        over = _LENGTH_OF["thickness" if thick else "height"]
        yield Setting("thickness" if thick else "height", cut.depth_mm, "mm", *over)
