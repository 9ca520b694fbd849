"""A design from what is known of the box."""

import os
import sys

from peristyle.commands.console import STDOUT, Parser, put
from peristyle.core.errors import PeristyleError


def run(words: list[str]) -> int:
    # The model and the planner: not needed for the quick answers above.
    from peristyle.commands.described import from_description
    from peristyle.commands.likeness import like_from_words
    from peristyle.commands.new_options import new_from_words
    from peristyle.model.faults import breaches, listed
    from peristyle.planning.plan import plan
    from peristyle.storage import files
    from peristyle.storage.codec import encode

    words = from_description(words)
    if any(word == "--like" or word.startswith("--like=") for word in words):
        path, job = like_from_words(words)
    else:
        path, job = new_from_words(words, Parser(prog="peristyle new", description="Make a design file."))
    if str(path) in STDOUT:
        wrong = breaches(job)
        if wrong:
            raise PeristyleError(f"This design cannot be written: {listed(wrong)}.")
        put(str(path), encode(job))
        return 0
    if os.path.lexists(path):
        kept = path.with_name(path.name + "~")
        files.write_atomically(kept, files.read(path))
        print(f"peristyle: the old “{path.name}” is kept as “{kept.name}”", file=sys.stderr)
    files.save(path, job)
    findings = plan(job).findings
    count = f", {len(findings)} finding{'s' if len(findings) > 1 else ''}" if findings else ""
    print(f"{path}: {job.design.side_count} sides{count}")
    return 0
