"""Fixes that mend: each is tried on the plan before it is shown.

A layer over the plan: the tried plan's own fixes are not asked for. Not for the middle of a drag, where
a frame has no time for it.
"""

from collections.abc import Callable

from msgspec.structs import replace

from peristyle.core.errors import PeristyleError
from peristyle.model.addresses import applied
from peristyle.model.faults import breaches
from peristyle.model.job import Job
from peristyle.planning.findings import WEIGHT, Finding, Fix
from peristyle.planning.plan import Plan, plan
from peristyle.planning.stock.broken import breaking


def mends(found: Plan, finding: Finding, fix: Fix) -> bool:
    """Whether a fix takes its finding away or makes it less grave, can be saved, and puts no new stop in its place.

    Where no ring stands, little else could be looked at: what is found once it does is not new.
    """
    try:
        changed = applied(found.job, fix.changes)
        if changed == found.job or breaches(changed):
            return False
        after = plan(changed)
    except (PeristyleError, ArithmeticError, ValueError):
        return False
    if not (_fewer(found, after, finding, _as_grave) or _fewer(found, after, finding, _another_way)):
        return False
    stops = {f.code for f in found.findings if f.severity == "stop"}
    looked_at = found.ring.stands or not after.ring.stands
    return not looked_at or all(f.code in stops for f in after.findings if f.severity == "stop")


def _fewer(found: Plan, after: Plan, finding: Finding, like: Callable[[Finding, Finding], bool]) -> bool:
    """Whether there are fewer findings like this one after than there were."""
    before, left = (sum(like(finding, other) for other in one.findings) for one in (found, after))
    return left < before


def _as_grave(finding: Finding, other: Finding) -> bool:
    return other.code == finding.code and WEIGHT[other.severity] <= WEIGHT[finding.severity]


def _another_way(finding: Finding, other: Finding) -> bool:
    """A note may tell of a choice: taken, the note stays and says something else."""
    alike = (other.code, other.kind, other.more) == (finding.code, finding.kind, finding.more)
    return alike and finding.severity == other.severity == "note"


def settled(job: Job, fix: Fix) -> Fix:
    """A fix with its changes; those of one that takes a search are worked out here."""
    return (breaking(job) or fix) if fix.key == "break_wrap" and not fix.changes else fix


def mended(found: Plan) -> tuple[Finding, ...]:
    """The plan's findings with only those fixes that mend."""
    made = []
    for finding in found.findings:
        fixes = [settled(found.job, fix) for fix in finding.fixes]
        made.append(replace(finding, fixes=tuple(fix for fix in fixes if mends(found, finding, fix))))
    return tuple(made)
