"""Rooms for keys on a grid of whole millimetres, and every way of filling them."""

import itertools
import math
import random

from peristyle.planning.corners import placing
from peristyle.planning.corners.placing import Room


def random_room(chance: random.Random) -> tuple[Room, int]:
    """Whole millimetres, so that a grid of them holds every arrangement that matters."""
    height, apart = float(chance.randint(20, 44) * 2), float(chance.choice((6, 8, 10)))
    outs = []
    for _ in range(chance.randint(0, 3)):
        low = chance.randint(0, int(height) - 4)
        outs.append((float(low), float(low + chance.randint(2, 14))))
    free = placing.free_spans(height, 4.0, 4.0, outs)
    lid = float(chance.randint(int(height * 0.6), int(height) - 6)) if chance.random() < 0.5 else None
    return Room(height, free, apart, True, lid), chance.randint(1, 4)


def by_brute_force(room: Room, count: int) -> tuple[int, int]:
    """As many keys as find room on the grid of whole millimetres, and the fewest settings for so many."""
    places = [
        float(h)
        for h in range(int(room.height_mm) + 1)
        if any(a - 1e-9 <= h <= b + 1e-9 for a, b in room.free)
    ]
    for number in range(count, 0, -1):
        best = math.inf
        for heights in itertools.combinations(places, number):
            if all(b - a >= room.apart_mm for a, b in itertools.pairwise(heights)):
                best = min(best, placing.settings_of(heights, room))
                if best == (number + 1) // 2:
                    break
        if best < math.inf:
            return number, int(best)
    return 0, 0
