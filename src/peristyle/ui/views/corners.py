"""Corners: one corner unfolded flat with its keys and splines, and the settings that cut them."""

from PySide6.QtCore import QPointF, Qt
from PySide6.QtGui import QKeyEvent, QMouseEvent
from PySide6.QtWidgets import QLabel

from peristyle.drawing.corner import corner_drawing
from peristyle.drawing.shapes import Drawing, Pick
from peristyle.model import corner_edits
from peristyle.model.corner_fields import KEY_FIELDS
from peristyle.model.design import Keys, leans, replace
from peristyle.model.job import Job, decide, decided
from peristyle.planning.corners.frame import frames_of
from peristyle.planning.corners.keys import KeyPlan
from peristyle.ui import words
from peristyle.ui.painting import picked
from peristyle.ui.pictures import key_picture
from peristyle.ui.session import Session
from peristyle.ui.theme import Theme
from peristyle.ui.widgets.choices import Choices
from peristyle.ui.widgets.fresh import FreshView
from peristyle.ui.widgets.sheet import Sheet
from peristyle.ui.widgets.stacked import stacked
from peristyle.ui.wood import WoodStore
from peristyle.words.corners import hand_or_jig, settings_told, stock_told

_NONE = "No keys: held by glue and the panel alone, which suits small boxes."


class View(FreshView):
    """One corner at a time: the one picked last."""

    def __init__(self, session: Session, wood: WoodStore) -> None:
        super().__init__(session)
        self._corner = 0
        session.selected.connect(self._follow)
        self.sheet = CornerSheet(self, session, wood)
        self._settings = QLabel()
        self._settings.setContentsMargins(14, 8, 14, 8)
        self._settings.setWordWrap(True)
        layout = stacked(self)
        layout.addWidget(self._bar(session))
        layout.addWidget(self.sheet, 1)
        layout.addWidget(self._settings)
        self._follow()
        self._keep_fresh()

    @property
    def corner(self) -> int:
        """Which corner is shown."""
        return min(self._corner, self._session.job.design.side_count - 1)

    @property
    def key(self) -> int | None:
        """The number of the picked key at the corner shown."""
        chosen = self._session.selection
        return chosen.index + 1 if chosen is not None and chosen.kind == "key" else None

    def drawing(self) -> Drawing:
        """The corner as it is."""
        return corner_drawing(self._session.plan, self.corner, self.key, self._session.format)

    def dress(self, theme: Theme) -> None:
        """Take on a theme's colours."""
        self.sheet.dress(theme)

    @property
    def part(self) -> str:
        """Which kind of keys the choices speak of: that of the corner shown."""
        return "other_keys" if corner_edits.kinds_at(self._session.job, self.corner) == "other" else "keys"

    def _keys(self) -> Keys | None:
        found: Keys | None = decided(self._session.job, self.part)
        return found

    def _bar(self, session: Session) -> Choices:
        bar = Choices(session)
        bar.choice(
            "Corner",
            lambda: [(str(i), name) for i, name in enumerate(words.corners_list(session.plan))],
            lambda: str(self.corner),
            lambda i: session.select(Pick("corner", int(i))),
            "Which corner is shown",
        )
        bar.choice(
            "Keys",
            lambda: (
                ("none", "none"), ("straight", "straight"), ("veneer", "veneer"), ("dovetail", "dovetail"),
            ),
            lambda: keys.kind if (keys := self._keys()) else "none",
            lambda kind: bar.edit("Change the keys", lambda d: corner_edits.with_key_kind(d, self.part, kind)),
            "Straight keys, of veneer in a thin saw cut, or dovetails; across every corner that has this kind",
            picture=key_picture,
        )  # fmt: skip
        bar.choice(
            "",
            lambda: (("keys", "these"), ("other", "others"), ("both", "both"), ("none", "none")),
            lambda: corner_edits.kinds_at(session.job, self.corner),
            lambda which: bar.edit(
                "Change the keys of a corner", lambda d: corner_edits.with_kinds_at(d, self.corner, which)
            ),
            "What this corner has: these keys, another kind, both, or none",
            name="Keys at this corner",
        )
        bar.only_when(lambda: self._keys() is not None or session.job.design.joints.other_keys is not None)
        self._placing(session, bar)
        bar.choice(
            "Splines",
            lambda: (("0", "none"), ("1", "one"), ("2", "two")),
            lambda: str(splines.count) if (splines := session.job.design.joints.splines) else "0",
            lambda count: bar.edit(
                "Change the splines", lambda d: corner_edits.with_spline_count(d, int(count))
            ),
            "Loose splines inside the miters, along the corners",
        )
        bar.tick(
            "Blocks",
            lambda: session.job.design.joints.corner_blocks is not None,
            lambda on: bar.edit(
                "Add corner blocks" if on else "Leave out the corner blocks",
                lambda d: corner_edits.with_corner_blocks(d, on),
            ),
            "Blocks of triangular section fitted into the corners from inside",
        )
        self._bar_shown = bar
        return bar

    def _placing(self, session: Session, bar: Choices) -> None:
        """How many keys, where, how they are given and how they lie."""

        def change(label: str, **values: object) -> None:
            bar.edit(label, lambda d: _with(d, self.part, **values))

        bar.count(
            "",
            1,
            40,
            lambda: int(KEY_FIELDS[self.part].number.get(session.job)),
            lambda n: bar.edit("Change the number of keys", lambda d: KEY_FIELDS[self.part].number.set(d, n)),
            "At each corner; double-click the arris to add one there, Delete takes the picked one away",
            name="Keys a corner",
        )
        bar.only_when(self._counted)
        bar.choice(
            "",
            lambda: (
                ("few", "paired"), ("even", "evenly"), ("spaced", "spaced"),
                *((("typed", "as typed"),) if (keys := self._keys()) and keys.positions_mm else ()),
            ),
            lambda: "typed" if (keys := self._keys()) and keys.positions_mm else keys.placed if keys else "few",
            lambda how: change("Place the keys", placed=how, positions_mm=()) if how != "typed" else None,
            "In mirrored pairs, two for each fence setting; evenly, whatever settings it takes; or one every so often",
            name="Where keys are put",
        )  # fmt: skip
        bar.only_when(lambda: self._keys() is not None)
        bar.choice(
            "",
            lambda: (("depth", "depth"), ("leg", "leg")),
            lambda: "leg" if (keys := self._keys()) and keys.leg_mm is not None else "depth",
            lambda how: bar.edit("Change how the slot is given", lambda d: self._given(d, how)),
            "Slots given by their depth along the corner's bisector, or by their length down each face",
            name="Slot given by",
        )
        bar.only_when(lambda: self._keys() is not None)
        bar.choice(
            "",
            lambda: (("square", "square"), ("level", "level")),
            lambda: keys.lie if (keys := self._keys()) else "square",
            lambda how: change("Change how the keys lie", lie=how),
            "On a leaning corner: square to its arris, or level with the cradle tipped",
            name="How keys lie",
        )
        bar.only_when(lambda: self._keys() is not None and leans(session.job.design))

    def _counted(self) -> bool:
        """Whether the number of keys is asked for: not where their spacing tells it."""
        keys = self._keys()
        return keys is not None and (keys.placed != "spaced" or bool(keys.positions_mm))

    def _given(self, job: Job, how: str) -> Job:
        """The same slot, given by its depth or by its leg."""
        made = [key for key in self._session.plan.keys.keys if key.set == self.part]
        if not made:
            return job
        first: KeyPlan = made[0]
        if how == "leg":
            return _with(job, self.part, leg_mm=first.leg_mm)
        return _with(job, self.part, leg_mm=None, depth_mm=first.depth_mm)

    def _follow(self) -> None:
        chosen = self._session.selection
        if chosen is not None and chosen.kind in ("corner", "side"):
            self._corner = chosen.index
        self._bar_shown.refresh()

    def tell(self) -> None:
        """The settings for all keys, and what they are cut from."""
        plan, fmt = self._session.plan, self._session.format
        lines = []
        if plan.keys.settings:
            lines.append("Settings:  " + ";   ".join(settings_told(plan, fmt)))
            stock = [text for one in plan.keys.sets if (text := stock_told(plan, one, fmt))]
            lines.append(f"Keys:  {'; '.join(stock)}.   Time:  {hand_or_jig(plan, fmt)}")
        elif not plan.splines.splines and not plan.corner_blocks.blocks:
            lines.append(_NONE)
        self._settings.setText("\n".join(lines))
        self._settings.setVisible(bool(lines))

    def add_key(self, height_mm: float) -> bool:
        """A key more at a height; those that are there stay where they are."""
        part, plan = self.part, self._session.plan
        one = plan.keys.set_of("other_keys" if part == "other_keys" else "keys")
        if one is None:
            return False
        number = len(one.heights_mm)
        return self._session.change(
            "Add a key", lambda d: corner_edits.key_moved(d, part, one.heights_mm, number, height_mm)
        )

    def take_key(self) -> bool:
        """Take away the picked key, at every corner that has its kind."""
        plan = self._session.plan
        key = next((one for one in plan.keys.at(self.corner) if one.number == self.key), None)
        one = plan.keys.set_of(key.set) if key else None
        if key is None or one is None:
            return False
        number = one.heights_mm.index(key.height_mm)
        return self._session.change(
            "Take away a key", lambda d: corner_edits.key_moved(d, one.name, one.heights_mm, number, None)
        )


class CornerSheet(Sheet):
    """The drawing of the corner: a double click on the arris adds a key there, Delete takes the picked one away."""

    def __init__(self, view: View, session: Session, wood: WoodStore) -> None:
        super().__init__(session, wood, view.drawing, "Corner, unfolded", margin_px=22)
        self._view = view

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Delete takes the picked key away, Insert adds one in the middle."""
        if event.key() == Qt.Key.Key_Delete and self._view.take_key():
            return
        if event.key() == Qt.Key.Key_Insert:
            height = self._session.plan.job.design.form.height_mm
            if self._view.add_key(height / 2):
                return
        super().keyPressEvent(event)

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        """A key more, where it was clicked."""
        at: QPointF = event.position()
        found = picked(self._drawing, self._fit, at)
        plan = self._session.plan
        free = found is None or found.kind == "side"
        if event.button() == Qt.MouseButton.LeftButton and plan.ring.corners and free:
            frame, tall = frames_of(plan.ring)[self._view.corner], plan.job.design.form.height_mm
            x, y = self._fit.mm(at)
            height = round(y * frame.edge[2], 1)
            if abs(x) < tall * 0.4 and 0 < height < tall:
                self._view.add_key(height)
                return
        super().mouseDoubleClickEvent(event)


def _with(job: Job, part: str, **values: object) -> Job:
    """One kind of keys with some values made otherwise; nothing where there is none."""
    keys: Keys | None = decided(job, part)
    return job if keys is None else decide(job, part, replace(keys, **values))
