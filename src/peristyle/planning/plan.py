"""The plan: everything that follows from one design, worked out in order."""

from functools import cached_property

from peristyle.model.design import HeightOf, Joints, replace, side_name
from peristyle.model.job import Job
from peristyle.planning.corners.blocks import plan_corner_blocks
from peristyle.planning.corners.frame import frames_of
from peristyle.planning.corners.keys import KeysPlan, plan_keys
from peristyle.planning.corners.splines import plan_splines
from peristyle.planning.findings import WEIGHT, Finding
from peristyle.planning.form.ring import plan_ring
from peristyle.planning.inside.contents import in_the_way, plan_contents, sized
from peristyle.planning.inside.divider_plan import plan_dividers
from peristyle.planning.inside.liner import plan_liner
from peristyle.planning.inside.mouth import mouth_findings
from peristyle.planning.making.kind import Kind, Settled, cut_into
from peristyle.planning.making.kinds import KINDS
from peristyle.planning.making.machine import machine_findings
from peristyle.planning.making.piece import Feature, Piece
from peristyle.planning.making.pieces import plan_pieces
from peristyle.planning.making.step import Step
from peristyle.planning.making.steps import plan_steps
from peristyle.planning.section.levels import plan_section
from peristyle.planning.setups import as_set
from peristyle.planning.stock.clear import mark_findings
from peristyle.planning.stock.wrap import plan_wrap, with_needed_board

_NO_JOINTS = Joints()


class Plan(Settled, frozen=True, dict=True):
    """A design and what follows from it. Findings come gravest first.

    `job` is the job as planned: its height that of the box as glued, whichever is held (`height_of`); with contents,
    its ring is sized from them. `kinds` are the kinds of parts there are, in their order.
    """

    findings: tuple[Finding, ...] = ()
    kinds: tuple[Kind, ...] = KINDS
    height_of: HeightOf = "glued"

    @cached_property
    def cuts(self) -> dict[str, list[Feature]]:
        """What is cut into each piece, by its id; sooner there than the pieces."""
        return cut_into(self, self.kinds) if self.ring.stands else {}

    @cached_property
    def pieces(self) -> tuple[Piece, ...]:
        """Everything that is cut, with its features, in its place; worked out when first asked for."""
        return plan_pieces(self, self.kinds, self.cuts)

    @cached_property
    def steps(self) -> tuple[Step, ...]:
        """What is done, in its order; worked out when first asked for, so that a drag need not wait for it."""
        return as_set(self.job.shop, plan_steps(self, self.kinds))

    @cached_property
    def standing_mm(self) -> float:
        """Height (mm) of the closed box as it stands: with its feet, and the banding on its edges."""
        if self.job.design.section.feet is None and not self.job.stock.board.sheet:
            return self.section.finished_mm  # no pieces are wanted for it: a drag need not wait
        feet = [piece for piece in self.pieces if piece.part == "foot"]
        low = min((z for piece in feet for z in _levels(piece)), default=0.0)
        below = max(
            0.0, -low - max(0.0, -bottom.up_mm if (bottom := self.job.design.section.bottom) else 0.0)
        )
        bands = {piece.id.rpartition(".")[2] for piece in self.pieces if piece.part == "band"}
        return self.section.finished_mm + below + len(bands) * self.job.stock.banding_mm

    @property
    def on_board(self) -> dict[str, tuple[float, float]]:
        """Where the pieces that come off the board start and end on it (mm), by their ids."""
        return {f"side.{side_name(p.side)}": (p.start_mm, p.end_mm) for p in self.wrap.pieces}

    @property
    def buildable(self) -> bool:
        """Whether nothing found says stop."""
        return all(f.severity != "stop" for f in self.findings)


def _levels(piece: Piece) -> list[float]:
    """How high the corners of a piece lie in the box (mm)."""
    return [piece.place.of((x, y, z))[2] for x, y in piece.show_face for z in (0.0, piece.thickness_mm)]


def plan(job: Job, kinds: tuple[Kind, ...] = KINDS) -> Plan:
    """Work out the whole plan. A pure function: the same job gives the same plan."""
    held = job.design.form.height_of
    job = with_needed_board(sized(job))
    if job.measured:
        # Put off: only a box that has been measured wants it.
        from peristyle.planning.fit.built import built_ring, followed

        job = followed(job)
        ring = built_ring(job, plan_ring(job))
    else:
        ring = plan_ring(job)
    wrap = plan_wrap(job, ring)
    section = plan_section(job, ring)
    contents = plan_contents(job.design, ring, section)
    liner = plan_liner(job, ring, section)
    dividers = plan_dividers(job, ring, section, liner.ring if liner and liner.ring.stands else None)
    settled = _with_corners(Settled(job, ring, wrap, section, KeysPlan(), contents, liner, dividers), kinds)
    parts = (ring, wrap, section, settled.splines, settled.corner_blocks, contents, dividers,
             *((liner,) if liner else ()))  # fmt: skip
    found = [finding for part in parts for finding in part.findings] + list(machine_findings(job, ring))
    found += in_the_way(job.design, contents, dividers.pieces)
    found += mouth_findings(job.design, ring, section, liner, dividers, contents)
    found += mark_findings(job, ring, wrap, section)
    found += [finding for kind in kinds for finding in kind.findings(settled)]
    made = Plan(
        job, ring, wrap, section, settled.keys, contents, liner, dividers, settled.splines, settled.corner_blocks,
        settled.frames, tuple(sorted(found, key=lambda f: WEIGHT[f.severity])), kinds, held,
    )  # fmt: skip
    return _with_what_is_cut(made) if any(done.values for done in job.progress) else made


def _with_what_is_cut(made: Plan) -> Plan:
    """The plan with what is cut already and no longer serves."""
    from peristyle.planning.fit.half_way import cut_findings  # only a box that is begun wants it

    found = tuple(cut_findings(made))
    if not found:
        return made
    told: Plan = replace(
        made, findings=tuple(sorted((*made.findings, *found), key=lambda f: WEIGHT[f.severity]))
    )
    told.__dict__["steps"] = made.steps  # they are the same: not reckoned twice
    return told


def _with_corners(settled: Settled, kinds: tuple[Kind, ...]) -> Settled:
    """What strengthens the corners, clear of what everything else cuts into the sides."""
    joints = settled.job.design.joints
    if joints == _NO_JOINTS:
        return settled
    others = [kind for kind in kinds if kind.name not in ("key", "spline")]
    settled = replace(settled, frames=frames_of(settled.ring))
    cuts = cut_into(settled, others) if joints.keys or joints.other_keys or joints.splines else {}
    splines = plan_splines(settled.job, settled.ring, settled.frames, cuts)
    blocks = plan_corner_blocks(settled.job, settled.ring, settled.frames, settled.section)
    settled = replace(settled, splines=splines, corner_blocks=blocks)
    for kind in kinds:
        if kind.name == "spline" and splines.splines:
            for piece, feature in kind.features(settled):
                cuts.setdefault(piece, []).append(feature)
    return replace(settled, keys=plan_keys(settled.job, settled.ring, settled.frames, settled.section, cuts))
