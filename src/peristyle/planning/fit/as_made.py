"""The sides as they came out: as measured where they were, as planned where they were not."""

from peristyle.core.planes import EndCut
from peristyle.model.design import replace
from peristyle.model.job import Job
from peristyle.planning.fit.ring import Made, planned
from peristyle.planning.plan import Plan


def sides_made(job: Job, base: Plan) -> list[Made]:
    """Every side with what was measured of it: length, thickness, bevels and swings; `base` is the plan as meant."""
    values = {one.name: one.value for one in job.measured}
    made = []
    for side in base.ring.sides:
        head, whole = f"side.{side.name}", planned(side)
        ends = [
            EndCut(
                values.get(f"{head}.{end}.miter_deg", cut.miter_deg),
                values.get(f"{head}.{end}.bevel_deg", cut.bevel_deg),
            )
            for end, cut in (("start", whole.start), ("end", whole.end))
        ]
        made.append(
            Made(
                values.get(f"{head}.length_mm", whole.length_mm),
                values.get(f"{head}.thickness_mm", whole.thickness_mm),
                *ends,
            )
        )
    return made


def with_measured(base: Plan, job: Job) -> Plan:
    """The box as it was meant, with what was measured of it: what is seen is held against what was wanted."""
    made: Plan = replace(base, job=replace(base.job, measured=job.measured))
    return made
