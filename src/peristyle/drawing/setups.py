"""How each check of a tool is done, as a picture: what is cut, where it is held, what is read, errors drawn larger."""

import math
from collections.abc import Callable, Sequence
from typing import Final

from peristyle.core.outlines import box
from peristyle.core.planes import Point
from peristyle.drawing.shapes import Drawing, Label, Path, Shape, dimension, line
from peristyle.model.job import SetUpKind

_WRONG_DEG: Final = 4.0  # so far out is what the pictures show, that it can be seen
_SIZE: Final = 9.0


def setup_drawing(kind: SetUpKind) -> Drawing:
    """The picture of a check, with the names of what is read in it."""
    shapes, words = _PICTURES[kind]()
    points = [p for shape in shapes if isinstance(shape, Path) for p in shape.points]
    points += [shape.at for shape in shapes if isinstance(shape, Label)]
    xs, ys = [p[0] for p in points], [p[1] for p in points]
    return Drawing(tuple(shapes), bounds=(min(xs) - 12, min(ys) - 8, max(xs) + 12, max(ys) + 8), words=words)


def _said(
    at: Point, text: str, shift: Point = (0.0, 0.0), anchor: str = "middle", role: str = "follows"
) -> Label:
    return Label(at, text, role, _SIZE, anchor=anchor, shift=shift)  # type: ignore[arg-type]


def _turned(points: Sequence[Point], degrees: float, about: Point = (0.0, 0.0)) -> tuple[Point, ...]:
    cos, sin = math.cos(math.radians(degrees)), math.sin(math.radians(degrees))
    ax, ay = about
    return tuple(
        (ax + (x - ax) * cos - (y - ay) * sin, ay + (x - ax) * sin + (y - ay) * cos) for x, y in points
    )


def _wood(points: Sequence[Point]) -> Path:
    return Path(tuple(points), "wood", "hatch", weight=1.1)


def _arc(about: Point, radius: float, start: float, end: float) -> Path:
    turns = [math.radians(start + (end - start) * k / 16) for k in range(17)]
    return Path(tuple((about[0] + radius * math.cos(t), about[1] + radius * math.sin(t)) for t in turns),
                "decided", closed=False, weight=1.4)  # fmt: skip


def _two_scraps() -> tuple[list[Shape], str]:
    lean = 45.0 - _WRONG_DEG
    run = 12.0 * math.tan(math.radians(lean))
    scrap = ((0.0, 0.0), (70.0, 0.0), (70.0, 12.0), (run, 12.0))
    lying = scrap
    # The other's cut lies on this one's: it stands at the angle both bevels make.
    standing = tuple(_turned([(x, -y) for x, y in scrap], 180.0 - 2 * (90.0 - lean)))
    square = ((-26.0, -8.0), (-26.0, 80.0), (-20.0, 80.0), (-20.0, -2.0), (70.0, -2.0), (70.0, -8.0))
    return (
        [
            Path(square, "machine", "solid", weight=0.8),
            _wood(lying),
            _wood(standing),
            _arc((0.0, 0.0), 30.0, 0.0, 180.0 - 2 * (90.0 - lean)),
            _said((30.0, 32.0), "angle of the pair", anchor="left", role="decided"),
            _said((-29.0, 60.0), "square", anchor="right", role="quiet"),
        ],
        "Two scraps cut at one setting stand mitered on each other in a square; the angle between them is read.",
    )


def _ring() -> tuple[list[Shape], str]:
    count, inner, thick = 8, 34.0, 12.0
    shapes: list[Shape] = []
    step = 360.0 / count - 1.1  # each a little too small: what is missing gathers at the last joint
    for k in range(count):
        a, b = (math.radians(90.0 + 4.4 + step * (k + w)) for w in (0, 1))
        outer = inner + thick
        points = [
            (r * math.cos(t), r * math.sin(t)) for r, t in ((inner, a), (inner, b), (outer, b), (outer, a))
        ]
        shapes.append(_wood(points))
    a, b = math.radians(94.4), math.radians(94.4 + step * count - 360.0)
    ends = [(inner * math.cos(t), inner * math.sin(t)) for t in (b, a)]
    face = [(r * math.cos(b), r * math.sin(b)) for r in (inner, inner + thick)]
    shapes += [
        line(ends[0], ends[1], "decided", 2.2),
        line(face[0], face[1], "decided", 2.2),
        _said((0.0, 8.0), "gap inside", role="decided"),
        line((0.0, 13.0), (0.0, inner - 2.0), "decided", 0.8),
        _said((face[1][0] + 12.0, face[1][1] + 2.0), "joint’s face", anchor="left", role="decided"),
    ]
    return (
        shapes,
        "A ring of scraps closed but for one joint; the gap inside and the joint's face are measured there.",
    )


def _five_cuts() -> tuple[list[Shape], str]:
    board = [(0.0, 0.0), (80.0, 0.0), (80.0, 60.0), (0.0, 60.0)]
    strip = [(86.0, 0.0), (94.0, 0.0), (92.0, 60.0), (86.0, 60.0)]
    shapes: list[Shape] = [
        Path(box(-30.0, -12.0, 130.0, -2.0), "machine", "solid", weight=0.8),
        _wood(board),
        _wood(strip),
        line((83.0, -22.0), (83.0, 76.0), "blade", 2.0),
        _said((83.0, 82.0), "blade", role="blade"),
        _said((-34.0, -7.0), "fence", anchor="right", role="quiet"),
        _said((98.0, 58.0), "far end", anchor="left", role="decided"),
        _said((98.0, 3.0), "at the fence", anchor="left", role="decided"),
        line((86.0, 60.0), (92.0, 60.0), "decided", 2.2),
        line((86.0, 0.0), (94.0, 0.0), "decided", 2.2),
    ]
    shapes += dimension((94.0, 0.0), (94.0, 60.0), (52.0, 0.0), role="decided")
    shapes.append(_said((146.0, 30.0), "length", shift=(6.0, 0.0), anchor="left", role="decided"))
    for number, (x, y) in enumerate(((40.0, 53.0), (11.0, 46.0), (40.0, 7.0), (72.0, 30.0)), 1):
        shapes.append(_said((x, y), f"cut {number}", role="quiet"))
    shapes.append(_said((90.0, 70.0), "cut 5", anchor="left", role="quiet"))
    for x, text in ((-22.0, "pivot"), (122.0, "screw")):
        shapes.append(Path(box(x - 2.5, -9.5, x + 2.5, -4.5), "follows", "solid", weight=0.8))
        shapes.append(_said((x, -9.5), text, shift=(0.0, -13.0), role="follows"))
    shapes += dimension((-22.0, -12.0), (122.0, -12.0), (0.0, -22.0), role="decided")
    shapes.append(_said((50.0, -34.0), "pivot to screw", shift=(0.0, -9.0), role="decided"))
    return (
        shapes,
        "A board cut round four times against the fence; of the fifth cut's strip both ends are measured.",
    )


def _stopped(settings: Sequence[float], words: str) -> tuple[list[Shape], str]:
    shapes: list[Shape] = []
    for row, long in enumerate(settings):
        y = -34.0 * row
        shapes += [
            Path(box(-40.0, y - 8.0, 130.0, y - 2.0), "machine", "solid", weight=0.8),
            Path(box(long, y - 2.0, long + 8.0, y + 12.0), "machine", "solid", weight=0.8),
            _wood(box(0.0, y, long, y + 10.0)),
            line((0.0, y - 12.0), (0.0, y + 18.0), "blade", 2.0),
            _said((long + 10.0, y + 6.0), "stop: set to", anchor="left", role="decided"),
            _said((long / 2, y + 5.0), "piece", role="decided"),
        ]
    return shapes, words


def _kerf() -> tuple[list[Shape], str]:
    shapes: list[Shape] = [_wood(box(0.0, 40.0, 132.0, 56.0))]
    shapes += dimension((0.0, 56.0), (132.0, 56.0), (0.0, 9.0), role="decided")
    shapes.append(_said((66.0, 65.0), "board before", shift=(0.0, 9.0), role="decided"))
    for k in range(4):
        x = k * 33.0
        shapes.append(_wood(box(x, 0.0, x + 28.0, 16.0)))
        shapes.append(_said((x + 14.0, 8.0), "piece", role="decided"))
        if k < 3:
            shapes.append(Path(box(x + 28.0, 0.0, x + 33.0, 16.0), "blade", "tint", weight=0.6))
            shapes.append(_said((x + 30.5, -2.0), f"cut {k + 1}", shift=(0.0, -8.0), role="blade"))
    return (
        shapes,
        "A board measured, cut into pieces, and the pieces measured: what is gone, by the number of cuts.",
    )


def _gauge() -> tuple[list[Shape], str]:
    return [
        Path(box(-20.0, -8.0, 120.0, 0.0), "machine", "solid", weight=0.8),
        Path(box(30.0, 0.0, 70.0, 34.0), "machine", "solid", weight=1.2),
        Path(box(36.0, 16.0, 64.0, 28.0), "paper", "solid", weight=0.8),
        _said((50.0, 22.0), "0.0°", role="decided"),
        _said((76.0, 20.0), "shown", anchor="left", role="decided"),
        _said((118.0, -4.0), "table", anchor="right", role="quiet"),
    ], "The gauge lies on the table; what it shows there is read."


def _width() -> tuple[list[Shape], str]:
    points = (
        *box(0.0, 0.0, 110.0, 26.0)[:3], (66.0, 26.0), (66.0, 14.0), (50.0, 14.0), (50.0, 26.0), (0.0, 26.0),
    )  # fmt: skip
    shapes: list[Shape] = [_wood(points)]
    shapes += dimension((50.0, 26.0), (66.0, 26.0), (0.0, 9.0), role="decided")
    shapes.append(_said((58.0, 35.0), "groove", shift=(0.0, 9.0), role="decided"))
    return shapes, "A groove cut in scrap; its width is measured."


def _runner() -> tuple[list[Shape], str]:
    slot = [Path(box(-6.0, y, 126.0, y + 5.0), "machine", "solid", weight=0.8) for y in (-5.0, 14.0)]
    runner = box(0.0, 2.0, 120.0, 12.0)
    shapes: list[Shape] = [
        *slot,
        _wood(_turned(runner, -_WRONG_DEG / 3, (0.0, 7.0))),
        Path(_turned(runner, _WRONG_DEG / 3, (0.0, 7.0)), "follows", weight=0.9, dash=True),
        line((122.0, 7.0 - 2.8), (122.0, 7.0 + 2.8), "decided", 2.2),
        _said((130.0, 7.0), "play", anchor="left", role="decided"),
    ]
    shapes += dimension((0.0, -5.0), (120.0, -5.0), (0.0, -12.0), role="decided")
    shapes.append(_said((60.0, -17.0), "length", shift=(0.0, -9.0), role="decided"))
    return (
        shapes,
        "A runner in its slot from above, pushed to one side and the other; how far its end moves is read.",
    )


_PICTURES: Final[dict[SetUpKind, Callable[[], tuple[list[Shape], str]]]] = {
    "tilt_pair": _two_scraps,
    "tilt_ring": _ring,
    "five_cut": _five_cuts,
    "stop": lambda: _stopped((84.0,), "Pieces cut at one stop, each measured."),
    "scale": lambda: _stopped((34.0, 100.0), "Two settings far apart, and a piece cut at each."),
    "kerf": _kerf,
    "gauge": _gauge,
    "width": _width,
    "runner": _runner,
}
