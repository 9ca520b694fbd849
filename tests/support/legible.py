"""What in a window cannot be read: sizes outside their drawing, over each other, over a letter or a name."""

import random

from PySide6.QtCore import QRect
from PySide6.QtWidgets import QApplication

from peristyle.drawing.shapes import Label, Pick
from peristyle.model.job import Job
from peristyle.ui.painting import label_box
from peristyle.ui.placing import Box
from peristyle.ui.widgets.sheet import Sheet
from peristyle.ui.widgets.tag import SizeTag
from peristyle.ui.window import Window

# Inside its frame: 1366 × 768, 1024 × 700, and 1920 × 1080 at twice the scale.
SIZES = ((1358, 732), (1024, 700), (952, 504), (1280, 800))
STAGES = ("size", "section", "board", "corners")


def crowded(window: Window, job: Job, chance: random.Random) -> list[str]:
    """Every size that cannot be read, in every stage, in a window of some size with something picked or not."""
    window.session.start(job)
    size = chance.choice(SIZES)
    window.resize(*size)
    if chance.random() < 0.5:
        window.session.select(
            Pick(chance.choice(("side", "corner")), chance.randrange(job.design.side_count))
        )
    found = []
    for stage in STAGES:
        window.open_stage(stage)
        QApplication.processEvents()
        for sheet in window.view(stage).findChildren(Sheet):
            found += [f"{size}, {stage}: {words}" for words in _unread(sheet)]
    return found


def _unread(sheet: Sheet) -> list[str]:
    tags = [tag for tag in sheet.findChildren(SizeTag) if tag.isVisible()]
    labels = [shape for shape in sheet.drawing.shapes if isinstance(shape, Label)]
    boxes = [(label, label_box(label, sheet._fit, sheet.font())) for label in labels]
    found = []
    for number, tag in enumerate(tags):
        at = tag.geometry()
        if not QRect(sheet.rect()).contains(at):
            found.append(f"{tag.field.id} lies outside")
        found += [f"{tag.field.id} over {o.field.id}" for o in tags[:number] if at.intersects(o.geometry())]
        mine = Box(at.x(), at.y(), at.width(), at.height())
        # The boxes of words have air round them.
        found += [
            f"{tag.field.id} over “{label.text}”"
            for label, box in boxes
            if mine.hits(Box(box.x + 2.5, box.y + 1, box.wide - 5, box.high - 2))
        ]
    return found
