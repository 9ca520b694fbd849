"""Fixes that mend: each is tried on the plan before it is shown.

A layer over the plan: the tried plan's own fixes are not asked for. Not for the middle of a drag, where
a frame has no time for it.
"""

from collections import Counter

from msgspec.structs import replace

from peristyle.core.errors import PeristyleError
from peristyle.model.addresses import applied
from peristyle.model.faults import breaches
from peristyle.model.job import Job
from peristyle.planning.findings import Finding, Fix
from peristyle.planning.plan import Plan, plan
from peristyle.planning.stock.broken import breaking


def mends(found: Plan, finding: Finding, fix: Fix) -> bool:
    """Whether a fix takes its finding away, can be saved, and puts no new stop in its place."""
    try:
        changed = applied(found.job, fix.changes)
        if changed == found.job or breaches(changed):
            return False
        after = plan(changed)
    except (PeristyleError, ArithmeticError, ValueError):
        return False
    code = finding.code
    left = Counter(f.code for f in after.findings)
    if left[code] >= Counter(f.code for f in found.findings)[code]:
        return False
    stops = {f.code for f in found.findings if f.severity == "stop"}
    return all(f.code in stops for f in after.findings if f.severity == "stop")


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
