"""The seasons before this one: what was made, eaten, given away and lost; and a warm fortnight."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import datetime, timedelta

from sqlalchemy.orm import Session as Orm

from elderberry.demo.hands import Cook, at_hour
from elderberry.services.cooking import batches
from elderberry.services.planning.asked import of_fruit
from elderberry.services.shelf import lives, logs, servings
from elderberry.services.shelf.lives import Told, Which
from elderberry.services.who import Who
from elderberry.store import Batch, Jar, JarStock, Place, queries

YEAR = 365
PACKETS = {2: "SH 0412", 1: "SH 0688", 0: "SH 0915"}
"""What was printed on the packets of lids, by how many years ago they were used."""


@dataclass(frozen=True)
class Made:
    """A steam-juiced batch of an earlier season: how long ago, and what became of its jars."""

    years: int
    days: int
    fruit: str
    kg: float
    litres: float
    brix: float
    ph: float | None
    source: str
    drunk: int
    """Jars that were used up since, the others still stand."""


EARLIER = (
    Made(2, 118, "blackcurrant", 5.4, 2.5, 12.9, None, "Row 3, blackcurrants", 4),
    Made(2, 66, "damson", 7.0, 3.4, 13.0, None, "Damson hedge, plot 14", 6),
    Made(2, 150, "rhubarb", 6.0, 3.1, 4.6, None, "Rhubarb, plot 2", 5),
    Made(1, 121, "blackcurrant", 6.1, 2.9, 13.3, None, "Row 3, blackcurrants", 3),
    Made(1, 60, "aronia", 5.0, 2.4, 15.8, 3.6, "Aronia by the pond", 1),
    Made(1, 148, "rhubarb", 6.4, 3.3, 4.4, None, "Rhubarb, plot 2", 4),
)


def seasons(orm: Orm, hands: Sequence[Who], now: datetime) -> None:
    """Two seasons before this one."""
    oda, wenna, _ = hands
    for years in (2, 1):
        _packet(orm, oda, PACKETS[years])
        for made in sorted((m for m in EARLIER if m.years == years), key=lambda m: -m.days):
            _steamed(orm, oda if made.fruit != "rhubarb" else wenna, made, now)
    _packet(orm, oda, PACKETS[0])


def since_then(orm: Orm, hands: Sequence[Who], now: datetime) -> None:
    """What became of the jars: drunk, given away, one broken, some tasted; and a warm summer."""
    oda, wenna, jorin = hands
    for made in EARLIER:
        first = now - timedelta(days=YEAR * made.years + made.days - 90)
        for n, jar in enumerate(_jars(orm, oda, made)[: made.drunk]):
            at = min(first + timedelta(days=41 * n), now - timedelta(days=9 + n))
            lives.do(orm, wenna if n % 2 else oda, at, Which([jar.id]), "used_up", Told())
    old = _jars(orm, oda, EARLIER[1])
    lives.do(orm, oda, now - timedelta(days=30), Which([old[-1].id]), "tasted",
             Told(verdict="good"))  # fmt: skip
    rhubarb = _jars(orm, oda, EARLIER[2])
    lives.do(orm, jorin, now - timedelta(days=200), Which([rhubarb[-1].id]), "spoiled",
             Told(sign="cracked"))  # fmt: skip
    for fruit, number, days, to in (
        ("gooseberry", 3, 40, "Plot 7, for the harvest supper"),
        ("redcurrant", 2, 33, "Plot 11"),
    ):
        ids = [j.id for j in _of_fruit(orm, oda, fruit)[:number]]
        lives.do(orm, oda, now - timedelta(days=days), Which(ids), "given", Told(to=to))
    _a_glass(orm, wenna, now)
    _warm_fortnight(orm, oda, now)


def _steamed(orm: Orm, who: Who, made: Made, now: datetime) -> None:
    began = at_hour(now, -(YEAR * made.years + made.days), 9.5)
    request = of_fruit(
        made.fruit, made.kg, jar_kinds=("pint",), source=made.source, ph=made.ph,
        method_key="steam_juiced",
    )  # fmt: skip
    cook = Cook(orm, who, batches.start(orm, who, request, began))
    first = began + timedelta(minutes=10)
    at = cook.steam_all(first, made.litres, made.brix, every=80, ph=made.ph)
    cook.can(at, "pint", int(1000 * made.litres * 1.03 / 473), 0)


def _packet(orm: Orm, who: Who, printed: str) -> None:
    """Another packet of lids is begun."""
    for stock in queries.all_of(orm, who.household_id, JarStock):
        stock.packet = printed
    orm.flush()


def _jars(orm: Orm, who: Who, made: Made) -> list[Jar]:
    """The jars of a batch of an earlier season."""
    rows = [b for b in queries.all_of(orm, who.household_id, Batch) if b.material == made.fruit]
    rows.sort(key=lambda b: b.started_at)
    same = [m for m in EARLIER if m.fruit == made.fruit]
    batch = rows[sorted(same, key=lambda m: -m.years).index(made)]
    return list(queries.of_batch(orm, who.household_id, Jar, batch.id))


def _of_fruit(orm: Orm, who: Who, fruit: str) -> list[Jar]:
    standing = (j for j in queries.all_of(orm, who.household_id, Jar) if j.place_id)
    return [j for j in standing if j.fruit == fruit and not j.part_filled]


def _a_glass(orm: Orm, who: Who, now: datetime) -> None:
    """Three days ago: a glass of last year's blackcurrant, its recipe kept."""
    jar = _jars(orm, who, EARLIER[3])[-1]
    asked = servings.Asked(250.0, "sparkling water", ice_g=40, in_it=("2 sprigs of mint",))
    servings.pour(orm, who, jar.id, asked, "Currant fizz", now - timedelta(days=3))


def _warm_fortnight(orm: Orm, who: Who, now: datetime) -> None:
    """A fortnight of this summer in which the cellar was warmer than it should be."""
    places = queries.all_of(orm, who.household_id, Place)
    cellar = next(p for p in places if p.kind == "cellar")
    first = at_hour(now, -112, 0)
    seen = [
        (first + timedelta(days=day, hours=hour), 20.5 + 3.0 * (6 < hour < 20) + 0.2 * (day % 4))
        for day in range(14)
        for hour in (2, 8, 14, 20)
    ]
    logs.keep(orm, who, cellar.id, seen)
