"""Where a box is seen from: turning, a mild perspective, light."""

import math
from collections.abc import Iterable

from msgspec import Struct

from peristyle.core.planes import Point, Vector
from peristyle.model.design import House
from peristyle.planning.plan import Plan


class Eye(Struct, frozen=True):
    """Where the box is seen from: turned about its upright, tipped toward the eye (degrees)."""

    turn_deg: float = -28.0
    tip_deg: float = 26.0


class View:
    """Turning and a mild perspective, the box's middle at the origin."""

    def __init__(self, eye: Eye, reach: float, height: float, *, standing: bool = False) -> None:
        self._standing = standing
        turn, tip = math.radians(eye.turn_deg), math.radians(eye.tip_deg)
        self._ct, self._st = math.cos(turn), math.sin(turn)
        self._cp, self._sp = math.cos(tip), math.sin(tip)
        self._far = reach * 3.6
        self._lift = height / 2
        # The eye stands at −far along the view's depth: in the box itself.
        back, up = -self._far * self._cp, self._far * self._sp
        x, y, z = back * self._st, back * self._ct, up + self._lift
        self._at = (x, z - self._lift, self._lift - y) if standing else (x, y, z)

    def _stood(self, x: float, y: float, z: float) -> Vector:
        """A house stands on its floor, its open front to the eye; other rings lie as they are."""
        return (x, 2 * self._lift - z - self._lift, y + self._lift) if self._standing else (x, y, z)

    def _turned(self, normal: Vector) -> Vector:
        return (normal[0], -normal[2], normal[1]) if self._standing else normal

    def point(self, x: float, y: float, z: float) -> Point:
        """Where a point of the box appears."""
        return self.points(((x, y, z),))[0]

    def points(self, points: Iterable[Vector]) -> tuple[Point, ...]:
        """Where points of the box appear."""
        ct, st, cp, sp, far, lift = self._ct, self._st, self._cp, self._sp, self._far, self._lift
        if self._standing:
            points = [self._stood(x, y, z) for x, y, z in points]
        found = []
        for x, y, z in points:
            back, up = x * st + y * ct, z - lift
            scale = far / (far + back * cp - up * sp)
            found.append(((x * ct - y * st) * scale, (back * sp + up * cp) * scale))
        return tuple(found)

    def deep(self, x: float, y: float, z: float) -> float:
        """How far back a point of the box lies."""
        x, y, z = self._stood(x, y, z)
        y, z = x * self._st + y * self._ct, z - self._lift
        return y * self._cp - z * self._sp

    def faces_eye(self, normal: Vector, x: float, y: float, z: float) -> bool:
        """Whether a face through a point turns toward the eye."""
        ex, ey, ez = self._at
        return normal[0] * (ex - x) + normal[1] * (ey - y) + normal[2] * (ez - z) > 0

    def light(self, normal: Vector) -> float:
        """Brightness from a lamp over the left shoulder."""
        normal = self._turned(normal)
        nx = normal[0] * self._ct - normal[1] * self._st
        ny = normal[0] * self._st + normal[1] * self._ct
        lamp = (-0.45, -0.62, 0.64)
        return 0.70 + 0.30 * max(0.0, nx * lamp[0] + ny * lamp[1] + normal[2] * lamp[2])


def view_of(plan: Plan, eye: Eye, room: float = 1.0) -> View:
    """The view of a box from an eye; `room` keeps the eye further off, for what lies apart."""
    ring = plan.ring
    points = [p for side in ring.sides for p in (*side.foot, *side.head)]
    reach = max(max(abs(x), abs(y)) for x, y in points) + ring.height_mm / 2
    return View(eye, reach * room, ring.height_mm, standing=isinstance(plan.job.design.form.shape, House))
