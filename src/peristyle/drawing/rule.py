"""The rule printed on every template, to be measured before it is trusted."""

from collections.abc import Iterator

from peristyle.core.lengths import MM_PER_INCH, Format
from peristyle.core.planes import Point
from peristyle.drawing.shapes import Label, Shape, line


def ruler(at: Point, fmt: Format) -> Iterator[Shape]:
    """A rule to lay the maker's own against: 100 mm, or 4 in."""
    x, y = at
    inches = fmt.units == "in"
    step, count = (MM_PER_INCH / 8, 32) if inches else (5.0, 20)
    yield line((x, y), (x + step * count, y), "follows", 0.7)
    for k in range(count + 1):
        whole = k % (8 if inches else 2) == 0
        yield line((x + k * step, y), (x + k * step, y + (3.5 if whole else 2.0)), "follows", 0.5)
    text = "4 in: measure this first; print at full size, not fitted to the page" if inches else (
        "100 mm: measure this first; print at full size, not fitted to the page"
    )  # fmt: skip
    yield Label((x, y), text, "follows", 7.5, anchor="left", shift=(0.0, -8.0))


def reach_mm(fmt: Format) -> float:
    """How far it reaches, with a little to spare (mm)."""
    return 104.0 if fmt.units == "mm" else 4 * MM_PER_INCH + 4.0
