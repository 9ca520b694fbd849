"""One corner's angles in every convention: the quick answer at the saw."""

from collections.abc import Sequence
from typing import Any, NamedTuple

from peristyle.core.errors import PeristyleError
from peristyle.core.lengths import Format
from peristyle.core.planes import Corner, EndCut, simple_corner

# Most saws stop between 45° and 47° (common practice); past the first the piece stands on end.
TILT_STOP_DEG = 45.0
_HAIR = 1e-9
_AT_STOP = 0.005  # degrees that no stop tells apart: what a ring's closing leaves is no bevel past it


class CornerAngles(NamedTuple):
    """A corner as asked for, and its cuts. Thicknesses are None when not given."""

    sides: int | None
    slope_deg: float
    slope2_deg: float
    thickness_mm: float | None
    thickness2_mm: float | None
    corner: Corner


class Convention(NamedTuple):
    """One bevel in every convention (degrees). `tilt` is what the blade is set to."""

    bevel: float
    from_face: float
    tilt: float
    on_end: bool


def convention(cut: EndCut, stop_deg: float = TILT_STOP_DEG) -> Convention:
    """The bevel from square, from the face, and as set: on end at 90 − bevel past the stop."""
    tilt, on_end = tilt_setting(cut.bevel_deg, stop_deg)
    return Convention(cut.bevel_deg, 90.0 - cut.bevel_deg, tilt, on_end)


def tilt_setting(bevel_deg: float, stop_deg: float = TILT_STOP_DEG) -> tuple[float, bool]:
    """Blade tilt for a bevel, and whether the piece stands on end against a tall fence."""
    bevel = abs(bevel_deg)
    return (90.0 - bevel, True) if bevel > stop_deg + _AT_STOP else (bevel, False)


def corner_angles(
    *,
    sides: int | None = None,
    interior_deg: float | None = None,
    slope_deg: float = 0.0,
    slope2_deg: float | None = None,
    thickness_mm: float | None = None,
    thickness2_mm: float | None = None,
) -> CornerAngles:
    """The corner of a regular ring, or of the angle given (which goes before `sides`).

    Raises PeristyleError for fewer than three sides, corners outside 0-180°, leans of 90° and
    more, and thicknesses of 0 or less.
    """
    if interior_deg is None:
        if sides is None:
            raise PeristyleError("Say which corner: --sides 8, or --interior 135.")
        interior_deg = 180.0 - 360.0 / sides if sides >= 3 else 0.0
    if sides is not None and sides < 3:
        raise PeristyleError(f"A ring has at least three sides, not {sides}: try --sides 3.")
    for value in (slope_deg, slope2_deg):
        if value is not None and not -90.0 < value < 90.0:
            raise PeristyleError(f"A side cannot lean {value:g}°: give a slope under 90°.")
    for thick in (thickness_mm, thickness2_mm):
        if thick is not None and thick <= 0:
            raise PeristyleError("A thickness must be more than 0.")
    second = slope_deg if slope2_deg is None else slope2_deg
    thick2 = thickness_mm if thickness2_mm is None else thickness2_mm
    made = simple_corner(interior_deg, slope_deg, second, thickness_mm or 1.0, thick2 or 1.0)
    return CornerAngles(sides, slope_deg, second, thickness_mm, thick2, made)


def _piece(cut: EndCut) -> dict[str, Any]:
    words = convention(cut)
    return {
        "bevel_deg": words.bevel,
        "miter_deg": cut.miter_deg,
        "bevel_from_face_deg": words.from_face,
        "miter_from_edge_deg": 90.0 - cut.miter_deg,
        "tilt_deg": words.tilt,
        "on_end": words.on_end,
    }


def as_data(found: CornerAngles) -> dict[str, Any]:
    """The answer as data; figures of the first piece stand at the top, both in `pieces`."""
    made = found.corner
    return {
        "sides": found.sides,
        "slope_deg": found.slope_deg,
        "slope2_deg": found.slope2_deg,
        "interior_deg": made.interior_deg,
        "corner_angle_deg": made.interior_deg,
        "half_corner_deg": made.interior_deg / 2,
        "turn_deg": 180.0 - made.interior_deg,
        "dihedral_deg": made.dihedral_deg,
        **_piece(made.first),
        "bevel2_deg": made.second.bevel_deg,
        "miter2_deg": made.second.miter_deg,
        "thickness_mm": found.thickness_mm,
        "thickness2_mm": found.thickness2_mm,
        "joint_face_mm": made.joint_face_mm if found.thickness_mm is not None else None,
        "pieces": [_piece(made.first), _piece(made.second)],
    }


def as_text(found: CornerAngles, fmt: Format) -> str:
    """The answer for people, bevel first."""
    made = found.corner
    same = (
        abs(made.first.bevel_deg - made.second.bevel_deg) < _HAIR
        and abs(made.first.miter_deg - made.second.miter_deg) < _HAIR
    )
    lines = []
    pieces = [("", made.first)] if same else [("first side: ", made.first), ("second side: ", made.second)]
    for word, cut in pieces:
        said = convention(cut)
        lines.append(f"{word}bevel {fmt.angle(said.bevel, 4)} from square, "
                     f"{fmt.angle(said.from_face, 4)} from the face")  # fmt: skip
        if abs(cut.miter_deg) > _HAIR:
            lines.append(f"{word}miter {fmt.angle(cut.miter_deg, 4)} from square, "
                         f"{fmt.angle(90.0 - cut.miter_deg, 4)} from the edge")  # fmt: skip
        if said.on_end:
            lines.append(f"{word}past the stop of most saws: stand the piece on end, "
                         f"blade at {fmt.angle(said.tilt, 4)}")  # fmt: skip
    lines.append(f"corner {fmt.angle(made.interior_deg, 4)} seen from above, "
                 f"half {fmt.angle(made.interior_deg / 2, 4)}")  # fmt: skip
    if abs(made.dihedral_deg - made.interior_deg) > _HAIR:
        lines.append(f"true angle between the faces {fmt.angle(made.dihedral_deg, 4)}")
    if found.thickness_mm is not None:
        lines.append(f"joint face {fmt.length(made.joint_face_mm, unit=True)}")
    return "\n".join(lines)


def ring_as_data(corners: Sequence[tuple[str, Corner]]) -> dict[str, Any]:
    """Every corner of a ring: angle seen from above, true angle, and both cuts in all conventions."""
    return {
        "corners": [
            {
                "corner": name,
                "interior_deg": made.interior_deg,
                "half_corner_deg": made.interior_deg / 2,
                "dihedral_deg": made.dihedral_deg,
                "joint_face_mm": made.joint_face_mm,
                "first": _piece(made.first),
                "second": _piece(made.second),
            }
            for name, made in corners
        ]
    }


def ring_as_text(corners: Sequence[tuple[str, Corner]], fmt: Format) -> str:
    """A line for each corner: angle, bevels and miters of the side that ends and the one that starts."""
    lines = ["corner   angle      bevel, end      bevel, start    miter, end      miter, start"]
    for name, made in corners:
        figures = (made.first.bevel_deg, made.second.bevel_deg, made.first.miter_deg, made.second.miter_deg)
        cells = "".join(f"{fmt.angle(v, 4):<16}" for v in figures)
        lines.append(f"{name:<9}{fmt.angle(made.interior_deg, 4):<11}{cells}".rstrip())
    return "\n".join(lines)


class SheetRow(NamedTuple):
    """One ring of the sheet of angles: sides and slope, and its corner."""

    sides: int
    slope_deg: float
    corner: Corner


def sheet_of_angles(slopes_deg: Sequence[float], most_sides: int = 24) -> tuple[SheetRow, ...]:
    """Regular rings from 3 to `most_sides` sides at each slope, for the wall of the shop."""
    return tuple(
        SheetRow(sides, slope, simple_corner(180.0 - 360.0 / sides, slope))
        for slope in slopes_deg
        for sides in range(3, most_sides + 1)
    )


_HEAD = ("sides", "bevel from square", "from the face", "miter", "corner", "half", "true angle", "blade at")


def table_rows(rows: Sequence[SheetRow], fmt: Format) -> list[list[str]]:
    """The rows as text, the head first; the same on screen and on paper."""
    lines = [list(_HEAD)]
    for row in rows:
        said = convention(row.corner.first)
        corner = row.corner
        lines.append([
            str(row.sides),
            *(fmt.angle(v, 3) for v in (said.bevel, said.from_face, corner.first.miter_deg, corner.interior_deg,
                                        corner.interior_deg / 2, corner.dihedral_deg)),
            f"{fmt.angle(said.tilt, 3)}{' on end' if said.on_end else ''}",
        ])  # fmt: skip
    return lines


def angles_html(rows: Sequence[SheetRow], fmt: Format) -> str:
    """The sheet of angles as a page to read."""
    parts = []
    for slope in sorted({row.slope_deg for row in rows}):
        words = "upright sides" if slope == 0 else f"sides leaning {fmt.angle(slope)}"
        head, *lines = table_rows([row for row in rows if row.slope_deg == slope], fmt)
        cells = "".join(f"<th align='right'>{cell}</th>" for cell in head)
        body = "".join(
            "<tr>" + "".join(f"<td align='right'>{cell}</td>" for cell in line) + "</tr>" for line in lines
        )
        parts.append(f"<h3>Mitered rings, {words}</h3><table cellpadding='3'><tr>{cells}</tr>{body}</table>")
    return "".join(parts)
