"""Random batches, and what an allocation of one must hold to."""

import itertools
import random
from collections.abc import Sequence

import shapely

from peristyle.model.design import Rectangle
from peristyle.model.job import job_of, revised
from peristyle.model.stock import Board, Mark
from peristyle.planning.form.ring import plan_ring
from peristyle.planning.stock.allocation import Allocation, Wanted
from peristyle.planning.stock.broken import told_of
from peristyle.planning.stock.clear import lies

KERF = 3.0


def random_batch(
    seed: int, boxes: int, boards: int, heights: int = 1, kinds: int = 4
) -> tuple[list[Wanted], list[Board]]:
    """So many boxes of some kinds, of one height or several, and so many boards, some with faults."""
    chance = random.Random(seed)
    high = (60.0, 80.0, 45.0)[:heights]
    counts = [0] * kinds
    for _ in range(boxes):
        counts[chance.randrange(kinds)] += 1
    wanted = [
        Wanted(
            f"Box {k}",
            job_of(shape=Rectangle(chance.uniform(90, 220), chance.uniform(70, 160), "outside"),
                   height_mm=chance.choice(high), thicknesses_mm=(9.0,)),
            count,
        )
        for k, count in enumerate(counts)
    ]  # fmt: skip
    stock = [
        Board(
            name=f"Board {n}", length_mm=chance.uniform(700, 2400), width_mm=chance.choice((70.0, 90.0, 140.0, 180.0)),
            thickness_mm=10.0, price=round(chance.uniform(5, 30), 2),
            wood=chance.choice(("oak", "oak", "ash")) if seed % 3 == 0 else "oak",
            marks=tuple(
                Mark(x_mm=chance.uniform(50, 600), y_mm=chance.uniform(0, 60), length_mm=25.0, width_mm=20.0)
                for _ in range(chance.choice((0, 0, 1, 2)))
            ),
        )
        for n in range(boards)
    ]  # fmt: skip
    return wanted, stock


def troubles(found: Allocation, wanted: Sequence[Wanted], boards: Sequence[Board]) -> list[str]:
    """What is wrong with an allocation; nothing where it can be cut as it says."""
    wrong = []
    for j, one in enumerate(wanted):
        placed = sum(box.job == j for box in found.boxes)
        missing = sum(count for job, count, _why in found.unplaced if job == j)
        if placed + missing != one.count:
            wrong.append(f"job {j}: {placed} + {missing} of {one.count}")
    rows: dict[int, list[tuple[float, float, shapely.Polygon]]] = {}
    for box in found.boxes:
        job = revised(wanted[box.job].job, breaks=())
        ring = plan_ring(job)
        told, count = told_of(job, ring), len(ring.sides)
        sides = [i for run in box.runs for i in run.sides]
        if sorted(sides) != list(range(count)) or any(
            (b - a) % count != 1 for a, b in itertools.pairwise(sides)
        ):
            wrong.append(f"{box}: its sides are not once round")
        if len({boards[run.board].wood for run in box.runs}) > 1:
            wrong.append(f"{box}: of two woods")
        for run in box.runs:
            board = boards[run.board]
            if abs(told.length_mm(run.sides) - (run.end_mm - run.start_mm)) > 0.01:
                wrong.append(f"{run}: not as long as its sides")
            shape = shapely.box(run.start_mm, run.low_mm, run.end_mm, run.high_mm)
            faces = shapely.box(run.start_mm, run.low_mm, run.end_mm - told.apart[run.sides[-1]], run.high_mm)
            if (
                not shapely.box(board.end_trim_mm, 0, board.length_mm, board.width_mm)
                .buffer(1e-3)
                .contains(shape)
            ):
                wrong.append(f"{run}: off its board")
            for mark in board.marks:
                if faces.intersection(shapely.box(*lies(board, mark))).area > 1e-3:
                    wrong.append(f"{run}: on a mark")
            for low, high, other in rows.setdefault(run.board, []):
                if other.intersection(shape).area > 1e-3:
                    wrong.append(f"{run}: on another run")
                if (low, high) != (run.low_mm, run.high_mm) and -1e-6 < max(
                    low - run.high_mm, run.low_mm - high
                ) < KERF - 1e-3:
                    wrong.append(f"{run}: no kerf between strips")
            rows[run.board].append((run.low_mm, run.high_mm, shape))
    return wrong


def least_cost(wanted: Sequence[Wanted], boards: Sequence[Board], most_runs: int = 3) -> float | None:
    """By brute force: the least cost of boards from which all boxes come, None where there is none. Of one height."""
    tolds = []
    for one in wanted:
        job = revised(one.job, breaks=())
        ring = plan_ring(job)
        told, count = told_of(job, ring), len(ring.sides)
        ways = set()
        for number in range(1, most_runs + 1):
            for corners in itertools.combinations(range(count), number):
                starts = [(c + 1) % count for c in corners]
                runs = []
                for k, start in enumerate(starts):
                    end = corners[(k + 1) % number]
                    long = (end - start) % count + 1
                    runs.append(round(told.length_mm([(start + n) % count for n in range(long)]), 3))
                ways.add(tuple(sorted(runs, reverse=True)))
        tolds += [(sorted(ways, key=len), one.job.design.form.height_mm)] * one.count
    best = None
    for number in range(1, len(boards) + 1):
        for some in itertools.combinations(range(len(boards)), number):
            cost = sum(boards[n].price for n in some)
            if (best is None or cost < best) and _all_fit(tolds, [boards[n] for n in some]):
                best = cost
    return best


def _all_fit(boxes: Sequence[tuple[list[tuple[float, ...]], float]], boards: Sequence[Board]) -> bool:
    high = boxes[0][1] if boxes else 1.0
    room: list[float] = []
    for board in boards:
        tiers = int((board.width_mm + KERF + 1e-6) // (high + KERF))
        for tier in range(tiers):
            low = tier * (high + KERF)
            at = board.end_trim_mm
            blocks = sorted(
                (a.x0, a.x1)
                for a in (lies(board, mark) for mark in board.marks)
                if a.y0 < low + high and a.y1 > low
            )
            for x0, x1 in blocks:
                room += [min(x0 - at + KERF, board.length_mm - at)] if x0 > at else []
                at = max(at, x1)
            room += [board.length_mm - at] if board.length_mm > at else []

    def place(k: int, left: tuple[float, ...]) -> bool:
        if k == len(boxes):
            return True
        return any(runs_in(way, left, k) for way in boxes[k][0])

    def runs_in(runs: tuple[float, ...], left: tuple[float, ...], k: int) -> bool:
        if not runs:
            return place(k + 1, tuple(sorted(left)))
        tried = set()
        for n, one in enumerate(left):
            if one >= runs[0] - 1e-6 and one not in tried:
                tried.add(one)
                if runs_in(runs[1:], (*left[:n], one - runs[0], *left[n + 1 :]), k):
                    return True
        return False

    return place(0, tuple(sorted(room)))
