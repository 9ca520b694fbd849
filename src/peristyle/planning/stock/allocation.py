"""What is wanted of a batch, and where every box of it lies: the boards, runs of sides on them, cost and offcut."""

from msgspec import Struct

from peristyle.model.job import Job


class Wanted(Struct, frozen=True):
    """A job and how many boxes of it; `name` is what a map calls it."""

    name: str
    job: Job
    count: int


class RunPlaced(Struct, frozen=True):
    """A run of sides on a board: its number, where its strip begins and ends along it, and how high up."""

    board: int
    sides: tuple[int, ...]
    start_mm: float
    end_mm: float
    low_mm: float
    high_mm: float


class BoxPlaced(Struct, frozen=True):
    """One box: which job, its number among those, and its runs in cutting order."""

    job: int
    number: int
    runs: tuple[RunPlaced, ...]


class Allocation(Struct, frozen=True):
    """What was found. `cost` is that of the boards used, `gap` how far it may be from the least there is (0 proven),
    `least` a bound no plan goes below. `unplaced` are job number, how many, and the key of why.
    """

    boxes: tuple[BoxPlaced, ...] = ()
    unplaced: tuple[tuple[int, int, str], ...] = ()
    cost: float = 0.0
    least: float = 0.0
    gap: float = 0.0
    broken: int = 0
    offcut_mm: float = 0.0
    offcut_board: int = -1
    priced: bool = False
    cancelled: bool = False
    seconds: float = 0.0

    @property
    def boards(self) -> tuple[int, ...]:
        """The boards that are used, by their numbers."""
        return tuple(sorted({run.board for box in self.boxes for run in box.runs}))
