"""Whether what is said to be wrong is mended by what is offered."""

from peristyle.model.addresses import applied
from peristyle.model.job import Job
from peristyle.planning.findings import WEIGHT, Finding, Fix
from peristyle.planning.mending import mended
from peristyle.planning.plan import Plan, plan
from support.telling import with_fix


def left_after_mending(job: Job, code: str) -> int:
    """How many findings of a code are left once the first fix that is offered for one is carried out.

    Fails where nothing of the kind is said, or nothing is offered.
    """
    found = next(finding for finding in mended(plan(job)) if finding.code == code)
    assert found.fixes, f"nothing is offered for {code}"
    after = plan(applied(job, found.fixes[0].changes))
    return sum(finding.code == code for finding in after.findings)


def not_mended(found: Plan, finding: Finding, fix: Fix) -> str:
    """Why a fix that is offered does not mend; nothing where it does.

    What it is about is gone or less grave, or, of a choice that a note tells of, taken; and there is no stop where
    there was none, but where there was no ring to look at.
    """
    after = plan(with_fix(found.job, fix))
    before, left = (
        [WEIGHT[f.severity] for f in one.findings if f.code == finding.code] for one in (found, after)
    )
    ways = {way for f in after.findings if f.code == "groove_leans" for way in f.more}
    taken = finding.severity == "note" and fix.key.removeprefix("groove_") in ways
    if not (len(left) < len(before) or sum(left) > sum(before) or taken):
        return f"{finding.code} is still there after {fix.key}"
    stops, now = ({f.code for f in one.findings if f.severity == "stop"} for one in (found, after))
    new = now - stops if found.ring.stands else set()
    return f"{fix.key} brings {', '.join(sorted(new))}" if new else ""
