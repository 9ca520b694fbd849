"""Corners: one corner unfolded flat with its keys, and the fence settings that cut the slots."""

from PySide6.QtWidgets import QLabel, QVBoxLayout, QWidget

from peristyle.drawing.corner import corner_drawing
from peristyle.drawing.shapes import Pick
from peristyle.model import edits, fields
from peristyle.model.design import Keys, replace
from peristyle.model.job import Job, revised
from peristyle.ui import words
from peristyle.ui.session import Session
from peristyle.ui.theme import Theme
from peristyle.ui.widgets.choices import Choices
from peristyle.ui.widgets.sheet import Sheet
from peristyle.ui.wood import WoodStore


class View(QWidget):
    """One corner at a time: the one picked last."""

    def __init__(self, session: Session, wood: WoodStore) -> None:
        super().__init__()
        self._session = session
        self._corner = 0
        session.selected.connect(self._follow)
        self.sheet = Sheet(
            session,
            wood,
            lambda: corner_drawing(session.plan, self.corner, session.format),
            "Corner, unfolded",
            margin_px=22,
        )
        self._settings = QLabel()
        self._settings.setContentsMargins(14, 8, 14, 8)
        self._settings.setWordWrap(True)
        session.changed.connect(self._say)
        layout = QVBoxLayout(self)
        layout.setContentsMargins(0, 0, 0, 0)
        layout.setSpacing(0)
        layout.addWidget(self._bar(session))
        layout.addWidget(self.sheet, 1)
        layout.addWidget(self._settings)
        self._say()
        self._follow()

    @property
    def corner(self) -> int:
        """Which corner is shown."""
        return min(self._corner, self._session.job.design.side_count - 1)

    def dress(self, theme: Theme) -> None:
        """Take on a theme's colours."""
        self.sheet.dress(theme)

    def _bar(self, session: Session) -> Choices:
        bar = Choices(session)
        bar.choice(
            "Corner",
            lambda: [(str(i), name) for i, name in enumerate(words.corners_list(session.plan))],
            lambda: str(self.corner),
            lambda i: session.select(Pick("corner", int(i))),
            "Which corner is shown; all are keyed alike",
        )
        bar.tick(
            "Straight keys",
            lambda: session.job.design.joints.keys is not None,
            lambda on: bar.edit("Add keys" if on else "Leave out the keys", lambda d: edits.with_keys(d, on)),
            "Slots across the corner, filled with contrasting wood",
        )
        bar.count(
            "Keys a corner",
            1,
            12,
            lambda: _count(session.job),
            lambda n: bar.edit("Change the number of keys", lambda d: fields.KEY_COUNT.set(d, n)),
            "Spread in mirrored pairs, so that one fence setting cuts two",
        )
        bar.choice(
            "Slot given by",
            lambda: (("depth", "depth"), ("leg", "leg down the face")),
            lambda: (
                "leg"
                if session.job.design.joints.keys and session.job.design.joints.keys.leg_mm is not None
                else "depth"
            ),
            lambda how: bar.edit("Change how the slot is given", lambda d: _given(d, how, session)),
            "Depth along the corner's bisector, or its length down each face",
        )
        bar.button(
            "Spread evenly",
            lambda: bar.edit("Spread the keys", lambda d: fields.KEY_COUNT.set(d, max(1, _count(d)))),
            "Forget where keys were put by hand",
        )
        self._bar_shown = bar
        return bar

    def _follow(self) -> None:
        chosen = self._session.selection
        if (chosen is not None and chosen.kind == "corner") or (chosen is not None and chosen.kind == "side"):
            self._corner = chosen.index
        self._bar_shown.refresh()

    def _say(self) -> None:
        plan, fmt = self._session.plan, self._session.format
        if not plan.keys.settings:
            self._settings.setText("No keys: held by glue and the panel alone, which suits small boxes.")
            return
        parts = []
        for setting in plan.keys.settings:
            fences = " · ".join(fmt.length(setting.fence_mm + p) for p in setting.passes_mm)
            turned = ", box turned over for the other half" if len(setting.heights_mm) > 1 else ""
            parts.append(f"fence {fences} {fmt.units}: {setting.slots} slots{turned}")
        self._settings.setText("Settings:  " + ";   ".join(parts))


def _count(job: Job) -> int:
    return int(fields.KEY_COUNT.get(job))


def _given(job: Job, how: str, session: Session) -> Job:
    """The same slot, given by its depth or by its leg."""
    keys = job.design.joints.keys or Keys()
    made = session.plan.keys.keys
    if not made:
        return job
    if how == "leg":
        return revised(job, keys=replace(keys, leg_mm=made[0].leg_mm))
    return revised(job, keys=replace(keys, leg_mm=None, depth_mm=made[0].depth_mm))
