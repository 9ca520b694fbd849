"""Pieces as they are cut already, where the design has changed since: what a step made stays as it was planned then."""

from collections.abc import Iterator
from functools import lru_cache
from typing import NamedTuple

from peristyle.model.design import Design, replace
from peristyle.model.job import Done, Job
from peristyle.planning.making.asdone import total_of
from peristyle.planning.making.piece import Feature, Piece
from peristyle.planning.making.step import Step
from peristyle.planning.plan import Plan, plan

_ENDS = frozenset(("start", "end"))  # once both are beveled the outline is the piece's own


class Made(NamedTuple):
    """What a step that is done made: of which piece, as that was planned; a feature, or one of its edges."""

    piece: Piece
    feature: Feature | None
    edge: str


def as_cut(made: Plan) -> dict[str, Piece]:
    """Every piece of the plan that is cut otherwise than the plan has it now, as it is: by its id.

    A step that is done keeps what it made and nothing else: features as they were cut, the outline once both ends are
    beveled; what is still to be cut is as it is planned now.
    """
    now = {piece.id: piece for piece in made.pieces}
    found: dict[str, Piece] = {}
    edges: dict[str, dict[str, Piece]] = {}
    for one in _all_made(made.job):
        piece = found.get(one.piece.id) or now.get(one.piece.id)
        if piece is None:
            continue
        if one.feature is not None:
            others = tuple(feature for feature in piece.features if feature.id != one.feature.id)
            if one.feature not in piece.features:
                found[piece.id] = replace(piece, features=(*others, one.feature))
        else:
            edges.setdefault(piece.id, {})[one.edge] = one.piece
    for name, by in edges.items():
        if by.keys() >= _ENDS:
            piece, own = found.get(name) or now[name], by["end"]
            shape = {key: getattr(own, key) for key in ("show_face", "inside_face", "edges", "thickness_mm")}
            if any(getattr(piece, key) != value for key, value in shape.items()):
                found[name] = replace(piece, **shape)
    return found


def features_cut(job: Job) -> dict[str, tuple[str, Feature]]:
    """Every feature that is cut already: of which piece, and as it is; by its id."""
    return {one.feature.id: (one.piece.id, one.feature) for one in _all_made(job) if one.feature is not None}


def features_of(job: Job, done: Done) -> list[tuple[str, Feature]]:
    """What a step that is done has cut, by the design of then: of which piece, and the feature."""
    return [(one.piece.id, one.feature) for one in _made_by(job, done) if one.feature is not None]


def steps_done(job: Job) -> dict[str, Step]:
    """Every step that is done, by the design it was done by; by its id. One that no design is kept for is left out."""
    planned = (_then(job, done) for done in job.progress)
    return {one[1].id: one[1] for one in planned if one is not None}


def cut_before(made: Plan) -> set[str]:
    """Steps of the plan whose features are all there already, cut by steps that are called otherwise now."""
    cut = features_cut(made.job)
    if not cut:
        return set()
    wanted = {feature.id: feature for piece in made.pieces for feature in piece.features}
    found = set()
    for step in made.steps:
        own = [name for name in step.makes if name in wanted]
        if (
            own
            and len(own) == len(step.makes)
            and all(name in cut and cut[name][1] == wanted[name] for name in own)
        ):
            found.add(step.id)
    return found


def _all_made(job: Job) -> Iterator[Made]:
    """All that the steps that are done have made, each by the design it was done by."""
    for done in job.progress:
        yield from _made_by(job, done)


def _made_by(job: Job, done: Done) -> Iterator[Made]:
    planned = _then(job, done)
    if planned is not None:
        yield from _made(*planned, done)


def _then(job: Job, done: Done) -> tuple[Plan, Step] | None:
    """The plan a step was done by, and the step in it; None where nothing is done of it, or no design kept for it."""
    if not done.count or done.design is None or done.design >= len(job.cut_by):
        return None
    then = _planned(_bare(job, job.cut_by[done.design]))
    step = next((step for step in then.steps if step.id == done.step), None)
    return None if step is None else (then, step)


def _made(then: Plan, step: Step, done: Done) -> Iterator[Made]:
    pieces = {piece.id: piece for piece in then.pieces}
    whole = done.count >= total_of(step)
    reached = step.pieces if whole else step.pieces[: done.count]
    for name in step.makes:
        owner, _mark, edge = name.rpartition(".")
        if name in pieces:
            if name in reached:  # all of the piece at once: a panel, a key
                own = pieces[name]
                yield Made(own, None, "start")
                yield Made(own, None, "end")
        elif owner in pieces and step.operation in ("bevel", "strip_bevel"):
            if owner in reached:
                yield Made(pieces[owner], None, edge)
        else:
            for piece in (pieces[one] for one in reached if one in pieces and name.startswith(f"{one}.")):
                feature = next((feature for feature in piece.features if feature.id == name), None)
                if feature is not None:
                    yield Made(piece, feature, "")


def _bare(job: Job, design: Design) -> Job:
    """The job as it was planned then: nothing measured, nothing done."""
    bare: Job = replace(job, design=design, measured=(), progress=(), log=(), cut_by=())
    return bare


@lru_cache(maxsize=24)
def _planned(job: Job) -> Plan:
    return plan(job)
