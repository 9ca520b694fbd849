"""The plan: everything that follows from one design, worked out in order."""

from functools import cached_property

from msgspec import Struct

from peristyle.model.job import Job
from peristyle.planning.contents import ContentsPlan, in_the_way, plan_contents, sized
from peristyle.planning.divider_plan import DividersPlan, plan_dividers
from peristyle.planning.findings import Finding
from peristyle.planning.keys import KeysPlan, plan_keys
from peristyle.planning.liner import LinerPlan, plan_liner
from peristyle.planning.machine import machine_findings
from peristyle.planning.making.piece import Piece
from peristyle.planning.making.step import Step
from peristyle.planning.opening import opening_findings
from peristyle.planning.ring import RingPlan, plan_ring
from peristyle.planning.section import SectionPlan, plan_section
from peristyle.planning.wrap import WrapPlan, plan_wrap

_WEIGHT = {"stop": 0, "caution": 1, "note": 2}


class Plan(Struct, frozen=True, dict=True):
    """A design and what follows from it. Findings come gravest first.

    `design` is the design as planned: with contents, its ring is sized from them.
    """

    job: Job
    ring: RingPlan
    wrap: WrapPlan
    section: SectionPlan
    keys: KeysPlan
    contents: ContentsPlan
    liner: LinerPlan | None
    dividers: DividersPlan
    findings: tuple[Finding, ...]

    @cached_property
    def pieces(self) -> tuple[Piece, ...]:
        """Everything that is cut, with its features, in its place; worked out when first asked for."""
        from peristyle.planning.making.pieces import plan_pieces  # as above

        liner = (self.liner.ring, self.liner.base_mm) if self.liner else None
        return plan_pieces(self.job.design, self.ring, self.section, self.keys, liner, self.dividers)

    @cached_property
    def steps(self) -> tuple[Step, ...]:
        """What is done, in its order; worked out when first asked for, so that a drag need not wait for it."""
        from peristyle.planning.making.steps import (
            plan_steps,  # the window's first paint need not wait for it either
        )

        return plan_steps(self.job, self.ring, self.section, self.wrap, self.keys, self.liner, self.dividers)

    @property
    def buildable(self) -> bool:
        """Whether nothing found says stop."""
        return all(f.severity != "stop" for f in self.findings)


def plan(job: Job) -> Plan:
    """Work out the whole plan. A pure function: the same design gives the same plan."""
    job = sized(job)
    ring = plan_ring(job)
    wrap = plan_wrap(job, ring)
    section = plan_section(job, ring)
    keys = plan_keys(job, ring, section)
    contents = plan_contents(job.design, ring, section)
    liner = plan_liner(job, ring, section)
    dividers = plan_dividers(job, ring, section, liner.ring if liner and liner.ring.stands else None)
    parts = (ring, wrap, section, keys, contents, dividers, *((liner,) if liner else ()))
    found = [finding for part in parts for finding in part.findings] + list(machine_findings(job, ring))
    found += in_the_way(job.design, contents, dividers.pieces)
    found += opening_findings(job.design, ring, section, liner, dividers, contents)
    return Plan(
        job=job,
        ring=ring,
        wrap=wrap,
        section=section,
        keys=keys,
        contents=contents,
        liner=liner,
        dividers=dividers,
        findings=tuple(sorted(found, key=lambda f: _WEIGHT[f.severity])),
    )
