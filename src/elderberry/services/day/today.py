"""What needs hands now and next, and the hob rail that is on every screen."""

from __future__ import annotations

from collections.abc import Iterable, Iterator
from datetime import date, datetime, timedelta

from sqlalchemy.orm import Session as Orm

from elderberry.core.batch.lifecycle import Phase
from elderberry.core.batch.standing import words
from elderberry.core.flow.kinds import kind
from elderberry.core.wording import figure, in_units
from elderberry.services.cooking import glance
from elderberry.services.cooking.drying_view import shaken_words
from elderberry.services.cooking.folder import Folder, folders, title
from elderberry.services.cooking.shown import JarView
from elderberry.services.cooking.step_shown import StepGlance
from elderberry.services.day.shown import HobSlot, TodayItem, TodayView
from elderberry.services.household import kitchens
from elderberry.services.planning import intake
from elderberry.services.shelf import shelf
from elderberry.services.who import Who
from elderberry.store import Operation, queries

SOON = timedelta(days=28)
MOST_JARS = 5
FRUIT_SOON = timedelta(days=2)


def hob(orm: Orm, who: Who, now: datetime) -> list[HobSlot]:
    """One slot for each station in use, the one that needs hands first in front."""
    slots = [
        _slot(folder, operation, now)
        for folder in folders(orm, who, queries.running_batches(orm, who.household_id), now)
        for operation in folder.operations
        if folder.phase(operation) is Phase.RUNNING
    ]
    return sorted(slots, key=lambda s: s.due_at or s.until or now)


def _slot(folder: Folder, operation: Operation, now: datetime) -> HobSlot:
    step = glance.at(folder, operation)
    role = kind(operation.kind).role
    window = folder.standing.seal_window(operation) if role == "cool" else None
    return HobSlot(
        batch_id=folder.batch.id,
        step_id=operation.id,
        station=step.station.name if step.station else "",
        kind=operation.kind,
        role=role,
        holds=_holds(folder, operation, step),
        clock_from=step.clock_from,
        due_at=step.due_at,
        until=window[1] if window else None,
        next=_next(step, now),
        warn_at=step.pan.warn_at if step.pan else None,
        warning="pan near dry: refill" if step.pan else "",
    )


def _holds(folder: Folder, operation: Operation, step: StepGlance) -> str:
    """What a station holds, in a few words."""
    fruit = folder.batch.title.split(" juice")[0]
    if step.role in {"process", "cool", "check"}:
        count = len(step.jar_ids)
        return f"{count} {'jar' if count == 1 else 'jars'} of {fruit.lower()}"
    if step.trays is not None:
        what = str(operation.params["fruit"]) or step.trays.name.lower()
        return f"{what[:1].upper()}{what[1:]}, {step.trays.trays} trays"
    if step.shakes is not None:
        return f"{fruit.split(', from')[0]}, to shake"
    if step.role == "steam":
        return f"{fruit}, {_title_tail(step.title)}"
    return f"{fruit}: {step.title[:1].lower()}{step.title[1:]}"


def _title_tail(words: str) -> str:
    """A title without its first word: "Steam load 2 of 3" is "load 2 of 3" on its station."""
    return words.split(" ", 1)[1] if " " in words else words


def _next(step: StepGlance, now: datetime) -> str:
    """The next thing a station needs."""
    if step.counts_from_boil and step.clock_from is None:
        return "boil lost: bring it back" if step.boils_lost else "start the time at the boil"
    if step.role == "cool":
        return "seal check"
    if step.due_at is not None and step.due_at <= now:
        return step.then.split(".")[0].split(",")[0].lower()
    return step.look_for.split(",")[0]


def view(orm: Orm, who: Who, now: datetime) -> TodayView:
    """Today: sentences, the most pressing first."""
    under_way = folders(orm, who, queries.unfinished_batches(orm, who.household_id), now)
    items = [item for folder in under_way for item in _of_batch(folder, now)]
    items += _of_fruit(intake.lots(orm, who), now)
    soon = (now + SOON).date()
    items += _of_jars(shelf.to_use(orm, who, soon), soon, now)
    items += _fell_short(shelf.fallen_short(orm, who))
    items += _held(shelf.held(orm, who))
    items += _warm(orm, who, now)
    rank = {"now": 0, "warm": 1, "fruit": 1, "next": 2, "later": 3, "use": 4}
    items.sort(key=lambda i: (rank[i.kind], i.at or now))
    jars, litres = shelf.in_all(orm, who)
    return TodayView(items=items, jars=jars, litres=litres)


def _of_batch(folder: Folder, now: datetime) -> list[TodayItem]:
    items = []
    for operation in folder.operations:
        phase = folder.phase(operation)
        if phase is Phase.RUNNING:
            items += _running(folder, operation, now)
        elif phase is Phase.WAITING and folder.standing.waits_for(operation) is None:
            items += _waiting(folder, operation, now)
    return items


def _running(folder: Folder, operation: Operation, now: datetime) -> list[TodayItem]:
    if kind(operation.kind).role == "cool":
        return []
    step = glance.at(folder, operation)
    over = step.due_at is not None and step.due_at <= now
    if step.shakes is not None and not over and not step.shakes.today:
        detail = f"{step.shakes.days} of {step.shakes.of} days. Look for {step.look_for}."
        return [_item(folder, operation, "now", shaken_words(folder), detail, None)]
    return [
        _item(
            folder, operation, "now" if over or step.due_at is None else "later",
            f"{title(operation, folder.units)}: {folder.batch.title}",
            step.then if over else f"Look for {step.look_for}.",
            step.due_at,
        )
    ]  # fmt: skip


def _waiting(folder: Folder, operation: Operation, now: datetime) -> list[TodayItem]:
    if kind(operation.kind).role == "cool":
        return []
    if kind(operation.kind).role == "check":
        window = folder.standing.seal_window(operation)
        if window is None:
            return []
        due = window[0] <= now
        return [
            _item(
                folder, operation, "now" if due else "later",
                f"Check the seals of {folder.batch.code}, {folder.batch.title.lower()}",
                words(operation, "before", folder.units), window[0], window[1],
            )
        ]  # fmt: skip
    said = title(operation, folder.units)
    return [
        _item(
            folder, operation, "next", f"Next: {said}, {folder.batch.title.lower()}",
            words(operation, "before", folder.units), None,
        )
    ]  # fmt: skip


def _item(
    folder: Folder, operation: Operation, kind: str, words: str, detail: str,
    at: datetime | None, until: datetime | None = None,
) -> TodayItem:  # fmt: skip
    return TodayItem(kind, words, detail, at, until, folder.batch.id, operation.id, None)


def _of_fruit(lots: list[intake.IntakeView], now: datetime) -> list[TodayItem]:
    """What came in and will not wait much longer."""
    soon = (now + FRUIT_SOON).date()
    return [
        TodayItem(
            kind="fruit",
            text=f"{lot.left_kg:.1f} kg of {lot.name.lower()} will not wait",
            detail=f"{lot.source or 'came in'}: work on it by {lot.work_by:%A}, "
            f"{lot.work_by_hi:%A} at the latest",
            at=datetime.combine(lot.work_by, datetime.min.time(), now.tzinfo),
            until=None,
            batch_id=None,
            step_id=None,
            jar_id=None,
            lot_id=lot.id,
        )
        for lot in lots
        if lot.work_by_lo <= soon
    ]


def _fell_short(jars: list[JarView]) -> Iterator[TodayItem]:
    """The jars of a batch whose process is not enough for what was put right since."""
    for mine in _by_batch(j for j in jars if j.stop):
        yield _stopped(mine)


def _held(jars: list[JarView]) -> Iterator[TodayItem]:
    """The jars of a batch that are held until somebody has looked at them."""
    for mine in _by_batch(jars):
        if mine[0].batch_id is None and mine[0].stop:
            yield _stopped(mine)
            continue
        several = "jars" if len(mine) > 1 else "jar"
        code = f" of {mine[0].batch_code}" if mine[0].batch_code else ""
        yield TodayItem(
            kind="now",
            text=f"Look at {len(mine)} {several}{code}: {mine[0].label.lower()}",
            detail=f"Held, and not to be opened until each was called sound: "
            f"{', '.join(j.code for j in mine)}.",
            at=None, until=None, batch_id=mine[0].batch_id, step_id=None, jar_id=mine[0].id,
        )  # fmt: skip


def _by_batch(jars: Iterable[JarView]) -> list[list[JarView]]:
    """Jars by their batch; those that were there already by their name."""
    found: dict[object, list[JarView]] = {}
    for jar in jars:
        found.setdefault(jar.batch_id or jar.label, []).append(jar)
    return list(found.values())


def _stopped(mine: list[JarView]) -> TodayItem:
    """Jars that are not to be eaten from, with why."""
    first = mine[0]
    return TodayItem(
        kind="now",
        text=f"Do not eat from {first.batch_code or 'what was there already'}: "
        f"{first.label.lower()}",
        detail=f"{first.stop} {', '.join(j.code for j in mine)}.",
        at=None, until=None, batch_id=first.batch_id, step_id=None, jar_id=first.id,
    )  # fmt: skip


def _warm(orm: Orm, who: Who, now: datetime) -> Iterator[TodayItem]:
    """Places that are warmer than they usually are, with what ages there."""
    for name, jars, warm in shelf.warm_places(orm, who, now):
        units = kitchens.units(orm, who)
        here, usual = (in_units(figure(c, "C"), units) for c in (warm.temp_c, warm.usual_c))
        yield TodayItem(
            kind="warm",
            text=f"{name} is {here}, and {usual} is usual",
            detail=f"{jars} {'jars age' if jars > 1 else 'jar ages'} {warm.faster:.1f} times as "
            f"fast there since {warm.since:%A, %-d %B}: carry what should keep to a cooler place.",
            at=None, until=None, batch_id=None, step_id=None, jar_id=None,
        )  # fmt: skip


def _of_jars(jars: list[JarView], soon: date, now: datetime) -> list[TodayItem]:
    """The jars that fade first, those that are alike together."""
    fading = [(j.best_by.typ, j) for j in jars if j.best_by and j.best_by.typ <= soon]
    alike: dict[tuple[date, str, str, bool], list[JarView]] = {}
    for until, jar in sorted(fading, key=lambda found: found[0]):
        alike.setdefault((until, jar.label, jar.place, jar.part_filled), []).append(jar)
    return [_use(found, until, now) for (until, *_), found in list(alike.items())[:MOST_JARS]]


def _use(jars: list[JarView], until: date, now: datetime) -> TodayItem:
    """Jars that are alike, to be used by a day."""
    first, label = jars[0], jars[0].label.lower()
    state = "part-filled, not processed" if first.part_filled else "at its best until then"
    several = len(jars) > 1
    what = f"{len(jars)} jars of {label}" if several else f"{first.code}, {label}"
    return TodayItem(
        kind="use",
        text=f"Use {what}, {first.place.lower()}",
        detail=f"{', '.join(j.code for j in jars)}: {state}" if several else state,
        at=datetime.combine(until, datetime.min.time(), now.tzinfo),
        until=None,
        batch_id=None,
        step_id=None,
        jar_id=first.id,
    )
