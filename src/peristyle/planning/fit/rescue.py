"""When something is wrong: every way out that a maker would think of, what it costs, and the box with it taken."""

import math
from collections.abc import Callable, Iterator, Sequence
from typing import Any, Final, Literal, NamedTuple, get_args

from msgspec import Struct

from peristyle.core.errors import PeristyleError
from peristyle.model import addresses, worklist
from peristyle.model.design import Insert, Rectangle, Regular, replace, side_name
from peristyle.model.job import Job
from peristyle.planning.findings import Change, reader, shape_changes
from peristyle.planning.fit.half_way import still_to_do, verdicts
from peristyle.planning.fit.quantities import known, measured
from peristyle.planning.form.ring import CornerPlan
from peristyle.planning.form.slabs import scaled
from peristyle.planning.making.step import Step
from peristyle.planning.plan import Plan, plan
from peristyle.planning.stock.replacing import remade
from peristyle.planning.time.minutes import minutes_of, own_minutes

Trouble = Literal[
    "short", "thin", "last_gap", "panel_large", "rattles", "lid_off", "lid_low", "groove_wide", "groove_off", "chip",
    "slot_wide", "both_ends", "forgotten", "slipped", "rocks", "long_all",
]  # fmt: skip
TROUBLES: Final[tuple[Trouble, ...]] = get_args(Trouble)
# What each is told of: a side, a panel, a corner, or the box.
About = Literal["side", "panel", "corner", "box"]
ABOUT: Final[dict[Trouble, About]] = {
    "short": "side", "thin": "side", "both_ends": "side", "panel_large": "panel", "groove_wide": "panel",
    "groove_off": "panel", "forgotten": "panel", "last_gap": "corner", "slot_wide": "corner",
    **dict.fromkeys(("rattles", "lid_off", "lid_low", "chip", "slipped", "rocks", "long_all"), "box"),
}  # fmt: skip
_LEAST_MM: Final = 0.1  # what is off by less is left alone (our rule)
_BREAKS: Final = 12.0  # what a corner where the grain does not run on weighs, in mm of size (our rule)
_SEEN: Final = 4.0  # what can be seen that was not meant, in mm of size (our rule)
_MINUTES: Final = 15.0  # of work that weigh as much as a mm of size (our rule)
_NOTHING: Final = 1e-9

Best = Callable[[Job, int], tuple[str, float, tuple[float, float]] | None]


class Rescue(Struct, frozen=True):
    """One way out: the key of its words with their numbers and names, the values it changes by address, the steps it
    adds (keys of their titles), whether a side is made anew, from which board and with how much of it cut away before
    (`skip_mm`), where that was looked for how well its corners match (0 to 100). `size_mm` is how much smaller the box
    gets, `wood_mm` how much length of board it wants, `corners` at how many the grain no longer runs on, `seen` whether
    it shows, `minutes` of work more than without it, `guessed` where nobody has timed such work.
    """

    key: str
    numbers: dict[str, float] = {}
    names: dict[str, str] = {}
    changes: tuple[Change, ...] = ()
    steps: tuple[str, ...] = ()
    anew: tuple[int, str] | None = None
    skip_mm: float = 0.0
    scores: tuple[float, float] | None = None
    size_mm: float = 0.0
    wood_mm: float = 0.0
    corners: int = 0
    seen: bool = False
    minutes: float = 0.0
    guessed: bool = True

    @property
    def weight(self) -> float:
        """What it costs, all told, in mm of size: the least is offered first."""
        looks = _BREAKS * self.corners + (_SEEN if self.seen else 0.0)
        return self.size_mm + self.wood_mm / 50 + self.minutes / _MINUTES + looks


class Found(NamedTuple):
    """Something wrong, as measured: which trouble, where (a letter, a corner's name, a panel), by how much (mm)."""

    trouble: Trouble
    where: str
    by_mm: float


def troubles_of(job: Job) -> Iterator[Found]:
    """What the measured values say is wrong, each trouble at each place once, by the worst of it."""
    worst: dict[tuple[Trouble, str], Found] = {}
    for one in (*_measured_troubles(job), *_lid_held_up(job)):
        before = worst.get((one.trouble, one.where))
        if before is None or one.by_mm > before.by_mm:
            worst[one.trouble, one.where] = one
    yield from worst.values()


def _lid_held_up(job: Job) -> Iterator[Found]:
    """A liner that holds up the lid as body and lid came out, where it would not as they were planned."""
    if not any(one.name.startswith(("body.", "lid.")) for one in job.measured):
        return
    held = [plan(one).liner for one in (job, _unmeasured(job))]
    over = [max(0.0, -one.headroom_mm) if one is not None else 0.0 for one in held]
    if over[0] > over[1] + _LEAST_MM:
        yield Found("lid_off", "", over[0])


def _measured_troubles(job: Job) -> Iterator[Found]:
    """What the measured values say is wrong, value by value."""
    there = known(plan(_unmeasured(job)))
    for name, one in measured(job).items():
        quantity = there.get(name)
        if quantity is None or quantity.planned is None:
            continue
        off, names = one.value - quantity.planned, quantity.names
        if quantity.key == "length" and off < -_LEAST_MM:
            yield Found("short", names["side"], -off)
        elif quantity.key == "thickness" and off < -_LEAST_MM:
            yield Found("thin", names["side"], -off)
        elif quantity.key == "width" and off < -_LEAST_MM:
            yield Found("chip", "", -off)
        elif quantity.key in ("panel_length", "panel_width") and off > _LEAST_MM:
            yield Found("panel_large", names["panel"], off)
        elif quantity.key == "groove_width" and off > _LEAST_MM:
            yield Found("groove_wide", names["panel"], off)
        elif quantity.key == "slot" and off > _LEAST_MM:
            yield Found("slot_wide", names["corner"], off)
        elif quantity.key in ("body", "lid") and off < -_LEAST_MM:
            yield Found("lid_low", "", -off)
        elif quantity.key.startswith("gap") and one.value > _LEAST_MM:
            yield Found("last_gap", names["corner"], one.value)
    play = measured(job).get("contents.play_mm")
    if play is not None and play.value > 2 * _LEAST_MM:
        yield Found("rattles", "", play.value)


def places_of(made: Plan, about: About) -> list[str]:
    """The names of all that a trouble can be told of: sides, corners or panels; of the box none."""
    names: dict[About, list[str]] = {
        "side": [side.name for side in made.ring.sides], "corner": [corner.name for corner in made.ring.corners],
        "panel": [panel.name for panel in made.section.panels],
    }  # fmt: skip
    return names.get(about, [])


def can_be(made: Plan, trouble: Trouble) -> bool:
    """Whether a box has what goes wrong: a lid, a panel, keys, something in it."""
    design = made.job.design
    match trouble:
        case "rattles":
            return bool(design.inside.contents) or isinstance(design.section.cover, Insert)
        case "lid_off":
            return bool(design.section.lid or (design.section.cover and design.inside.liner))
        case "lid_low":
            return design.section.lid is not None
        case "slot_wide":
            return bool(made.keys.keys)
    return ABOUT[trouble] == "box" or bool(places_of(made, ABOUT[trouble]))


def _unmeasured(job: Job) -> Job:
    made: Job = replace(job, measured=())
    return made


def rescues(
    job: Job, trouble: Trouble, where: str = "", by_mm: float = 1.0, best: Best | None = None
) -> tuple[Rescue, ...]:
    """The ways out, the cheapest first; only those after which the box can be made as well as it could before.

    `best` looks along the rack for where a side that is made anew matches its neighbours best: the board, how much of
    it is cut away before, both scores. Without it the first board that is large enough is told.
    """
    before, own = plan(job), own_minutes([job])
    stops, work = _stops(before), _work(before)
    good = []
    for one in _WAYS[trouble](plan(_unmeasured(job)), where, by_mm):
        found = matched(one, job, best) if best is not None else one
        after = plan(taken(job, found, [(key, key) for key in found.steps]))
        if not (_stops(after) - stops):
            good.append(_timed(found, work, after, own))
    return tuple(sorted(good, key=lambda one: one.weight))


def matched(rescue: Rescue, job: Job, best: Best) -> Rescue:
    """A way out with the side that it makes anew taken from where it matches best; as it is where it makes none."""
    found = best(job, rescue.anew[0]) if rescue.anew is not None else None
    if rescue.anew is None or found is None:
        return rescue
    board, skip, scores = found
    made: Rescue = replace(
        rescue,
        anew=(rescue.anew[0], board),
        skip_mm=skip,
        scores=scores,
        names=rescue.names | {"board": board},
    )
    return made


def _work(made: Plan) -> dict[str, Step]:
    """What is still to be done, by the ids of the steps."""
    return {step.id: step for step in still_to_do(made, verdicts(made))}


def _timed(rescue: Rescue, before: dict[str, Step], made: Plan, own: dict[str, list[float]]) -> Rescue:
    """The way out with the minutes it adds to what was to be done before."""
    after = _work(made)
    if rescue.anew is not None:  # what was done to that side is done once more
        side = f"side.{made.ring.sides[rescue.anew[0]].name}"
        after |= {step.id: step for step in made.steps if side in step.pieces and step.id not in before}
    more = {name: minutes_of(step, own) for name, step in after.items()}
    less = math.fsum(minutes_of(step, own).middle for step in before.values())
    guessed = any(one.guessed for name, one in more.items() if name not in before)
    timed: Rescue = replace(
        rescue, minutes=max(0.0, math.fsum(one.middle for one in more.values()) - less), guessed=guessed
    )
    return timed


def _stops(made: Plan) -> set[str]:
    return {finding.code for finding in made.findings if finding.severity == "stop"}


def taken(job: Job, rescue: Rescue, steps: Sequence[tuple[str, str]] = ()) -> Job:
    """The job with a way out taken: values changed, a side made anew, and its own steps, (title, how)."""
    job = addresses.applied(job, rescue.changes)
    if rescue.anew is not None:
        side, board = rescue.anew
        job = remade(job, side, board, rescue.skip_mm)
    for title, how in steps:
        job = worklist.with_own(job, title, how, "")
    return job


# --- what there is to do about each


def _side(made: Plan, where: str) -> int:
    names = places_of(made, "side")
    if where.upper() not in names:
        raise PeristyleError(f"“{where[:24]}” is no side of this box: A to {names[-1] if names else '?'}.")
    return names.index(where.upper())


def _short(made: Plan, where: str, by_mm: float) -> Iterator[Rescue]:
    side = _side(made, where)
    job, shape, ring = made.job, made.job.design.form.shape, made.ring
    is_mm = ring.sides[side].outside_mm - by_mm
    if isinstance(shape, Rectangle):
        name = "length_mm" if side % 2 == 0 else "width_mm"
        partner = side_name((side + 2) % 4)
        # What tapers keeps its lean: the size at the top goes with that at the foot.
        sizes = [one for one in (name, f"top_{name}") if getattr(shape, one) is not None]
        changes = tuple((f"form.{one}", getattr(shape, one) - by_mm) for one in sizes)
        if all(value > 0 for _name, value in changes):
            yield Rescue("shorten_partner", {"by_mm": by_mm, "is_mm": is_mm}, {"side": where.upper(), "other": partner},
                         changes, size_mm=by_mm)  # fmt: skip
    elif isinstance(shape, Regular):
        across = shape.measure in ("across_flats", "across_corners")
        less = shape.size_mm * by_mm / ring.sides[side].outside_mm if across else by_mm
        sizes = [one for one in ("size_mm", "top_mm") if getattr(shape, one) is not None]
        changes = tuple((f"form.{one}", getattr(shape, one) - less) for one in sizes)
        if all(value > 0 for _name, value in changes):
            yield Rescue("shorten_all", {"by_mm": by_mm, "is_mm": is_mm}, {}, changes,
                         size_mm=by_mm * len(ring.sides) / 2)  # fmt: skip
        yield from _anew(job, made, side)
        return
    whole = _next_smaller(made, is_mm / ring.sides[side].outside_mm)
    if whole is not None:
        yield whole
    yield from _anew(job, made, side)


def _next_smaller(made: Plan, share: float) -> Rescue | None:
    """Every side smaller by the same share: the box keeps its shape."""
    tapers = any(getattr(made.job.design.form.shape, top, None) for top in ("top_length_mm", "top_width_mm"))
    if tapers or not 0.2 < share < 1.0:
        return None  # what tapers would lean otherwise than it was cut
    smaller = scaled(made.job, share)
    if smaller is None:
        return None
    changes = shape_changes(made.job.design.form.shape, smaller.design.form.shape)
    longest = max(side.outside_mm for side in made.ring.sides)
    return Rescue("smaller_ring", {"share": 100 * share}, {}, changes, size_mm=2 * longest * (1 - share))


def _anew(job: Job, made: Plan, side: int) -> Iterator[Rescue]:
    """The side from spare wood on the rack, where a board is long, wide and thick enough."""
    one = made.ring.sides[side]
    for board in job.stock.rack:
        long = board.length_mm - 2 * board.end_trim_mm
        if (
            long >= one.blank_mm
            and board.width_mm >= one.rip_mm
            and board.thickness_mm >= one.thickness_mm - _NOTHING
        ):
            numbers = {"long_mm": one.blank_mm}
            yield Rescue("replace_side", numbers, {"side": one.name, "board": board.name}, anew=(side, board.name),
                         wood_mm=one.blank_mm, corners=2)  # fmt: skip
            return


def _thin(made: Plan, where: str, by_mm: float) -> Iterator[Rescue]:
    side = made.ring.sides[_side(made, where)]
    thin = side.thickness_mm - by_mm
    if thin > 0:
        yield Rescue("all_thin", {"thin_mm": thin}, {}, (("sides.thickness_mm", (thin,)),), size_mm=by_mm / 2)
    yield Rescue(
        "step_inside", {"by_mm": by_mm}, {"side": where.upper()}, steps=("own.ease_step",), seen=True
    )
    yield from _anew(made.job, made, side.index)


def _corner(made: Plan, where: str) -> CornerPlan:
    names = places_of(made, "corner")
    if where.upper() not in names:
        raise PeristyleError(f"“{where[:24]}” is no corner of this box: {', '.join(names) or 'it has none'}.")
    return made.ring.corners[names.index(where.upper())]


def _last_gap(made: Plan, where: str, by_mm: float) -> Iterator[Rescue]:
    corner = _corner(made, where)
    turn = math.degrees(by_mm / corner.joint_face_mm)
    numbers = {"turn_deg": turn, "by_mm": by_mm, "each_deg": turn / (2 * len(made.ring.sides))}
    yield Rescue("shoot_last", numbers, {"corner": corner.name}, steps=("own.shoot_last",))
    yield Rescue("shim_last", numbers, {"corner": corner.name}, steps=("own.shim_last",), seen=True)
    if len(made.ring.sides) % 2 == 0:
        yield Rescue("halves", numbers, {}, steps=("own.halves",), size_mm=0.2)


def _panel_large(made: Plan, where: str, by_mm: float) -> Iterator[Rescue]:
    groove = made.section.groove(_panel(made, where))
    fmt = reader(made.job.design)
    yield Rescue("trim_panel", {"by_mm": by_mm}, {"panel": where}, steps=("own.trim_panel",))
    if groove is not None and where in ("bottom", "top"):
        deep = fmt.up(groove.depth_mm + by_mm / 2)
        yield Rescue(
            "groove_deeper", {"deep_mm": deep}, {"panel": where}, ((f"section.{where}.depth_mm", deep),)
        )


def _panel(made: Plan, where: str) -> Any:
    names = places_of(made, "panel")
    if where not in names:
        raise PeristyleError(f"“{where[:24]}” is no panel of this box: {', '.join(names) or 'it has none'}.")
    return where


def _rattles(made: Plan, _where: str, by_mm: float) -> Iterator[Rescue]:
    fmt, design = reader(made.job.design), made.job.design
    cover = design.section.cover
    half = fmt.down(by_mm / 2)
    if half > 0 and design.inside.contents:
        lining = design.inside.lining_mm + half
        yield Rescue("line_it", {"lining_mm": half}, {}, (("inside.lining_mm", lining),))
        yield Rescue("shim_walls", {"by_mm": half}, {}, steps=("own.shim_walls",))
    if isinstance(cover, Insert):
        yield Rescue("wider_lip", {"by_mm": by_mm}, {}, (("section.cover.ledge_mm", cover.ledge_mm + by_mm),))
        yield Rescue("strip_round_insert", {"by_mm": half}, {}, steps=("own.strip_round_insert",), seen=True)


def _lid_off(made: Plan, _where: str, by_mm: float) -> Iterator[Rescue]:
    fmt, section = reader(made.job.design), made.job.design.section
    if section.lid is not None:
        high = fmt.up(by_mm) + (section.strip.height_mm if section.strip else 0.0)
        changes = (("section.strip", True), ("section.strip.height_mm", high))
        yield Rescue(
            "strip_between",
            {"high_mm": high},
            {},
            changes,
            wood_mm=sum(s.outside_mm for s in made.ring.sides),
        )
    liner = made.job.design.inside.liner
    if liner is not None and liner.height_mm > by_mm:
        low = fmt.down(liner.height_mm - by_mm)
        yield Rescue(
            "lower_liner", {"high_mm": low}, {}, (("inside.liner.height_mm", low),), size_mm=by_mm / 4
        )


def _lid_low(made: Plan, _where: str, by_mm: float) -> Iterator[Rescue]:
    section = made.job.design.section
    if section.lid is None:
        return
    more = section.lid.clean_up_mm + by_mm
    yield Rescue(
        "true_both",
        {"by_mm": by_mm, "clean_up_mm": more},
        {},
        (("section.lid.clean_up_mm", more),),
        size_mm=by_mm,
    )
    yield from _lid_off(made, "", by_mm)


def _groove_wide(made: Plan, where: str, by_mm: float) -> Iterator[Rescue]:
    part = _panel(made, where)
    groove, fmt = made.section.groove(part), reader(made.job.design)
    panel = next(panel for panel in made.section.panels if panel.name == part)
    thick = panel.thickness_mm + by_mm
    if where in ("bottom", "top"):
        changes = ((f"section.{where}.thickness_mm", thick),)
        yield Rescue(
            "thicker_panel", {"thick_mm": thick}, {"panel": where}, changes, wood_mm=panel.length_mm / 4
        )
    if groove is not None:
        yield Rescue(
            "fill_groove", {"by_mm": fmt.up(by_mm)}, {"panel": where}, steps=("own.fill_groove",), seen=True
        )


def _groove_off(made: Plan, where: str, by_mm: float) -> Iterator[Rescue]:
    part = _panel(made, where)
    panel = getattr(made.job.design.section, part, None)
    if panel is not None and panel.height_mm + by_mm > 0:
        high = panel.height_mm + by_mm
        yield Rescue(
            "panel_there", {"high_mm": high}, {"panel": where}, ((f"section.{where}.height_mm", high),)
        )
    yield Rescue(
        "fill_and_cut",
        {"by_mm": abs(by_mm)},
        {"panel": where},
        steps=("own.fill_groove", "own.groove_again"),
        seen=True,
    )


def _chip(made: Plan, _where: str, by_mm: float) -> Iterator[Rescue]:
    high = made.job.design.form.height_mm - by_mm
    if high > 0:
        yield Rescue(
            "rip_narrower", {"by_mm": by_mm, "high_mm": high}, {}, (("form.height_mm", high),), size_mm=by_mm
        )
    yield Rescue("glue_chip", {"by_mm": by_mm}, {}, steps=("own.glue_chip",), seen=True)


def _slot_wide(made: Plan, where: str, by_mm: float) -> Iterator[Rescue]:
    corner = _corner(made, where).index
    for group in dict.fromkeys(key.set for key in made.keys.keys if key.corner == corner):
        thick = (
            next(key.thickness_mm for key in made.keys.keys if (key.corner, key.set) == (corner, group))
            + by_mm
        )
        yield Rescue("thicker_keys", {"thick_mm": thick}, {}, ((f"joints.{group}.thickness_mm", thick),))
        yield Rescue(
            "one_thick_key", {"thick_mm": thick}, {"corner": where.upper()}, steps=("own.one_thick_key",)
        )


def _both_ends(made: Plan, where: str, _by_mm: float) -> Iterator[Rescue]:
    """Both ends leaning the same way: cut again at one end, it is shorter by twice what a bevel stands back."""
    side = made.ring.sides[_side(made, where)]
    loses = 2 * abs(side.back_mm(side.end))
    for other in made.ring.sides:
        if other.index != side.index and other.outside_mm <= side.outside_mm - loses + _NOTHING:
            numbers = {"loses_mm": loses, "long_mm": other.outside_mm}
            names = {"side": side.name, "other": other.name}
            yield Rescue("serve_smaller", numbers, names, steps=("own.serve_smaller",), corners=2)
            break
    yield from _short(made, where, loses)


def _forgotten(made: Plan, where: str, _by_mm: float) -> Iterator[Rescue]:
    yield Rescue(
        "rout_late", {}, {"panel": where or "opening"}, steps=("own.rout_late", "own.refinish"), size_mm=0.5
    )
    if where in ("bottom", "top"):
        changes = ((f"section.{where}", True), (f"section.{where}.seat", "applied"))
        yield Rescue("glue_on", {}, {"panel": where}, changes, seen=True)


def _slipped(_made: Plan, _where: str, by_mm: float) -> Iterator[Rescue]:
    yield Rescue("realign", {"by_mm": by_mm}, {}, steps=("own.realign",))
    yield Rescue("flush_step", {"by_mm": by_mm}, {}, steps=("own.flush_step",), size_mm=by_mm)


def _rocks(made: Plan, _where: str, by_mm: float) -> Iterator[Rescue]:
    yield Rescue("plane_high", {"by_mm": by_mm}, {}, steps=("own.plane_high",))
    high = made.job.design.form.height_mm - by_mm
    if high > 0:
        yield Rescue(
            "rip_narrower", {"by_mm": by_mm, "high_mm": high}, {}, (("form.height_mm", high),), size_mm=by_mm
        )


def _long_all(made: Plan, _where: str, by_mm: float) -> Iterator[Rescue]:
    """All sides a little long: what goes in follows the ring."""
    shape = made.job.design.form.shape
    longest = max((side.outside_mm for side in made.ring.sides), default=0.0)
    larger = scaled(made.job, 1 + by_mm / longest) if longest else None
    if larger is not None:
        yield Rescue("as_it_is", {"by_mm": by_mm}, {}, shape_changes(shape, larger.design.form.shape))
    yield Rescue("shoot_all", {"by_mm": by_mm}, {}, steps=("own.shoot_all",))


_WAYS: Final[dict[Trouble, Callable[[Plan, str, float], Iterator[Rescue]]]] = {
    "short": _short, "thin": _thin, "last_gap": _last_gap, "panel_large": _panel_large, "rattles": _rattles,
    "lid_off": _lid_off, "lid_low": _lid_low, "groove_wide": _groove_wide, "groove_off": _groove_off, "chip": _chip,
    "slot_wide": _slot_wide, "both_ends": _both_ends, "forgotten": _forgotten, "slipped": _slipped, "rocks": _rocks,
    "long_all": _long_all,
}  # fmt: skip
