"""Rings with errors, their closing by an optimizer that knows nothing of ours, and what would be measured of them."""

import math
import random

import numpy as np
from numpy.typing import NDArray
from scipy.optimize import minimize

from peristyle.core.planes import EndCut
from peristyle.model.design import Outline, Rectangle, Regular, Shape
from peristyle.model.job import Job, job_of, revised
from peristyle.model.progress import with_measured
from peristyle.model.stock import Board
from peristyle.planning.fit.closing import closed
from peristyle.planning.fit.errors import Of, Practice, sources
from peristyle.planning.fit.ring import Joint, Level, Made, planned
from peristyle.planning.form.ring import RingPlan
from peristyle.planning.plan import plan

_SCALE = np.array(
    [0.1, 0.1, 0.001]
)  # poses are looked for in tenths of a millimetre and thousandths of a radian


def box(shape: Shape, slope: float = 0.0, thick: float = 12.0, **more: object) -> Job:
    return job_of(
        shape=shape, height_mm=80.0, thicknesses_mm=(thick,), slopes_deg=(slope,),
        board=Board(length_mm=9000.0, width_mm=300.0), **more,  # type: ignore[typeddict-item]
    )  # fmt: skip


def random_box(seed: int, most: int = 9) -> Job:
    """A ring of 3 to `most` sides, regular or not, upright or leaning."""
    chance = random.Random(seed)
    shapes: list[Shape] = [
        Regular(chance.randint(3, most), chance.uniform(70.0, 160.0)), Rectangle(chance.uniform(150, 300), 130.0),
        Outline((100.0, 80.0, 60.0, None, None), (108.0, 110.0, 105.0, None, 110.0)),
    ]  # fmt: skip
    return box(chance.choice(shapes), chance.choice([0.0, 0.0, 12.0, -9.0]), chance.uniform(8.0, 14.0))


def off(ring: RingPlan, chance: random.Random, degrees: float = 0.15, mm: float = 0.15) -> list[Made]:
    """The sides as they came out: every bevel, swing and length off by chance."""
    made = []
    for side in ring.sides:
        whole = planned(side)
        start, end = (
            EndCut(cut.miter_deg + chance.gauss(0, degrees), cut.bevel_deg + chance.gauss(0, degrees))
            for cut in (whole.start, whole.end)
        )
        made.append(Made(whole.length_mm + chance.gauss(0, mm), whole.thickness_mm, start, end))
    return made


def _arrises(level: Level, pose: NDArray[np.float64]) -> list[NDArray[np.float64]]:
    """Outer start, outer end, inner end, inner start of a side as it lies (x, y, heading)."""
    x, y, heading = pose
    turn = np.array([[math.cos(heading), -math.sin(heading)], [math.sin(heading), math.cos(heading)]])
    wall = level.wall_mm
    own = [
        (0.0, 0.0), (level.length_mm, 0.0), (level.length_mm - wall / math.tan(level.end_rad), wall),
        (wall / math.tan(level.start_rad), wall),
    ]  # fmt: skip
    return [np.array([x, y]) + turn @ np.array(point) for point in own]


def optimized(levels: list[Level], start: tuple[Joint, ...] | None = None) -> list[tuple[float, float]]:
    """Every corner's gaps outside and inside, outer arrises flush: by poses of the sides, not by joints.

    The least sum of squared gaps that are 0 or more, found by sequential quadratic programming.
    """
    n = len(levels)
    poses = np.zeros((n, 3))
    for i in range(1, n):
        x, y, heading = poses[i - 1]
        turn = math.pi - levels[i - 1].end_rad - levels[i].start_rad
        poses[i] = (
            x + levels[i - 1].length_mm * math.cos(heading), y + levels[i - 1].length_mm * math.sin(heading),
            heading + turn,
        )  # fmt: skip

    def gaps(free: NDArray[np.float64]) -> NDArray[np.float64]:
        """Outside, inside and step at every corner, the inside from how the faces turn to each other."""
        laid = np.vstack([poses[:1], poses[1:] + free.reshape(-1, 3) * _SCALE])
        found = []
        for i in range(n):
            k = (i + 1) % n
            _s, end, inner, _t = _arrises(levels[i], laid[i])
            begin, *_rest, other = _arrises(levels[k], laid[k])
            along = (inner - end) / np.hypot(*(inner - end))
            across = np.array([along[1], -along[0]])
            second = (other - begin) / np.hypot(*(other - begin))
            opens = math.atan2(across @ second, along @ second)
            face = min(np.hypot(*(inner - end)), np.hypot(*(other - begin)))
            outside = float(across @ (begin - end))
            found.append((outside, outside + face * opens, float(along @ (begin - end))))
        return np.array(found)

    first = np.zeros(3 * (n - 1))
    done = minimize(
        lambda v: float((gaps(v)[:, :2] ** 2).sum()) * 1e3, first, method="SLSQP", jac="3-point",
        constraints=[
            {"type": "eq", "fun": lambda v: gaps(v)[:, 2]},
            {"type": "ineq", "fun": lambda v: gaps(v)[:, :2].ravel()},
        ],
        options={"maxiter": 1000, "ftol": 1e-18},
    )  # fmt: skip
    return [(float(a), float(b)) for a, b, _s in gaps(done.x)]


def revised_length(job: Job, length_mm: float) -> Job:
    """A rectangle of another length."""
    shape = job.design.form.shape
    assert isinstance(shape, Rectangle)
    return revised(job, shape=Rectangle(length_mm, shape.width_mm))


def misfits() -> list[Job]:
    """Boxes whose sides, as measured, do not close the ring: one too short, or one too long for the others."""
    outline = Outline((100.0, 80.0, 100.0, 80.0), (90.0,) * 4)
    found = []
    for shape in (Rectangle(200.0, 120.0, measure="inside"), Regular(6, 90.0), outline):
        job = box(shape)
        for side, length in (("A", 90.0), ("B", 0.0), ("C", 0.0), ("D", 0.0)):
            made = next(one for one in plan(box(shape)).ring.sides if one.name == side)
            job = with_measured(job, f"side.{side}.length_mm", length or made.outside_mm)
        found.append(job)
    job = box(Rectangle(200.0, 120.0))
    for side, length in (("A", 200.0), ("C", 204.0)):
        job = with_measured(job, f"side.{side}.length_mm", length)
    return [*found, job]


def planted(seed: int) -> tuple[Job, Practice, tuple[str, ...], Of]:
    """A box with one thing wrong beyond the tools' spread, measured with the gauges' own noise."""
    chance = random.Random(seed)
    job = box(
        chance.choice([Regular(6, 110.0), Regular(8, 100.0), Rectangle(220.0, 150.0), Regular(5, 130.0)])
    )
    practice, made = Practice(glue="band"), plan(job)
    every = sources(made, practice)
    wrong = chance.choice([s for s in every if s.of in ("tilt_set", "stop_cut", "tilt_cut")])
    size = chance.choice([-1, 1]) * chance.uniform(0.3, 0.6) * (2.0 if wrong.of == "stop_cut" else 1.0)
    sides = [planned(side) for side in made.ring.sides]
    for source in every:
        value = chance.gauss(0, source.sd) + (size if source is wrong else 0.0)
        for i, side in enumerate(made.ring.sides):
            if source.of.startswith("stop") and side.name in source.about:
                sides[i] = sides[i]._replace(length_mm=sides[i].length_mm + value)
            for end in ("start", "end"):
                if source.of.startswith("tilt") and f"{side.name}.{end}" in source.about:
                    cut: EndCut = getattr(sides[i], end)
                    moved = cut._replace(bevel_deg=cut.bevel_deg + value)
                    sides[i] = (
                        sides[i]._replace(start=moved) if end == "start" else sides[i]._replace(end=moved)
                    )
    for corner, joint in zip(made.ring.corners, closed(made.ring, sides, "band", 0), strict=True):
        for where, gap in (("outside", joint.outside_mm), ("inside", joint.inside_mm)):
            seen = max(0.0, gap + chance.gauss(0, 0.02))
            job = with_measured(job, f"corner.{corner.name}.gap_{where}_mm", seen)
    for side, one in zip(made.ring.sides, sides, strict=True):
        job = with_measured(
            job, f"side.{side.name}.length_mm", one.length_mm + chance.gauss(0, 0.03), "caliper", 0.03
        )
        for end, cut in (("start", one.start), ("end", one.end)):
            value = cut.bevel_deg + chance.gauss(0, 0.05)
            job = with_measured(job, f"side.{side.name}.{end}.bevel_deg", value)
    return job, practice, wrong.about, wrong.of
