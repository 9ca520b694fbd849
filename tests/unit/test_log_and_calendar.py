"""The log is only added to; the calendar against every order, other readers, and clocks that change."""

import csv
import datetime as dt
import io
import itertools
import json
import random
import signal
import subprocess
import sys
import time
import zoneinfo
from pathlib import Path

import pytest
import vobject

from peristyle.cli import main
from peristyle.core.errors import PeristyleError
from peristyle.core.lengths import Format
from peristyle.export.ical import icalendar
from peristyle.export.record import record
from peristyle.export.settings import by_setting
from peristyle.model.again import again
from peristyle.model.design import Panel, Rectangle, Regular, replace
from peristyle.model.history import History
from peristyle.model.job import Coating, Entry, Hours, Job, revised
from peristyle.model.progress import with_done
from peristyle.model.working_addresses import read_boxes
from peristyle.planning.making.asdone import total_of
from peristyle.planning.plan import plan
from peristyle.planning.setups import kept, made
from peristyle.planning.sled import MAKING, cut_on_it
from peristyle.planning.time.minutes import Minutes, corrected, minutes_of, own_minutes
from peristyle.planning.time.schedule import (
    Calendar,
    booked,
    in_turn,
    latest_start,
    open_hours,
    schedule,
    sooner,
)
from peristyle.planning.time.tasks import Task, later, part_names, tasks_of, told_apart
from peristyle.storage import examples, files
from peristyle.words import log as words
from peristyle.words.steps import first_of_all, setting
from support import fits

BOX = fits.box(Rectangle(200.0, 120.0), bottom=Panel())
PARIS = Hours(zone="Europe/Paris")
BEGIN = dt.datetime(2026, 12, 5, 8, 0, tzinfo=dt.UTC)


def logged(job: Job, *entries: Entry) -> Job:
    return replace(job, log=(*job.log, *entries))


@pytest.mark.parametrize("seed", range(20))
def test_no_edit_and_no_undo_ever_shortens_the_log(seed: int) -> None:
    """Edits, entries, undo and redo in an order of chance: what was logged stays, in its order, unchanged."""
    chance, history, known = random.Random(seed), History(BOX), list[Entry]()
    for number in range(60):
        match chance.randrange(5):
            case 0:
                new = Entry(f"2026-11-{chance.randint(10, 28)}T10:00", "", f"note {number}")
                history.push("Log", logged(history.job, new))
                known.append(new)
            case 1:
                history.push("Edit", revised(history.job, height_mm=50.0 + number))
            case 2:  # an edit made from a box of long ago, its log and all
                history.push("Old", revised(BOX, height_mm=90.0 + number))
            case 3:
                history.undo()
            case _:
                history.redo()
        assert list(history.job.log) == known
    forged = replace(history.job, log=(Entry("2026-11-28T10:00", "", "forged"),) * (len(known) + 3))
    history.push("Forged", forged)
    assert list(history.job.log) == known


def test_own_minutes_take_the_place_of_guesses_after_three_entries() -> None:
    steps = plan(BOX).steps
    glue = next(step for step in steps if step.operation == "glue")
    guessed = minutes_of(glue, own_minutes([BOX]))
    assert guessed.guessed
    assert "a guess" in words.took(guessed)
    entries = [Entry(f"2026-11-1{n}T10:00", glue.id, "", "done", float(n)) for n in (20, 30, 40)]
    job = logged(BOX, *entries, Entry("2026-11-20T10:00", "", "was longer", "correction", 50.0, corrects=1))
    known = minutes_of(glue, own_minutes([job]))
    assert (known.middle, known.least, known.most, known.guessed) == (40.0, 20.0, 50.0, False)
    assert [entry.minutes for entry in corrected(job.log)] == [20.0, 50.0, 40.0]
    assert "40 min" in words.took(known)


def task(name: str, minutes: float, wait_h: float = 0.0, after: tuple[str, ...] = (), **more: object) -> Task:
    job = name.split("/", maxsplit=1)[0]
    return Task(name, job, name, Minutes(minutes, minutes, minutes), wait_h, after=after, **more)  # type: ignore[arg-type]


def random_tasks(seed: int) -> list[Task]:
    chance, found = random.Random(seed), []
    for job in "ab":
        last: tuple[str, ...] = ()
        for number in range(3):
            glued = chance.random() < 0.4
            one = task(
                f"{job}/{number}", chance.uniform(20, 200), chance.choice([0.0, 0.0, 5.0, 14.0]), last,
                clamped_h=6.0 if glued else 0.0, clamps=3 if glued else 0, whole=glued,
            )  # fmt: skip
            found.append(one)
            last = (one.id,)
    return found


def sound(calendar: Calendar, tasks: list[Task], hours: Hours, clamps: int) -> None:
    """Every task whole, in its hours, after what it needs; hands on one thing at a time; clamps enough."""
    spans = list(itertools.islice(open_hours(hours, BEGIN), 60))
    sittings = sorted(one for booked_one in calendar.booked for one in booked_one.sittings)
    assert all(a[1] <= b[0] for a, b in itertools.pairwise(sittings))
    ready = {one.task.id: one.ready for one in calendar.booked}
    assert set(ready) == {one.id for one in tasks}
    for one in calendar.booked:
        took = sum((b - a for a, b in one.sittings), dt.timedelta())
        assert took == pytest.approx(
            dt.timedelta(minutes=one.task.minutes.middle), abs=dt.timedelta(seconds=1)
        )
        assert all(one.starts >= ready[name] for name in one.task.after)
        assert all(any(a <= low and high <= b for a, b in spans) for low, high in one.sittings)
    for one in calendar.booked:
        held = [
            other for other in calendar.booked
            if other.task.clamps and other.ends <= one.ends < other.ends + dt.timedelta(hours=other.task.clamped_h)
        ]  # fmt: skip
        assert sum(o.task.clamps for o in held) <= max(clamps, max((o.task.clamps for o in held), default=0))


@pytest.mark.parametrize("seed", range(6))
def test_small_calendars_are_the_best_of_every_order(seed: int) -> None:
    tasks = random_tasks(seed)
    found = schedule(tasks, PARIS, BEGIN, 4)
    assert found is not None
    sound(found, tasks, PARIS, 4)
    best = min(
        made.ends
        for order in itertools.permutations(tasks)
        if (made := booked(order, PARIS, BEGIN, 4)) is not None and made.ends is not None
    )
    assert found.ends == best


def test_the_clocks_change_and_waits_do_not() -> None:
    """Hours by the workshop's clock on both sides of the last Sunday of March; twelve hours of drying are twelve."""
    hours = Hours(days=((18.0, 21.0),) * 7, zone="Europe/Paris")
    begin = dt.datetime(2027, 3, 27, 12, 0, tzinfo=dt.UTC)
    spans = list(itertools.islice(open_hours(hours, begin), 2))
    zone = zoneinfo.ZoneInfo("Europe/Paris")
    assert [low.astimezone(zone).hour for low, _high in spans] == [18, 18]
    assert spans[1][0] - spans[0][0] == dt.timedelta(hours=23)
    found = booked([task("a/0", 180.0, 12.0), task("a/1", 10.0, 0.0, ("a/0",))], hours, begin)
    assert found is not None
    assert found.booked[0].ready - found.booked[0].ends == dt.timedelta(hours=12)
    night = Hours(days=((2.0, 3.5),) * 7, zone="Europe/Paris")  # the hour that is left out in March
    assert all(low < high for low, high in itertools.islice(open_hours(night, begin), 3))


def test_a_promised_day_has_a_last_day_to_begin() -> None:
    tasks = tasks_of(plan(BOX), "box")
    day = latest_start(tasks, PARIS, dt.date(2026, 12, 24), BEGIN)
    assert day is not None
    zone = zoneinfo.ZoneInfo("Europe/Paris")
    begin = dt.datetime(day.year, day.month, day.day, tzinfo=zone).astimezone(dt.UTC)
    on_time, late = (schedule(tasks, PARIS, begin + dt.timedelta(days=n)) for n in (0, 1))
    assert on_time is not None
    assert on_time.ends is not None
    assert on_time.ends.astimezone(zone).date() <= dt.date(2026, 12, 24)
    assert late is not None
    assert late.ends is not None
    assert late.ends.astimezone(zone).date() > dt.date(2026, 12, 24)
    assert latest_start(tasks, PARIS, dt.date(2026, 12, 5), BEGIN) is None


def test_what_is_done_is_left_out_and_coats_are_as_the_maker_does_them() -> None:
    job = replace(BOX, work=replace(BOX.work, coating=Coating(kind="lacquer", coats=4)))
    tasks = tasks_of(plan(job), "box")
    assert [one.coat for one in tasks if one.coat] == [1, 2, 3, 4] * 2  # inside, then outside
    first = plan(job).steps[0].id
    assert len(tasks_of(plan(with_done(job, first, 1)), "box")) == len(tasks) - 1
    assert sum(one.minutes.middle for one in tasks_of(plan(job), "box", boxes=(5,))) < 5 * sum(
        one.minutes.middle for one in tasks
    )  # set-ups count once
    hours = Hours(days=((0.0, 0.0),) * 7)
    assert schedule(tasks, hours, BEGIN) is None


def test_what_needs_no_glue_is_done_while_it_dries_and_nothing_else_is() -> None:
    """In the calendar of one box every task waits for all its step needs, and for no more."""
    job = examples.load("Ticket box")
    job = replace(job, progress=(), log=())
    made = plan(job)
    tasks = tasks_of(made, "box")
    found = booked(tasks, PARIS, BEGIN)
    assert found is not None
    sound(found, list(tasks), PARIS, 4)
    first = {one.task.step: one.starts for one in reversed(found.booked)}
    ready = {step.id: max(b.ready for b in found.booked if b.task.step == step.id) for step in made.steps}
    for step in made.steps:
        assert all(first[step.id] >= ready[one.step] for one in step.after)
    told = list(words.meanwhile(found, {}, Format("mm"), dt.UTC))
    assert any("divider.divider" in line and "Coat 1" in line for line in told)
    # The glue-up was done, says the log: what needs it waits, what does not need it does not.
    glue = next(step for step in made.steps if step.operation == "glue")
    for step in made.steps[: made.steps.index(glue) + 1]:
        job = with_done(job, step.id, total_of(step))
    job = logged(job, Entry(BEGIN.isoformat(), glue.id, "", "done", 20.0))
    later_on = booked(tasks_of(plan(job), "box"), PARIS, BEGIN)
    assert later_on is not None
    begun = {one.task.step: one.starts for one in reversed(later_on.booked)}
    assert begun["box.rough_sand"] >= BEGIN + dt.timedelta(hours=12)
    assert begun["divider.divider.1_2"] < BEGIN + dt.timedelta(hours=4)


def test_a_step_planned_for_later_takes_what_follows_with_it(
    tmp_path: Path, capsys: pytest.CaptureFixture[str]
) -> None:
    glue = dt.datetime(2026, 12, 20, 18, 30, tzinfo=zoneinfo.ZoneInfo("Europe/Paris"))
    job = replace(later(BOX, "box.glue", glue), shop=replace(BOX.shop, hours=PARIS))
    path = tmp_path / "box.peristyle"
    files.save(path, replace(BOX, shop=replace(BOX.shop, hours=PARIS)))
    words_of = ["calendar", str(path), "--start", "2026-12-05", "--move"]
    assert main([*words_of, "box.glue=2026-12-20T18:30"]) == 0
    assert files.load(path).job.work == job.work
    found = booked(tasks_of(plan(job), "box"), PARIS, BEGIN)
    assert found is not None
    starts = {one.task.name: one.starts for one in found.booked}
    assert starts["box.glue"] >= glue
    assert min(starts[name] for name in starts if name.startswith("box.finish/")) > glue + dt.timedelta(
        hours=12
    )
    assert starts["box.dry_fit"] < glue - dt.timedelta(days=7)
    assert main([*words_of, "box.glue="]) == 0
    assert files.load(path).job.work == BOX.work
    capsys.readouterr()
    assert main(["calendar", str(path), "--start", "2026-12-05", "--by", "2026-12-24", "--json"]) == 0
    told = capsys.readouterr()
    assert len(json.loads(told.out)) > 10  # nothing but data where a program reads
    assert "at the latest" in told.err
    for wrong in ("box.glow=2026-12-20", "box.glue=soon", "2026-12-20"):
        assert main([*words_of, wrong]) == 2
    assert "Traceback" not in capsys.readouterr().err
    assert told_apart(["a", "b", "a", "a"]) == ["a", "b", "a (2)", "a (3)"]


def test_a_step_half_done_is_still_to_be_done_and_the_command_line_ends_it(tmp_path: Path) -> None:
    bevel = next(step for step in plan(BOX).steps if total_of(step) > 1)
    path = tmp_path / "box.peristyle"
    files.save(path, with_done(BOX, bevel.id, 1))
    names = [one.step for one in tasks_of(plan(files.load(path).job), "box")]
    assert bevel.id in names
    assert main(["log", str(path), "--step", bevel.id, "--minutes", "31"]) == 0
    assert main(["log", str(path), "--add", "rather less", "--minutes", "25", "--correct", "1"]) == 0
    job = files.load(path).job
    assert [one.step for one in tasks_of(plan(job), "box")] == [name for name in names if name != bevel.id]
    assert [(one.about, one.kind) for one in job.log] == [(bevel.id, "done"), (bevel.id, "correction")]


def test_another_box_like_it_knows_what_was_learnt(tmp_path: Path) -> None:
    glue = next(step for step in plan(BOX).steps if step.operation == "glue")
    entries = [Entry(f"2026-11-1{n}T10:00", glue.id, "", "done", 30.0 + n) for n in range(3)]
    job = logged(
        with_done(later(BOX, glue.id, BEGIN), glue.id, 1),
        *entries,
        Entry("2026-11-19T10:00", "", "tape slips"),
    )
    path, new = tmp_path / "old.peristyle", tmp_path / "new.peristyle"
    files.save(path, kept(job, made("tilt_pair", "", (89.8,), "2026-11-29T10:00")))
    assert main(["log", str(path), "--begin", str(new)]) == 0
    begun = files.load(new).job
    assert [one.text for one in begun.log] == [f"From {job.design.name}: tape slips"]
    assert (begun.progress, begun.measured, begun.work.planned) == ((), (), ())
    assert begun.shop.setups == files.load(path).job.shop.setups
    assert minutes_of(glue, own_minutes([begun])).middle == 31.0
    assert minutes_of(glue, own_minutes([begun, begun])).entries == 3  # known once, not twice
    assert main(["log", str(path), "--begin", str(new)]) == 2  # nothing is written over


def test_the_log_is_whole_after_a_kill_at_any_moment(tmp_path: Path) -> None:
    """A program that writes entry after entry is killed: the file opens, and nothing in it is missing in between."""
    path = tmp_path / "box.peristyle"
    files.save(path, BOX)
    loop = (
        "import sys; from pathlib import Path; from peristyle.storage import files\n"
        "from peristyle.model.design import replace; from peristyle.model.job import Entry\n"
        "p = Path(sys.argv[1]); print('on', flush=True)\n"
        "while True:\n"
        "    job, stamp = files.load(p)\n"
        "    job = replace(job, log=(*job.log, Entry('2026-11-29T10:00', '', f'note {len(job.log)}')))\n"
        "    files.save(p, job, stamp); print(len(job.log), flush=True)\n"
    )
    chance, known = random.Random(17), 0
    for _ in range(4):
        with subprocess.Popen(
            [sys.executable, "-c", loop, str(path)], stdout=subprocess.PIPE, text=True
        ) as child:
            assert child.stdout is not None
            for _line in range(chance.randint(2, 30)):
                told = child.stdout.readline().strip()
            time.sleep(chance.uniform(0, 0.01))
            child.send_signal(signal.SIGKILL)
        log = files.load(path).job.log
        assert [one.text for one in log] == [f"note {number}" for number in range(len(log))]
        assert len(log) >= max(known, int(told))
        known = len(log)


def test_the_calendar_is_read_by_another_reader() -> None:
    tasks = [
        *tasks_of(plan(BOX), "Box; one, “quoted”"),
        *tasks_of(plan(fits.box(Regular(6, 90.0))), "Six " + "long " * 30),
    ]
    found = schedule(tasks, PARIS, BEGIN)
    assert found is not None
    data = icalendar(found, lambda one: one.step, dt.datetime(2026, 12, 1, tzinfo=dt.UTC))
    assert all(len(line) <= 75 for line in data.split(b"\r\n"))
    read = vobject.readOne(data.decode())
    events = [event for event in read.vevent_list if not event.uid.value.endswith("/wait@peristyle")]
    wanted = sorted((a, b) for one in found.booked for a, b in one.sittings)
    assert len({event.uid.value for event in read.vevent_list}) == len(read.vevent_list)
    got = sorted((event.dtstart.value, event.dtend.value) for event in events)
    assert [(a.replace(microsecond=0), b.replace(microsecond=0)) for a, b in wanted] == got
    assert any("“quoted”" in event.summary.value for event in events)


def test_a_check_stands_in_every_step_and_in_the_shop() -> None:
    job = kept(BOX, made("tilt_pair", "", (89.8,), "2026-11-29T10:00"))
    bevel = next(step for step in plan(job).steps if step.operation == "bevel")
    assert "on its scale tilt at 44.9°" in setting(bevel, Format("mm"))
    assert "on its scale" not in setting(
        next(s for s in plan(BOX).steps if s.operation == "bevel"), Format("mm")
    )
    job = kept(job, made("tilt_pair", "", (90.0,), "2026-11-30T10:00"))  # mended: the last check is in force
    assert "on its scale" not in setting(
        next(s for s in plan(job).steps if s.operation == "bevel"), Format("mm")
    )
    assert kept(BOX, made("kerf", "", (500.0, 8, *[59.0] * 8), "")).shop.saw.kerf_mm == pytest.approx(3.5)
    assert len(job.shop.setups) == 2


def test_log_and_calendar_from_the_command_line(tmp_path: Path, capsys: pytest.CaptureFixture[str]) -> None:
    path, other = str(tmp_path / "box.peristyle"), str(tmp_path / "other.peristyle")
    files.save(Path(path), BOX)
    files.save(Path(other), fits.box(Regular(6, 90.0)))
    step = plan(BOX).steps[0].id
    assert main(["log", path, "--add", "Cherry, a good board"]) == 0
    assert main(["log", path, "--step", step, "--minutes", "12"]) == 0
    assert main(["log", path, "--correct", "2", "--add", "it was 14", "--minutes", "14"]) == 0
    assert "14 min hands-on" in capsys.readouterr().out
    assert main(["log", path, other, "--search", "cherry"]) == 0
    assert "good board" in capsys.readouterr().out
    assert main(["log", path, "--by-step"]) == 0
    assert main(["log", path, "--record", str(tmp_path / "r.pdf")]) == 0
    assert record(plan(files.load(Path(path)).job)).startswith(b"%PDF")
    ics = str(tmp_path / "c.ics")
    assert (
        main(
            ["calendar", path, f"{other}=3", "--start", "2026-12-05", "--zone", "Europe/Paris", "--ics", ics]
        )
        == 0
    )
    assert vobject.readOne(Path(ics).read_text()).vevent_list
    assert main(["calendar", path, "--start", "2026-12-05T09:00", "--by", "2026-12-24", "--json"]) == 0
    assert main(["setup", path, "tilt_pair", "90.3deg"]) == 0
    assert "0.15" in capsys.readouterr().out
    assert main(["setup", path, "stop", "--simulated", "3"]) == 0
    assert len(files.load(Path(path)).job.shop.setups) == 2
    assert (
        main(
            [
                "set",
                path,
                "shop.hours.sat=10:00-12:30",
                "work.coating.kind=shellac",
                "work.promised=2026-12-24",
            ]
        )
        == 0
    )
    capsys.readouterr()
    for wrong in (
        ["log", path, "--step", "box.nothing", "--minutes", "3"], ["log", path, "--correct", "9", "--add", "x"],
        ["log", path, other], ["log", path, "--minutes", "-2"], ["calendar", path, "--start", "soon"],
        ["calendar", path, "--zone", "Nowhere/Town"], ["setup", path, "tilt"], ["setup", path, "tilt_pair"],
        ["setup", path, "kerf", "100", "1", "100"], ["setup", path, "tilt_pair", "90deg", "--tool", "none such"],
        ["log", path, "--step", step], ["log", path, "--correct", "1"], ["log", path, "--search", "x", "--add", "y"],
        ["steps", path, "--before", step], ["steps", path, "--text", "x"], ["steps", path, "--put-back", step],
        ["rescue", path, "--take", "1"], ["rescue", path, "rocks", "--at", "C"], ["measure", path, "--gauge", "rule"],
        ["boards", path, "--size", "900x90x9"], ["setup", path, "tilt_pair", "90deg", "--simulated", "1"],
        ["set", path, "shop.hours.mon=21:00-18:00"], ["set", path, "shop.hours.zone=Nowhere"],
    ):  # fmt: skip
        assert main(wrong) != 0, wrong
        assert capsys.readouterr().err.startswith("peristyle")


def test_a_batch_is_glued_in_lots_that_the_clamps_allow_and_its_first_part_goes_out_first() -> None:
    made = plan(BOX)
    clamps = 9  # a glue-up of one holds two: band clamps come in pairs
    tasks = tasks_of(made, "box", boxes=(12,), clamps=clamps)
    lots = [one.lot for one in tasks if one.step == "box.glue"]
    assert lots == [(1, 4), (5, 8), (9, 12)]
    assert all(one.clamps <= clamps for one in tasks)
    all_at_once = tasks_of(made, "box", boxes=(12,), clamps=1000)
    for step in made.steps:  # set up once, whatever the lots
        mine, whole = (
            [one.minutes.middle for one in some if one.step == step.id] for some in (tasks, all_at_once)
        )
        assert sum(mine) == pytest.approx(sum(whole))
    found = schedule(tasks, PARIS, BEGIN, clamps)
    assert found is not None
    held = [
        (one.ends, one.ends + dt.timedelta(hours=one.task.clamped_h), one.task.clamps) for one in found.booked
    ]
    for at, _until, _count in held:  # never more than there are
        assert sum(count for low, high, count in held if low <= at < high) <= clamps
    assert schedule(all_at_once, PARIS, BEGIN, clamps) is None  # twelve at once cannot be
    parts = part_names("box", (3, 9))
    split = tasks_of(made, "box", boxes=(3, 9), clamps=clamps)
    both = schedule(split, PARIS, BEGIN, clamps, sooner, in_turn(["box", *parts], None))
    assert both is not None
    first, last = (both.ready(part) for part in parts)
    assert first is not None
    assert last is not None
    assert first < found.ends < last + dt.timedelta(days=3)
    names = [one.id for one in split]
    assert all(names.index(need) < names.index(one.id) for one in split for need in one.after)


@pytest.mark.parametrize(("typed", "boxes"), [("12", (12,)), (" 3 + 9 ", (3, 9)), ("1", (1,))])
def test_how_many_are_made_is_typed_as_a_sum(typed: str, boxes: tuple[int, ...]) -> None:
    assert read_boxes(typed) == boxes
    for bad in ("", "0", "3+", "1001", "-2", "3.5", "+".join(["1"] * 21)):
        with pytest.raises(PeristyleError):
            read_boxes(bad)


def test_the_cut_list_by_setting_has_every_setting_once_for_the_whole_batch() -> None:
    job = replace(BOX, work=replace(BOX.work, boxes=(3, 9)))
    made = plan(job)
    rows = list(csv.DictReader(io.StringIO(by_setting(made))))
    keys = [(row["tool"], row["lies"], row["setting"]) for row in rows]
    assert len(keys) == len(set(keys))
    steps = [step for step in made.steps if step.settings and step.pieces]
    assert sum(int(row["cuts_in_all"]) for row in rows) == 12 * sum(step.passes for step in steps)
    bevels = [row for row in rows if "tilt 45" in row["setting"]]
    assert {piece for row in bevels for piece in row["pieces"].split(", ")} >= {
        f"Side {name}" for name in "ABCD"
    }


def test_every_step_says_for_how_many_boxes_it_is_set() -> None:
    job = replace(BOX, work=replace(BOX.work, boxes=(3, 9)))
    bevel = next(step for step in plan(job).steps if step.operation == "bevel")
    assert first_of_all(job, bevel, Format("mm")) == [
        f"For all 12 boxes at this one setting, {12 * bevel.passes} times in all."
    ]
    assert not first_of_all(BOX, bevel, Format("mm"))


def test_the_sled_is_made_first_and_its_bevels_wait_for_it() -> None:
    wanted = replace(BOX, work=replace(BOX.work, sled=True))
    made = plan(wanted)
    tasks = {task.step: task for task in tasks_of(made, "box")}
    assert {name for name in tasks if name.startswith("sled_")} == set(MAKING)
    on_it = cut_on_it(made)
    assert all("box/sled_tune" in tasks[step.id].after for step in on_it)
    calendar = schedule(tasks_of(made, "box"), PARIS, BEGIN)
    assert calendar is not None
    said = [
        words.task(one.task, {step.id: step for step in made.steps}, Format("mm")) for one in calendar.booked
    ]
    assert said.index("Sled: tune it by five cuts and scraps") > said.index("Sled: glue the fence")
    # Once a bevel is cut the sled is there; a box begun from this one has it too.
    begun = plan(with_done(wanted, on_it[0].id, 1))
    assert not any(task.step.startswith("sled_") for task in tasks_of(begun, "box"))
    assert not again(wanted, {}, "2026-12-24").work.sled
    assert not any(task.step.startswith("sled_") for task in tasks_of(plan(BOX), "box"))
