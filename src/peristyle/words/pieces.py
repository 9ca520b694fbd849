"""What a list says of a piece: its name, and what is worth knowing besides its sizes."""

from collections.abc import Callable, Sequence
from typing import Final

from peristyle.core.lengths import Format
from peristyle.core.outlines import bounds
from peristyle.planning.making.piece import Piece
from peristyle.words.reading import fill
from peristyle.words.steps import glue_order

_NOTES: Final[dict[str, str]] = {
    "from_board": "from the board “{board}”",
    "side.front": "front",
    "side.closes": "wrap closes at its end",
    "wood": "of {wood}",
    "grain.length": "grain along side A",
    "grain.width": "grain square to side A",
    "sheet": "of sheet stock",
    "roof.length": "grain along the ridge",
    "roof.width": "grain square to the ridge",
    "panel.sided": "{sides}-sided, size over all",
    "segment": "from a strip {strip_mm} long, turned about in turn",
    "divider": "dadoes: {dadoes}, from the inside's start{halved}",
    "divider.top": "{top_mm:bare} long at its top edge",
    "key": "triangle: long edge at the floor of the slot, grain along it",
    "key.dovetail": "{face_mm} wide at the arris, its cheeks leaning {flare_deg}",
    "spline": "its grain across, from piece to piece",
    "corner_block": "legs {leg_mm}, its point planed off",
    "foot": "under the corners",
    "inlay.round": "round, diameter {across_mm}",
    "inlay": "planed flush once it is in, {proud_mm} comes off",
    "handle.wedge": "off the bevels' own offcuts, {foot_mm} at its foot and {high_mm} high",
    "board": "glued edge to edge",
    "ledge": "under the false floor",
    "ledge.leans": "under the false floor, its back leaning {lean_deg}",
    "roof": "ridge {pitch_deg}, underside {under_mm}",
    "leaf": "cut {long_mm} × {wide_mm}, {at_mm} along the board",
    "band": "cut {long_mm} × {wide_mm}, trimmed when it is on",
    "foot.wedge": "off the bevels' own offcuts, under the sides",
}


def listed(pieces: Sequence[Piece]) -> list[list[Piece]]:
    """The pieces as a list counts them: those alike and as large together."""
    groups: dict[tuple[object, ...], list[Piece]] = {}
    for piece in pieces:
        sizes = (*piece.size_mm, piece.thickness_mm)
        key = (piece.alike, *(round(v, 6) for v in sizes)) if piece.alike else (piece.id,)
        groups.setdefault(key, []).append(piece)
    return list(groups.values())


def row_name(piece: Piece) -> str:
    """What a row of a list calls it."""
    if piece.alike:
        return piece.alike
    own = piece.id.split(".", 1)[1].replace(".", " ")
    return own if piece.part in ("side", "panel") else f"{piece.part} {own}"


def spoken(group: Sequence[Piece]) -> str:
    """What a sentence calls it, with how many there are."""
    first = group[0]
    if not first.alike:
        return first.name
    return f"{first.alike[:1].upper()}{first.alike[1:]} ({len(group)})"


def note(piece: Piece, fmt: Format) -> str:
    """What is worth knowing besides its sizes."""
    names = piece.names | {"dadoes": _dadoes(piece, fmt), "halved": _halved(piece, fmt)}
    return "; ".join(fill(_NOTES[key], fmt, piece.numbers, names) for key in piece.says)


def remarks(group: Sequence[Piece], groups: Sequence[Sequence[Piece]], fmt: Format) -> str:
    """The note of pieces counted together, with their corners where others of the name differ."""
    said = note(group[0], fmt)
    others = [other for other in groups if other[0].alike and other[0].alike == group[0].alike]
    if len(others) > 1 and "corner" in group[0].names:
        corners = dict.fromkeys(piece.names["corner"] for piece in group)
        said += f"; corners {', '.join(corners)}"
    return said


def _numbered(piece: Piece, stem: str, name: str) -> list[float]:
    return [
        value for key, value in piece.numbers.items() if key.startswith(f"{stem}.") and key.endswith(name)
    ]


def _dadoes(piece: Piece, fmt: Format) -> str:
    """Where the dadoes lie that hold its ends."""
    ends = []
    for number, at in enumerate(_numbered(piece, "dado", ".at_mm")):
        tilt = piece.numbers.get(f"dado.{number}.tilt_deg")
        turned = f" tilted {fmt.angle(tilt)}" if tilt else ""
        ends.append(f"side {piece.names[f'dado.{number}.side']} at {fmt.length(at)}{turned}")
    return ", ".join(ends)


def _halved(piece: Piece, fmt: Format) -> str:
    notches = _numbered(piece, "notch", ".at_mm")
    return ", halved at " + ", ".join(fmt.length(at) for at in notches) if notches else ""


def lines(pieces: Sequence[Piece], fmt: Format) -> list[str]:
    """Every piece but the box's own sides, a line for each size of it."""
    groups = listed([piece for piece in pieces if piece.part != "side"])
    return [_line(group, groups, fmt) for group in groups]


def _line(group: Sequence[Piece], groups: Sequence[Sequence[Piece]], fmt: Format) -> str:
    first = group[0]
    length, wide = first.size_mm
    text = f"{spoken(group)}: {fmt.length(length)} × {fmt.length(wide)} × {fmt.length(first.thickness_mm, unit=True)}"
    start, end = first.edge("start"), first.edge("end")
    if start and end and (start.bevel_deg or end.bevel_deg):
        text += f", bevels {fmt.angle(start.bevel_deg)} and {fmt.angle(end.bevel_deg)}"
    said = remarks(group, groups, fmt)
    more = _MORE.get(first.part)
    return text + (f"; {said}" if said else "") + (more(first, fmt) if more else "")


def _segments(piece: Piece, fmt: Format) -> str:
    """How a panel's segments are cut and glued."""
    inner = piece.numbers["inner_mm"]
    edge = f"; inner edge {fmt.length(inner)}" if inner > 0 else ""
    gauge = fmt.angle(piece.numbers["gauge_deg"])
    return f"{edge}; gauge {gauge}; " + "; ".join(glue_order(int(piece.numbers["count"])))


_MORE: Final[dict[str, Callable[[Piece, Format], str]]] = {"segment": _segments}


_CUTS: Final[dict[str, str]] = {
    "groove": "groove", "dado": "dado", "slot": "key slot", "lid_kerf": "lid line", "notch": "halving slot",
    "tongue": "tongue", "opening": "opening", "spline_groove": "spline groove", "cheek": "cheek",
    "rabbet": "rabbet", "lowered": "ripped lower", "gable": "sawn to its point", "finger_notch": "finger hollow",
    "mortise": "hinge mortise",
    "pocket": "magnet pocket",
    "pilot": "screw",
    "recess": "plate let in",
    "hinge_bore": "bore for a hinge",
    "edge": "profile",
    "moulding": "moulding",
    "inlay": "pocket for the inlay",
    "bore": "handle screw",
}  # fmt: skip
_AT_END_MM: Final = 0.5  # what begins nearer to an end than that begins there
_LONG: Final = 0.98  # of a piece: what runs so far runs right through


def cuts_told(piece: Piece, fmt: Format) -> list[tuple[str, str]]:
    """What is cut into it: its name, how far up and along it begins, and its size: along × up × deep."""
    rows = []
    x0, y0, x1, y1 = bounds(piece.show_face)
    for feature in piece.features:
        if not feature.flat:
            continue
        left, low, right, high = bounds(feature.flat)
        wide, tall = right - left, high - low
        along, up = wide >= _LONG * (x1 - x0), tall >= _LONG * (y1 - y0)
        parts = [] if up else [f"{fmt.length(low)} up"]
        if not along and min(left - x0, x1 - right) > _AT_END_MM:
            parts.append(f"{fmt.length(left)} along")
        sizes = ([] if along else [fmt.length(wide)]) + ([] if up else [fmt.length(tall)])
        if 1e-6 < feature.depth_mm < piece.thickness_mm - 1e-6:
            sizes.append(fmt.length(feature.depth_mm))
        parts += [" × ".join(sizes)] if sizes else []
        rows.append((_CUTS.get(feature.kind, feature.kind.replace("_", " ")), ", ".join(parts) or "through"))
    return list(dict.fromkeys(rows))  # the same at both ends is told once


def told_whole(piece: Piece, fmt: Format) -> str:
    """The piece in a sentence or two, for those who do not see it."""
    length, wide = piece.size_mm
    text = f"{piece.name}: {fmt.length(length)} × {fmt.length(wide)} × {fmt.length(piece.thickness_mm, unit=True)}."
    return text + "".join(f" {name[:1].upper()}{name[1:]}: {where}." for name, where in cuts_told(piece, fmt))
