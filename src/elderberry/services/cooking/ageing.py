"""How far jars have aged: where they stood, how warm it was, and what tastings have taught."""

from __future__ import annotations

from collections.abc import Hashable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from datetime import UTC, date, datetime, timedelta

from sqlalchemy.orm import Session as Orm

from elderberry.core import storage
from elderberry.core.batch.lifecycle import Seal
from elderberry.core.quantities import System
from elderberry.core.shelf import climate, found, tasting
from elderberry.core.shelf.climate import Climate, Spell
from elderberry.core.shelf.life import Lives
from elderberry.core.wording import figure, in_units
from elderberry.services.cooking.shown import BestByView
from elderberry.services.household import kitchens
from elderberry.services.who import Who
from elderberry.store import Event, Jar, Place, PlaceDay, Tasted, furniture, queries

FOUND = "found"
"""What a jar that was there already keeps in its contents: how far off its day may be [d]."""
INFUSED = "infused_whole_fruit"
OPENED_ROWS = {"jelly": "jelly", "syrup_or_concentrate_sugared": "syrup_or_concentrate_sugared"}
"""Rows of an opened jar, by the row it was canned by; any other keeps as juice does."""


@dataclass(frozen=True)
class Ageing:
    """What is known of some jars' past and of the places of a household.

    moves: each carrying of a jar from where it had stood; taught: the rows that tastings have
    shifted.
    """

    places: Mapping[int, Place]
    climates: Mapping[int, Climate]
    moves: Mapping[int, Sequence[Event]]
    taught: Mapping[tuple[str, str], storage.LifeRow]
    units: System
    today: date
    told: dict[Hashable, BestByView] = field(default_factory=dict)
    """What was found of a jar is that of every jar that stood as long at the same places."""

    def place(self, jar: Jar) -> Place | None:
        """Where a jar stands."""
        return self.places.get(jar.place_id or 0)

    def row(self, jar: Jar, place: Place) -> storage.LifeRow:
        """The clock of a jar where it stands, by what is in it and what this household expects."""
        row = life_row(jar, place)
        return row if jar.contents.get(FOUND) else self.taught.get((row.state, row.product), row)

    def spells(self, jar: Jar, until: datetime | None = None) -> list[Spell]:
        """Where it stood, one stay after the other; to a moment where one is given."""
        spells = [self._before(e) for e in self.moves.get(jar.id, ())]
        place = self.place(jar)
        if place is not None and until is not None:
            spells.append(Spell(self.climates[place.id], jar.placed_at, until))
        return spells

    def _before(self, moved: Event) -> Spell:
        there = self.climates.get(moved.data.get("from", 0)) or Climate(moved.data["temp_c"])
        since = datetime.fromtimestamp(
            moved.at.timestamp() - 86400 * float(moved.data["stay_days"]), UTC
        )
        return Spell(there, since, moved.at)

    def best_by(self, jar: Jar, now: datetime) -> BestByView | None:
        """Until when it is at its best; None where its clock does not hold."""
        place = self.place(jar)
        if place is None:
            return None
        row = self.row(jar, place)
        if not storage.holds_at(row, place.temp_c):
            return None
        moves = self.moves.get(jar.id, ())
        stays = tuple((e.data.get("from"), e.at, e.data["stay_days"]) for e in moves)
        full = storage.life_factor(excess_headspace=bool(jar.contents.get("siphoned")))
        off = timedelta(days=off_days(jar))
        alike = (row, place.id, jar.placed_at, stays, full, off, now)
        if alike not in self.told:
            closed = self._closed(jar, place, row, full, now)
            self.told[alike] = replace(closed, lo=closed.lo - off, hi=closed.hi + off)
        return self._once_open(jar, place, replace(self.told[alike], ready=ready(jar)))

    def _closed(
        self, jar: Jar, place: Place, row: storage.LifeRow, full: float, now: datetime
    ) -> BestByView:
        """Until when it is at its best as long as it stays closed; full: share of a usual life."""
        before, until = climate.aged_days(self.spells(jar), row), self.spells(jar, now)
        ahead = climate.ahead(self.climates[place.id], row, jar.placed_at.date())
        lives = (row.days_lo, row.days_typ, row.days_hi)
        lo, typ, hi = (ahead.day_of(life * full - before) for life in lives)
        words = f"{row.state.replace('_', ' ')}, {in_units(figure(place.temp_c, 'C'), self.units)}"
        return BestByView(
            lo, typ, hi,
            climate.aged_days(until, row) / row.days_typ / full,
            words,
            cost_days=climate.cost_days(until, row),
        )  # fmt: skip

    def _once_open(self, jar: Jar, place: Place, closed: BestByView) -> BestByView:
        """The shorter of the two clocks of a jar that is open."""
        if jar.opened_at is None or place.kind == "freezer" or keeps_open(jar):
            return closed
        row = opened_row(jar)
        if not storage.holds_at(row, place.temp_c):
            return closed
        spent = float(jar.contents.get("used_when_opened", 0.0))
        opened = storage.opened(spent, row, jar.opened_at.date(), place.temp_c)
        if opened.typ >= closed.typ:
            return closed
        days = max(1e-6, (opened.typ - jar.opened_at.date()).days)
        return BestByView(
            opened.lo, opened.typ, opened.hi,
            (self.today - jar.opened_at.date()).days / days,
            f"open since {jar.opened_at.date():%-d %b}",
            cost_days=0.0,
            ready=None,
        )  # fmt: skip


def of(orm: Orm, who: Who, jars: Iterable[Jar], now: datetime | None = None) -> Ageing:
    """What is known of the past of some jars."""
    hh = who.household_id
    listed = [j.id for j in jars if j.lives != Lives.MADE]
    moves: dict[int, list[Event]] = {}
    for event in queries.moves_of(orm, hh, listed) if listed else ():
        if event.jar_id is not None and "stay_days" in event.data:
            moves.setdefault(event.jar_id, []).append(event)
    places = {p.id: p for p in queries.all_of(orm, hh, Place)}
    today = kitchens.today(orm, who, now or datetime.now(UTC))
    return Ageing(
        places, climates(orm, who), moves, taught(orm, who), kitchens.units(orm, who), today
    )


def climates(orm: Orm, who: Who) -> dict[int, Climate]:
    """How warm each place is: by its season, and as it was logged."""
    whose = (who.household_id, "climates")
    return furniture.reckoned(orm, (Place, PlaceDay), whose, lambda: _climates(orm, who))


def _climates(orm: Orm, who: Who) -> dict[int, Climate]:
    logged: dict[int, dict[date, tuple[float, ...]]] = {}
    for row in queries.all_of(orm, who.household_id, PlaceDay):
        logged.setdefault(row.place_id, {})[row.day] = tuple(row.temps.values())
    return {
        p.id: Climate(p.temp_c, p.swing_c, p.warmest_day, logged.get(p.id, {}), p.light)
        for p in queries.all_of(orm, who.household_id, Place)
    }


def taught(orm: Orm, who: Who) -> dict[tuple[str, str], storage.LifeRow]:
    """The rows that this household's tastings have shifted."""
    whose = (who.household_id, "taught")
    return furniture.reckoned(orm, (Tasted,), whose, lambda: _taught(orm, who))


def _taught(orm: Orm, who: Who) -> dict[tuple[str, str], storage.LifeRow]:
    seen: dict[tuple[str, str], list[tasting.Tasting]] = {}
    for row in queries.all_of(orm, who.household_id, Tasted):
        tasted = tasting.Tasting(row.aged_d, tasting.verdict(row.verdict))
        seen.setdefault((row.state, row.product), []).append(tasted)
    return {key: tasting.learned(storage.life_row(*key), said) for key, said in seen.items()}


def life_row(jar: Jar, place: Place) -> storage.LifeRow:
    """The quality clock that runs for a jar where it stands, by what is in it."""
    if jar.contents.get(FOUND):
        return found.life_row(str(jar.contents["product"]), place.kind)
    return _made_here(jar, place)


def _made_here(jar: Jar, place: Place) -> storage.LifeRow:
    life = jar.contents.get("life") or {}
    if place.kind == "freezer":
        return storage.life_row("frozen", life.get("freeze", "juice"))
    if jar.seal == Seal.SEALED:
        return storage.life_row("canned_sealed", life.get("shelf", "juice"))
    if jar.seal == Seal.CAPPED and "dry" in life:
        return storage.dry_row(life["dry"])
    if jar.seal == Seal.CAPPED and place.kind != "refrigerator" and "sugar" in life:
        return storage.life_row("sugar_shelf", life["sugar"])
    if jar.process:
        product = "syrup" if jar.contents.get("sugared") else "juice"
        return storage.canned_row(product, sealed=False)
    cold = storage.life_row("chilled_unopened", life.get("chill", "juice_unprocessed"))
    return storage.spirited(cold, jar.contents.get("spirit", 0.0))


def off_days(jar: Jar) -> int:
    """How far off the day may be on which a jar was filled [d]; 0 where it was filled here."""
    return int((jar.contents.get(FOUND) or {}).get("off_days", 0))


def opened_row(jar: Jar) -> storage.LifeRow:
    """The clock that runs for a jar once it is open."""
    life = jar.contents.get("life") or {}
    if "dry" in life:
        return storage.life_row("freeze_dried_open", "powder")
    return storage.life_row("opened_chilled", OPENED_ROWS.get(life.get("shelf", "juice"), "juice"))


def stands_open(jar: Jar) -> bool:
    """Whether it stays where it is when it is opened: what sugar keeps, or what is dry."""
    life = jar.contents.get("life") or {}
    return jar.seal == Seal.CAPPED and bool({"sugar", "dry"} & {*life})


def keeps_open(jar: Jar) -> bool:
    """Whether it keeps as long open as closed: what sugar keeps, or warm air has dried."""
    brittle = (jar.contents.get("life") or {}).get("dry") == BRITTLE
    return stands_open(jar) and not brittle


BRITTLE = "powder_or_slices"
"""What is freeze-dried takes up water as soon as it is open."""


def ready(jar: Jar) -> date | None:
    """The day from which it may be opened, where fruit is still giving to it."""
    infused = (jar.contents.get("life") or {}).get("shelf") == INFUSED
    if not infused or jar.seal != Seal.SEALED or jar.lives not in {Lives.STANDS, Lives.MADE}:
        return None
    return storage.ready_from(jar.filled_at.date())
