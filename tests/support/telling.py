"""What findings say and fixes do, in mm."""

from peristyle.core.lengths import Format
from peristyle.model.addresses import applied
from peristyle.model.job import Job
from peristyle.planning.findings import Finding, Fix
from peristyle.planning.making.step import Step
from peristyle.words import steps as words
from peristyle.words.findings import offered, said


def told(finding: Finding) -> str:
    return said(finding, Format("mm"))


def button(fix: Fix) -> str:
    return offered(fix, Format("mm"))


def with_fix(job: Job, fix: Fix) -> Job:
    return applied(job, fix.changes)


def titled(step: Step) -> str:
    return words.title(step, Format("mm"))


def set_so(step: Step) -> str:
    return words.setting(step, Format("mm"))


def done_so(step: Step) -> str:
    return words.how(step, Format("mm"))
