"""Whether what is said to be wrong is mended by what is offered."""

from peristyle.model.addresses import applied
from peristyle.model.job import Job
from peristyle.planning.mending import mended
from peristyle.planning.plan import plan


def left_after_mending(job: Job, code: str) -> int:
    """How many findings of a code are left once the first fix that is offered for one is carried out.

    Fails where nothing of the kind is said, or nothing is offered.
    """
    found = next(finding for finding in mended(plan(job)) if finding.code == code)
    assert found.fixes, f"nothing is offered for {code}"
    after = plan(applied(job, found.fixes[0].changes))
    return sum(finding.code == code for finding in after.findings)
