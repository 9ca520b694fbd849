"""A step: what is done at the bench, its settings as values; the words for it are made elsewhere."""

from collections.abc import Iterable, Sequence
from typing import Final, Literal

from msgspec import Struct

from peristyle.planning.cutters import Cutter
from peristyle.planning.making.setting import End, Gauge, Setting
from peristyle.reference.cautions import cautions_of

_THIN_MM: Final = 20.0  # a narrower strip is not ripped between blade and fence as a wide one is (our rule)

Part = Literal["box", "liner", "divider", "segment", "leaf", "strip", "fillet", "tray"]
Lies = Literal["show_up", "inside_up", "on_end", "on_edge", "on_miter", "in_cradle", "on_side", "flat"]
Edge = Literal["bottom", "top"]


class After(Struct, frozen=True):
    """A step that must be done before, and the key of why."""

    step: str
    why: str


class Step(Struct, frozen=True):
    """One operation at one setting. Ids of pieces, features and edges are those of the pieces.

    `id` says what the step does, so that it stays when others come and go; `makes` what is there after it; `edge`
    is the edge of the work against the fence or the gauge; `end` the end that is cut, where it is one. `title` is
    the key of its title and `says` those of how it is done, read over `numbers` (mm, degrees, counts) and `names`.
    `tool_name` is the maker's name of the tool, where it has one, and `cut_mm` how wide one pass of it is.
    """

    id: str
    operation: str
    part: Part
    tool: str
    pieces: tuple[str, ...]
    makes: tuple[str, ...]
    lies: Lies
    settings: tuple[Setting, ...]
    passes: int
    title: str
    says: tuple[str, ...]
    numbers: dict[str, float]
    names: dict[str, str]
    cautions: tuple[str, ...]
    edge: Edge | None = None
    end: End | None = None
    after: tuple[After, ...] = ()
    tool_name: str = ""
    cut_mm: float | None = None

    def values(self, gauge: Gauge) -> tuple[float, ...]:
        """All values of a gauge, in their order."""
        return tuple(setting.value for setting in self.settings if setting.gauge == gauge)

    def value(self, gauge: Gauge) -> float | None:
        """The value of a gauge, None where it is not set; of a stop that at the end."""
        found = [s for s in self.settings if s.gauge == gauge and not (gauge == "stop" and s.end == "start")]
        return found[0].value if found else None

    def amount(self, gauge: Gauge) -> float:
        """The value of a gauge, 0 where it is not set."""
        return self.value(gauge) or 0.0

    @property
    def begins_mm(self) -> float | None:
        """How far into a square blank its first cut begins."""
        return next((s.value for s in self.settings if s.gauge == "stop" and s.end == "start"), None)


def make(
    operation: str,
    pieces: Sequence[str],
    *about: str,
    part: Part = "box",
    tool: str = "table_saw",
    cutter: Cutter | None = None,
    cut_mm: float | None = None,
    makes: Iterable[str] = (),
    lies: Lies = "flat",
    settings: Iterable[Setting] = (),
    passes: int = 1,
    title: str = "",
    says: Iterable[str] = (),
    numbers: dict[str, float] | None = None,
    names: dict[str, str] | None = None,
    short: bool = False,
    edge: Edge | None = None,
    end: End | None = None,
    tool_name: str = "",
) -> Step:
    """A step not yet put in its place; `about` says what it is done on, `short` that its pieces are too
    short to be held by hand.

    What is done with a `cutter` is `cut_mm` wide in each pass, the tool's least width if nothing is said.
    """
    set_so = tuple(settings)
    tool = cutter.tool if cutter else tool
    wide = cut_mm if cut_mm is not None or cutter is None else cutter.least_mm
    tilted = any(setting.gauge == "tilt" for setting in set_so)
    upright = lies in ("on_end", "on_edge") and operation != "halve" and tool != "miter_saw"
    ripped = [setting.value for setting in set_so if setting.gauge == "width" and operation == "rip"]
    thin = any(value < _THIN_MM for value in ripped)
    told = cautions_of(operation, tool, tilted=tilted, on_end=upright, short=short, thin=thin)
    return Step(
        id=".".join((part, operation, *about)),
        operation=operation,
        part=part,
        tool=tool,
        pieces=tuple(pieces),
        makes=tuple(makes),
        lies=lies,
        settings=set_so,
        passes=max(1, passes),
        title=title or operation,
        says=tuple(says),
        numbers=numbers or {},
        names=names or {},
        cautions=told,
        edge=edge,
        end=end,
        tool_name=cutter.name if cutter else tool_name,
        cut_mm=wide,
    )
