"""A second reading of the tables, plainly written: it shares no code with the judgement.

It takes what is in a jar as bare figures and reads the CSV files as a careful cook would, with a
charge balance of its own. Where it says None there is no tested process; where it gives minutes,
nothing shorter may be permitted.
"""

from __future__ import annotations

import csv
import math
from dataclasses import dataclass, field
from importlib import resources

PKA = {
    "citric": (3.128, 4.761, 6.396), "malic": (3.40, 5.11), "tartaric": (3.04, 4.37),
    "acetic": (4.756,), "ascorbic": (4.17,), "gluconic": (3.86,), "succinic": (4.21, 5.64),
}  # fmt: skip
MOLAR = {
    "citric": 192.12, "malic": 134.09, "tartaric": 150.09, "acetic": 60.05, "ascorbic": 176.12,
    "gluconic": 196.16, "succinic": 118.09,
}  # fmt: skip
EQUIVALENT = {"citric": 64.04, "malic": 67.05, "tartaric": 75.05}
LEMONS = {"lemon", "lime", "lemon_fresh", "lemon_bottled", "lime_bottled"}
CONSTANT = {"lemon_bottled", "lime_bottled"}
SWEET = {"sugar", "sweetener"}


def table(name: str) -> list[dict[str, str]]:
    text = (resources.files("elderberry.core") / f"data/{name}.csv").read_text("utf-8")
    return list(csv.DictReader(ln for ln in text.splitlines() if ln and not ln.startswith("#")))


FRUITS = {row["key"]: row for row in table("fruits")}
INGREDIENTS = {row["key"]: row for row in table("ingredients")}
ROWS = [row for row in table("process_times") if row["pack"] != "none"]


@dataclass
class Piece:
    """What a jar holds of one thing that went in: grams of each part, and what became of it."""

    material: str
    form: str
    went_in_g: float
    in_pieces_g: float
    grams: dict[str, float]
    boiled_min: float = 0.0
    hottest_c: float = 18.0
    read_ph: float | None = None
    steam: bool = False
    covering: bool = False
    peel: bool = False

    @property
    def kind(self) -> str:
        return "fruit" if self.material in FRUITS else INGREDIENTS[self.material]["kind"]

    @property
    def mass(self) -> float:
        return sum(g for n, g in self.grams.items() if not n.endswith("_mol"))

    @property
    def solids(self) -> float:
        out = {"water", "insoluble", "ethanol", "acetic", "peel_oil"}
        return sum(g for n, g in self.grams.items() if n not in out and not n.endswith("_mol"))

    @property
    def ml(self) -> float:
        """Roughly: sugar solutions by a straight line that is good to a hundredth."""
        wet = self.grams.get("water", 0.0) + self.solids
        w = self.solids / wet if wet else 0.0
        density = 0.9982 + 0.3852 * w + 0.1354 * w**2 + 0.0409 * w**3
        return (
            wet / density
            + self.grams.get("ethanol", 0) / 0.86
            + self.grams.get("insoluble", 0) / 1.5
        )


@dataclass
class Jar:
    """A jar and what is in it; readings as (pH, part of the fruit, acid since, read after)."""

    pieces: list[Piece]
    jar_ml: float | None
    feet: float
    boiling_c: float
    hardness_known: bool
    meter: float | None = None
    high: list[tuple[float, float, bool, bool, float | None]] = field(default_factory=list)
    said: frozenset[str] = frozenset()


def minutes(jar: Jar) -> int | None:
    """The shortest process that the tables allow for it; None where they allow none."""
    if not jar.feet + 1500 >= 0 or jar.feet > 10_000 or jar.jar_ml is None or barred(jar):
        return None
    found: dict[str, list[dict[str, str]]] = {}
    for row in ROWS:
        if holds(row, jar):
            found.setdefault(row["product"], []).append(row)
    found = displaced(found)
    if not found:
        return None
    longest = 0
    for rows in found.values():
        roomy = [r for r in rows if float(r["largest_jar_ml"]) >= jar.jar_ml]
        if not roomy:
            return None
        size = min(float(r["largest_jar_ml"]) for r in roomy)
        row = next(r for r in roomy if float(r["largest_jar_ml"]) == size)
        if not opened(row, jar):
            return None
        longest = max(longest, of_row(row, jar))
    return longest


def of_row(row: dict[str, str], jar: Jar) -> int:
    band = 0 if jar.feet <= 1000 else 1 if jar.feet <= 3000 else 2 if jar.feet <= 6000 else 3
    cells = [row[c] for c in ("ft_0_1000", "ft_1001_3000", "ft_3001_6000", "ft_over_6000")]
    if row["product"] == "jelly" and brix(jar) < 55:
        cells = row["unsterilised"].split("|")
    return int(cells[band])


def barred(jar: Jar) -> bool:  # noqa: PLR0911
    for p in jar.pieces:
        if p.kind == "fruit" and FRUITS[p.material]["ph_risk"] not in {"low", "watch"}:
            return True
        if p.kind != "fruit" and INGREDIENTS[p.material]["shelf"] != "ok":
            return True
        if p.peel:
            return True
        if p.material in {"ginger_fresh", "herb_fresh"} and p.in_pieces_g > 0.1 * p.went_in_g:
            return True
        if p.material in {"elderberry", "rowan"} and p.boiled_min < 10:
            return True
    bare = undiluted(jar)
    litres = sum(p.ml for p in bare) / 1000
    mass = sum(p.mass for p in bare)
    if not fruit(jar) or litres <= 0:
        return True
    put_in = {p.material: p.went_in_g for p in jar.pieces}
    vinegar = sum(p.ml for p in jar.pieces if p.kind == "vinegar") / 1000
    return (
        put_in.get("hibiscus_dried", 0) / litres > 2.0
        or put_in.get("ginger_fresh", 0) / litres > 20
        or put_in.get("butter", 0) / litres > 2.5
        or vinegar / litres > 0.05 * 1.02
        or sum(p.grams.get("ethanol", 0) for p in bare) / mass > 0.005 * 1.001
    )


def base(jar: Jar) -> list[Piece]:
    return [
        p for p in jar.pieces if p.kind not in SWEET and p.material not in {"spice_whole", "salt"}
    ]


def undiluted(jar: Jar) -> list[Piece]:
    return [p for p in base(jar) if p.kind != "water" or p.steam]


def fruit(jar: Jar) -> list[Piece]:
    every = [p for p in base(jar) if p.kind == "fruit"]
    return [p for p in every if p.material not in LEMONS] or every


def shares(jar: Jar) -> dict[str, float]:
    found: dict[str, float] = {}
    for p in fruit(jar):
        found[p.material] = found.get(p.material, 0.0) + p.solids
    total = sum(found.values())
    return {k: s / total for k, s in found.items()} if total > 0 else {}


def brix(jar: Jar) -> float:
    liquid = sum(p.mass - p.grams.get("insoluble", 0) for p in jar.pieces)
    return 100 * sum(p.solids for p in jar.pieces) / liquid if liquid > 0 else 0.0


def fruit_part(jar: Jar) -> float:
    return sum(p.mass for p in fruit(jar)) / sum(p.mass for p in jar.pieces)


def pulp(jar: Jar) -> float:
    bare = undiluted(jar)
    mass = sum(p.mass for p in bare)
    return 100 * sum(p.grams.get("insoluble", 0) for p in bare) / mass if mass else 0.0


def water(jar: Jar) -> float:
    """Added water, % of mass without sweeteners and spice."""
    free = 0.0
    for p in base(jar):
        if p.kind == "fruit" and p.form not in {"bought", "pomace"}:
            free += p.went_in_g * (2.1 if p.material == "cranberry" else 1.0)
    added = 0.0
    for p in base(jar):
        if p.kind == "water" and not p.steam:
            let = min(p.mass, free) if p.covering else 0.0
            free -= let
            added += p.mass - let
    return 100 * added / sum(p.mass for p in base(jar))


def whole(jar: Jar) -> dict[str, float]:
    found: dict[str, float] = {}
    for p in jar.pieces:
        if p.kind == "fruit" and p.form == "whole":
            found[p.material] = found.get(p.material, 0.0) + p.in_pieces_g
    mass = sum(p.mass for p in base(jar))
    return {k: g for k, g in found.items() if g > 0.01 * mass}


def named(row: dict[str, str]) -> set[str]:
    return set(row["fruits"].partition(" with ")[0].split("|"))


def meant(row: dict[str, str], key: str) -> bool:
    return key in named(row) or FRUITS[key]["group"] in named(row) - {""}


def citrus_part(jar: Jar) -> float:
    juice = [p for p in base(jar) if p.kind == "fruit" or p.material in LEMONS]
    all_ml = sum(p.ml for p in juice)
    return sum(p.ml for p in juice if p.material in LEMONS) / all_ml if all_ml > 0 else 0.0


def boiled(jar: Jar) -> bool:
    sour = {"citric_acid", "malic_acid", "tartaric_acid", "ascorbic_acid"} | CONSTANT
    return all(
        p.boiled_min > 0 or p.hottest_c >= jar.boiling_c - 3
        for p in base(jar)
        if p.material not in sour
    )


def sets(jar: Jar) -> bool:
    kilos = sum(p.mass for p in jar.pieces) / 1000
    low = sum(p.went_in_g for p in jar.pieces if p.material == "pectin_low") / kilos
    regular = sum(p.went_in_g for p in jar.pieces if p.material == "pectin_regular") / kilos
    return low > 0 or (regular > 0 and brix(jar) >= 55 * 0.999)


def holds(row: dict[str, str], jar: Jar) -> bool:  # noqa: C901, PLR0911
    """Whether a row's own conditions are met, water and gate apart from what shuts it."""
    product, sweet, many = row["product"], brix(jar), shares(jar)
    pectin = any(p.kind == "pectin" for p in jar.pieces)
    strained = pulp(jar) <= 1.0 * 1.0001 and not whole(jar)
    its = (
        row["fruits"] == "any" or sum(s for k, s in many.items() if meant(row, k)) >= 0.95 * 0.9999
    )
    if row["evidence"] == "table" and row["pack"] == "hot" and not boiled(jar):
        return False
    wet = water(jar)
    table_row = row["evidence"] == "table"
    if not product.startswith("whole_") and wet > (10.001 if table_row else 50.001):
        beyond = 10 if table_row else 50 if product == "citrus_concentrate" else 100
        if wet > beyond * 1.0001:
            return False
    if product in {"apple_juice", "grape_juice", "berry_or_fruit_juice"}:
        return strained and its and sweet <= 42.001 and not pectin
    if product in {"berry_syrup", "fruit_syrup"}:
        chunks = sum(whole(jar).values()) <= 0.25 * sum(p.mass for p in jar.pieces)
        thick = product == "berry_syrup" and sweet >= 54.99 and chunks
        enough = product == "fruit_syrup" or fruit_part(jar) >= 0.25
        return (strained or thick) and its and sweet >= 34.999 and enough and not pectin
    if product in {"fruit_puree", "applesauce"}:
        if (
            pulp(jar) <= 1.0 * 0.9999
            or whole(jar)
            or sweet > 30.001
            or pectin
            or "pear_asian" in many
        ):
            return False
        return many.get("apple", 0) >= 0.4999 if product == "applesauce" else its
    if product == "citrus_concentrate":
        return citrus_part(jar) >= 0.3329 and not whole(jar) and not pectin
    if product.startswith("whole_"):
        there = whole(jar)
        litres = sum(p.ml for p in jar.pieces) / 1000
        if not there or sum(there.values()) / litres < 149.9 or pectin:
            return False
        mine = sum(g for k, g in there.items() if meant(row, k)) / sum(there.values())
        return mine >= 0.05 and (row["pack"] == "hot") == boiled(jar)
    return product == "jelly" and strained and its and sets(jar)


def displaced(found: dict[str, list[dict[str, str]]]) -> dict[str, list[dict[str, str]]]:
    """Names displace "any"; jelly juices and syrups; applesauce purée; citrus all three."""
    juices = ("apple_juice", "grape_juice", "berry_or_fruit_juice")
    syrups = ("berry_syrup", "fruit_syrup")
    gone: set[str] = set()
    if "apple_juice" in found or "grape_juice" in found:
        gone.add("berry_or_fruit_juice")
    if "berry_syrup" in found:
        gone.add("fruit_syrup")
    if "applesauce" in found:
        gone.add("fruit_puree")
    if "jelly" in found:
        gone |= {*juices, *syrups}
    if "citrus_concentrate" in found:
        gone |= {*juices, *syrups, "applesauce", "fruit_puree"}
    left = {p: rows for p, rows in found.items() if p not in gone}
    for product, rows in left.items():
        if any(r["fruits"] != "any" for r in rows):
            left[product] = [r for r in rows if r["fruits"] != "any"]
    return left


def opened(row: dict[str, str], jar: Jar) -> bool:  # noqa: C901, PLR0911, PLR0912
    """Whether its gate is open: no reading over the limit stands, and one is there or not asked."""
    product, limit, gate = row["product"], float(row["max_ph"]), row["gate"]
    table_row, wet, many = row["evidence"] == "table", water(jar), shares(jar)
    if product == "berry_syrup" and brix(jar) < 54.99:
        gate = "low_risk_or_measured"
    if product == "fruit_syrup" and fruit_part(jar) < 0.2499:
        gate = "measured"
    if product == "jelly" and brix(jar) < 54.99:
        gate = "low_risk_or_measured"
    if product == "applesauce" and 1 - many.get("apple", 0) >= 0.0501:
        gate = "low_risk_or_measured"
    if not product.startswith("whole_") and not table_row:
        free = 10 if product == "citrus_concentrate" else 50
        if wet > free * 1.0001:
            gate = "measured"
    sparse = False
    if product.startswith("whole_"):
        litres = sum(p.ml for p in jar.pieces) / 1000
        sparse = sum(whole(jar).values()) / litres < 599
        limit = limit - 0.2 if sparse else limit
    for ph, part, acid, lemon, after in jar.high:
        small = part < 0.499 or (product == "citrus_concentrate" and lemon)
        if ph > limit and not (after is not None and after <= limit and (acid or small)):
            return False
    if jar.meter is not None:
        return jar.meter <= limit
    if gate == "none" and not sparse:
        return True
    if gate == "measured":
        return False
    edge = upper_edge(jar, product == "citrus_concentrate")
    if edge is None:
        return False
    if sparse and gate == "none":
        return edge <= limit + 0.01
    watch = sum(s for k, s in many.items() if FRUITS[k]["ph_risk"] == "watch") >= 0.0501
    litres = sum(p.ml for p in jar.pieces) / 1000
    dose = sum(p.ml for p in jar.pieces if p.material in CONSTANT) / 32
    dose += sum(p.mass for p in jar.pieces if p.material == "citric_acid") / 2.5
    dosed = dose / litres >= 0.98 and edge <= limit - 0.1 + 0.01
    return (not watch and edge < limit + 0.01) or dosed


def upper_edge(jar: Jar, citrus: bool) -> float | None:
    usual = ph_of(jar, citrus, "usual")
    highs = [ph_of(jar, citrus, how) for how in ("high", "high, little acid")]
    if usual is None or any(h is None for h in highs):
        return None
    high = max(h for h in highs if h is not None)
    read = all(p.read_ph is not None for p in fruit(jar))
    return usual + math.sqrt(max(0.0, high - usual) ** 2 + (0.2 if read else 0.3) ** 2)


def ph_of(jar: Jar, citrus: bool, how: str) -> float | None:
    acids, base_mol, carbonate, ml = dict.fromkeys(PKA, 0.0), 0.0, 0.0, 0.0
    for p in jar.pieces:
        grams = dict(p.grams)
        fresh = p.material in LEMONS - CONSTANT
        if p.kind in {"sugar", "vinegar"} or (fresh and not citrus):
            grams |= dict.fromkeys([*PKA, "strong_base_mol"], 0.0)
        elif p.material in CONSTANT:
            grams |= {n: 0.9 * grams.get(n, 0.0) for n in PKA}
        elif p.kind == "water" and how != "usual" and not jar.hardness_known:
            grams |= {
                n: grams.get(n, 0.0) * 350 / 150 for n in ("strong_base_mol", "carbonate_mol")
            }
        elif p.kind == "fruit" and how != "usual" and p.read_ph is None:
            grams = least_sharp(p, how)
        for n in PKA:
            acids[n] += grams.get(n, 0.0) / MOLAR[n]
        base_mol += grams.get("strong_base_mol", 0.0)
        carbonate += grams.get("carbonate_mol", 0.0)
        ml += p.ml
    litres = ml / 1000
    if litres <= 0 or sum(acids.values()) / litres < 0.005:
        return None
    low, high = 0.0, 14.0
    for _ in range(50):
        ph = (low + high) / 2
        h = 10**-ph
        left = h + base_mol / litres - 1e-14 / h
        left -= sum(c / litres * charge(PKA[n], ph) for n, c in acids.items())
        left -= carbonate / litres * charge((6.35, 10.33), ph)
        low, high = (ph, high) if left > 0 else (low, ph)
    return low


def charge(pka: tuple[float, ...], ph: float) -> float:
    terms, log = [1.0], 0.0
    for k in pka:
        log += ph - k
        terms.append(10**log)
    return sum(n * t for n, t in enumerate(terms)) / sum(terms)


def least_sharp(p: Piece, how: str) -> dict[str, float]:
    """The fruit's acid and base as little sharp as the tables know it."""
    row = FRUITS[p.material]
    if not row["brix"] or not row["ph"]:
        return p.grams
    _, sweet, _ = map(float, row["brix"].split("|"))
    _, _, ph = map(float, row["ph"].split("|"))
    low, typ, _ = map(float, row["acid_pct"].split("|"))
    sour = low if how.endswith("little acid") else typ
    mass = 100 * p.solids / sweet
    w = sweet / 100
    density = 0.9982 + 0.3852 * w + 0.1354 * w**2 + 0.0409 * w**3
    litres = mass / density / 1000
    parts = {row["main_acid"]: float(row["main_acid_share"])}
    if row["second_acid"]:
        parts[row["second_acid"]] = 1 - parts[row["main_acid"]]
    eq = 10 * sour * density / EQUIVALENT[row["main_acid"]]
    end = sum(s * charge(PKA[n], 8.2) for n, s in parts.items())
    here = sum(s * charge(PKA[n], ph) for n, s in parts.items())
    h, h_end = 10**-ph, 10**-8.2
    total = (eq + h_end - 1e-14 / h_end - h + 1e-14 / h) / (end - here)
    made = {n: total * s * MOLAR[n] * litres for n, s in parts.items()}
    made["strong_base_mol"] = (total * here + 1e-14 / h - h) * litres
    return made
