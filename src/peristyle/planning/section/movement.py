"""Panels through the seasons: what they swell and shrink across the grain, in their grooves and rabbets."""

from collections.abc import Callable, Iterator, Sequence
from typing import Final, NamedTuple

from msgspec import Struct

from peristyle.core.lengths import Format
from peristyle.core.moisture import equilibrium_percent
from peristyle.core.outlines import Outline as Points
from peristyle.core.outlines import bounds
from peristyle.core.tolerance import DEFAULT
from peristyle.model.design import Panel, PanelName, Seasons, panel_of, size_address
from peristyle.model.job import Job
from peristyle.model.panels import Sawn, Wooden
from peristyle.planning.findings import Change, Finding, Fix, Place, reader
from peristyle.reference.species import SHORT, SPECIES, Species

_HELD_MM: Final = 1.0  # less of a panel in its groove holds nothing (common practice)
_GIVES_MM: Final = 0.5  # what a glued joint across the grain may be asked to give (our rule)
_PLACE: Final = Place("section")


class Moving(NamedTuple):
    """A board besides the panels: what it is called, the part it belongs to and that part's address, its outline; the
    name and the size of the `room` on each side, None where it is glued on flat. `also` is what must follow more room;
    `told` that another finding says whether its wood is known.
    """

    what: str
    part: Wooden
    at: str
    outline: Points
    room: tuple[str, float] | None = None
    also: Callable[[float], tuple[Change, ...]] = lambda _more: ()
    told: bool = False


class Movement(Struct, frozen=True):
    """One panel from the day it is made to its driest and its dampest (mm). What swells is told positive.

    `across_mm` is its width across the grain; `swells_mm` by how much it is wider at its dampest, `shrinks_mm` narrower
    at its driest. `ring_opens_mm` and `ring_closes_mm` are what the ring itself does then, where its grain runs
    upright: the room between its walls grows in the damp. Play is the room left on each side along the worst way, held
    what is still in the groove.
    """

    panel: PanelName
    wood: str
    across_mm: float
    swells_mm: float
    shrinks_mm: float
    ring_opens_mm: float
    ring_closes_mm: float
    play_damp_mm: float
    play_dry_mm: float
    held_damp_mm: float
    held_dry_mm: float


def contents(seasons: Seasons) -> tuple[float, float, float]:
    """Moisture content (%) now, at the driest, at the dampest."""
    values = (seasons.now, seasons.driest, seasons.dampest)
    if seasons.by == "moisture":
        return values
    now, dry, damp = (equilibrium_percent(seasons.temperature_c, value) for value in values)
    return now, dry, damp


def coefficients(job: Job, wood: str) -> Species | None:
    """What is known of a wood, the maker's own first; None where nothing is."""
    name = wood.strip().lower()
    for own in job.shop.species:
        if own.name.strip().lower() == name:
            return Species(own.radial, own.tangential)
    return SPECIES.get(SHORT.get(name, name))


def coefficient(known: Species, sawn: Sawn) -> float:
    """Change across the board for 1 % of moisture: along the rings where it is flat sawn, across them where quartered;
    of rift-sawn wood the mean (common practice).
    """
    if sawn == "rift":
        return (known.radial + known.tangential) / 2
    return known.radial if sawn == "quarter" else known.tangential


def movements_of(job: Job, outlines: Sequence[tuple[PanelName, Points]]) -> tuple[Movement, ...]:
    """What the panels do that lie in something; of woods that are not known nothing is told."""
    seasons = job.design.section.seasons
    if seasons is None:
        return ()
    now, dry, damp = contents(seasons)
    ring = _ring_share(job)
    found = []
    for name, outline in outlines:
        panel = panel_of(job.design, name)
        if panel is None or panel.seat == "applied" or ring is None:
            continue
        share = _share(job, panel)
        if share is not None:
            found.append(_movement(job, name, panel, outline, (share, ring), (dry - now, damp - now)))
    return tuple(found)


def _share(job: Job, panel: Wooden) -> float | None:
    """Change of a panel across its grain for 1 % of moisture; None where its wood is not known."""
    if panel.sheet:
        return 0.0
    known = coefficients(job, panel.wood)
    return None if known is None else coefficient(known, panel.sawn)


def _ring_share(job: Job) -> float | None:
    """The same of the ring's own inside, which moves where the grain of its sides runs upright."""
    board = job.stock.board
    if board.method != "upright" or board.sheet:
        return 0.0
    known = coefficients(job, board.wood)
    return None if known is None else coefficient(known, board.sawn)


def _movement(
    job: Job,
    name: PanelName,
    panel: Panel,
    outline: Points,
    shares: tuple[float, float],
    turns: tuple[float, float],
) -> Movement:
    long, wide = _along_and_across(panel, outline)
    held = panel.depth_mm - panel.play_mm
    own, ring = shares
    dry, damp = turns
    # Between two walls lies the panel less what goes into them; along the grain only the ring moves.
    between, along = wide - 2 * held, long - 2 * held
    ways = [
        (turn, (wide * own - between * ring) * turn / 2, -along * ring * turn / 2) for turn in (dry, damp)
    ]  # on each side, across the grain and along it: what the panel goes further in
    into = {turn: (max(across, length), min(across, length)) for turn, across, length in ways}
    return Movement(
        panel=name,
        wood=panel.wood,
        across_mm=wide,
        swells_mm=wide * own * damp,
        shrinks_mm=-wide * own * dry,
        ring_opens_mm=max(between, along) * ring * damp,
        ring_closes_mm=-max(between, along) * ring * dry,
        play_damp_mm=panel.play_mm - into[damp][0],
        play_dry_mm=panel.play_mm - into[dry][0],
        held_damp_mm=held + into[damp][1],
        held_dry_mm=held + into[dry][1],
    )


def _along_and_across(panel: Wooden, outline: Points) -> tuple[float, float]:
    """How far a panel reaches along its grain and across it (mm)."""
    x0, y0, x1, y1 = bounds(outline)
    return (x1 - x0, y1 - y0) if panel.grain == "length" else (y1 - y0, x1 - x0)


def movement_findings(
    job: Job, moved: Sequence[Movement], outlines: Sequence[tuple[PanelName, Points]]
) -> Iterator[Finding]:
    """What a year does that the panel cannot bear: too little play, nothing held, glue across the grain."""
    design, fmt = job.design, reader(job.design)
    seasons = design.section.seasons
    if seasons is None:
        return
    if not seasons.driest <= seasons.now <= seasons.dampest:
        low, high = sorted((seasons.driest, seasons.dampest))
        now = min(max(seasons.now, low), high)
        changes = tuple(
            (f"section.seasons.{key}", value)
            for key, value in (("driest", low), ("now", now), ("dampest", high))
        )
        yield Finding("seasons_out_of_order", "caution", _PLACE, {}, (Fix("seasons_ordered", changes),))
    for name, outline in outlines:
        panel = panel_of(design, name)
        if panel is not None and not panel.sheet and coefficients(job, panel.wood) is None:
            told = {"panel": name, "wood": panel.wood.strip() or "wood"}
            kind = "named" if panel.wood.strip() else ""
            yield Finding(
                "wood_unknown", "note", _PLACE, {}, (_sheet(size_address(name, "sheet")),), told, kind
            )
        elif panel is not None and panel.seat == "applied" and name != "lid":
            glued = Moving(name, panel, f"section.{name}", outline, told=True)
            yield from boards_findings(job, [glued])
    if _ring_share(job) is None:
        yield Finding(
            "wood_unknown", "note", _PLACE, {}, (), {"wood": job.stock.board.wood, "panel": "sides"}, "ring"
        )
    for one in moved:
        panel = panel_of(design, one.panel)
        if panel is not None:
            yield from _too_much(one, panel, fmt)


def _too_much(one: Movement, panel: Panel, fmt: Format) -> Iterator[Finding]:
    def at(size: str) -> str:
        return size_address(one.panel, size, panel.seat)

    names: dict[str, str] = {"panel": one.panel}
    least, held = min(one.play_damp_mm, one.play_dry_mm), min(one.held_damp_mm, one.held_dry_mm)
    needed, more = (
        fmt.up(panel.play_mm - least),
        fmt.up(panel.depth_mm + (_HELD_MM - held) / 0.95),
    )  # a deeper groove makes a wider panel
    if least < -DEFAULT.length_mm:
        depth = max(
            panel.depth_mm, fmt.up(needed + _HELD_MM + max(0.0, panel.depth_mm - panel.play_mm - held))
        )
        changes = ((at("play_mm"), needed), (at("depth_mm"), depth))
        fix = Fix("play", changes, {"play_mm": needed})
        numbers = {"play_mm": panel.play_mm, "needed_mm": needed, "over_mm": -least}
        kind = "lid" if one.panel == "lid" else ""
        yield Finding("panel_swells", "caution", _PLACE, numbers, (fix, _sheet(at("sheet"))), names, kind)
    elif held < _HELD_MM - DEFAULT.length_mm:
        fix = Fix("groove_depth", ((at("depth_mm"), more),), {"depth_mm": more})
        numbers = {"held_mm": max(0.0, held), "depth_mm": panel.depth_mm}
        yield Finding("panel_shrinks_out", "caution", _PLACE, numbers, (fix, _sheet(at("sheet"))), names)


def boards_findings(job: Job, boards: Sequence[Moving]) -> Iterator[Finding]:
    """What a year does to boards that lie in no groove: those free between walls stick, those glued on flat split."""
    seasons, ring = job.design.section.seasons, _ring_share(job)
    if seasons is None or ring is None:
        return
    now, dry, damp = contents(seasons)
    for own in boards:
        names = {"panel": own.what, "wood": own.part.wood.strip()}
        share, long, wide = _share(job, own.part), *_along_and_across(own.part, own.outline)
        sheet = _sheet(f"{own.at}.sheet")
        if share is None:
            if not own.told:
                yield Finding(
                    "wood_unknown", "note", _PLACE, {}, (sheet,), names, "named" if names["wood"] else ""
                )
        elif own.room is None:
            moves = wide * share * (damp - dry)
            if ring == 0.0 and moves > _GIVES_MM:
                yield Finding("applied_moves", "caution", _PLACE, {"moves_mm": moves}, (sheet,), names)
        else:
            size, room = own.room
            needed = max(
                max((wide * share - (wide + 2 * room) * ring) * turn, -(long + 2 * room) * ring * turn) / 2
                for turn in (dry - now, damp - now)
            )
            if needed > room + DEFAULT.length_mm:
                more = reader(job.design).up(needed)
                changes = ((f"{own.at}.{size}", more), *own.also(more))
                numbers = {"play_mm": room, "needed_mm": more}
                play = Fix("play", changes, {"play_mm": more})
                yield Finding("loose_swells", "caution", _PLACE, numbers, (play, sheet), names)


def _sheet(at: str) -> Fix:
    """Of plywood, by the address that says so."""
    return Fix("of_sheet", ((at, True),))
