"""What formulas give over the figures of a kitchen, and what is read out of words, as before."""

from __future__ import annotations

from collections.abc import Callable, Iterator
from dataclasses import replace
from datetime import date, datetime, timedelta
from itertools import product

import pytest

from elderberry.core import (
    acid,
    becomes,
    estimates,
    freezing,
    heat,
    juicing,
    names,
    quantities,
    reconcile,
    scales,
    serving,
    solve,
    sugar,
    texture,
    water,
)
from elderberry.core.batch import traced
from elderberry.core.composition import of_dried, of_fruit_juice, of_material
from elderberry.core.drying.course import course
from elderberry.core.estimates import Estimate, measured
from elderberry.core.flow.seen import Seen, as_seen
from elderberry.core.lines import read
from elderberry.core.quantities import Customs, Quantity
from elderberry.core.shelf import said as of_shelf
from tests.briefs import filled
from tests.core.shelf.test_found import HERE, US
from tests.core.test_answers import IN_JARS, Asked, answers
from tests.core.test_lines import WRITTEN
from tests.core.test_planned import of_lot
from tests.facts import Book

BRIX, TEMPS, METRES = (0.5, 12.0, 40.0, 66.0, 78.0), (4.0, 20.0, 60.0, 95.0), (0.0, 585.0, 2400.0)
JUICES = {
    "damson": of_fruit_juice("damson", 900.0), "rhubarb": of_fruit_juice("rhubarb", 900.0),
    "syrup": of_fruit_juice("aronia", 400.0) + of_material("sugar_white", 600.0),
    "sweet": of_material("water", 300.0) + of_material("honey", 700.0),
    "thin": of_fruit_juice("quince", 300.0) + of_material("water", 700.0),
}  # fmt: skip
JUST = [*JUICES]
METRIC, IMPERIAL = Customs("metric"), Customs("imperial")
LINES = [row["line"] for row in WRITTEN]
MISSPELT = (
    "damsns", "blackcurants", "quinse", "rubarb", "goosberries", "sea bukthorn", "aronja",
    "grapefriut", "elderbery", "suger", "sugr", "cinnamn", "oat", "damsonsons", "xuince", "hony",
)  # fmt: skip
FOUND = (
    "12 pints plum, cellar, August 2025", "3 bottles rosehip syrup, fridge, last winter",
    "two bags of raspberries in the freezer", "7 jars green beans", "2 x 330 ml quince jelly, 2024",
    "12 half pints damson, 3/10/2025", "4 bags frozen aronia", "1 bag gooseberry cubes, 12.2.26",
    "1 green crock sauerkraut, spring", "2 bags dried apple rings, shelf",
    "a jar of sloe, 29 Feb 2024", "quinces, 31 June 2025", "4 jars rhubarb, 2006",
    "4 jars rhubarb, 2005", "4 jars rhubarb, March 2027", "9 pints, pantry",
    "2 pear purée in the attic, winter 2024", "three quarts autumn plum",
)  # fmt: skip
OWN = measured(2.0, 0.1)
TYPICAL_H = Estimate(14.0, 18.0, 26.0, estimates.Evidence.TYPICAL)
MORNING = datetime(2026, 10, 3, 9)


def of_juice(name: str) -> Iterator[object]:
    """What is told of something liquid by its make-up."""
    mix = JUICES[name]
    yield [acid.titratable_acidity_g_l(mix, n) for n in ("citric", "malic", "tartaric")]
    yield [acid.ph(mix), acid.sugar_to_acid(mix)]
    yield [water.water_activity(mix), water.freezing_point_c(mix)]
    yield [water.boiling_point_c(mix, m) for m in METRES]
    yield [water.frozen_share(mix, t) for t in (-2.0, -8.0, -18.0, -25.0)]
    yield [freezing.frozen_share(mix, t) for t in (-5.0, -18.0)]
    yield water.ice_headspace_share(mix)
    yield [texture.crystallisation_index(mix, t) for t in TEMPS]


def of_brix(brix: float) -> Iterator[object]:
    """What a sweetness says."""
    yield [sugar.density_kg_m3(brix, t) for t in TEMPS]
    yield [sugar.apparent_density_kg_m3(brix), sugar.sg_from_brix(brix)]
    yield sugar.brix_from_sg(sugar.sg_from_brix(brix))
    yield [sugar.sg_at_20c(sugar.sg_from_brix(brix), t) for t in (10.0, 30.0)]
    yield [sugar.refractometer_at_20c(brix, t) for t in (12.0, 32.0)]
    yield [sugar.true_brix(brix, 2.0), sugar.sugar_alone_pct(brix, 2.0)]
    yield sugar.refractometer_reads(brix, 2.0)
    yield [acid.half_width(brix), texture.pours(float(texture.viscosity_mpa_s(brix, 20.0)))]
    yield [texture.viscosity_mpa_s(brix, t) for t in TEMPS]
    yield [texture.jelly_sets(brix, ph) for ph in (2.9, 3.4, 3.6)]


def by_name(ask: Callable[..., object]) -> Callable[..., object]:
    """A formula over a juice by its name, so that a line of the book can say which."""
    return lambda name, *more: ask(JUICES[name], *more)


RULES: dict[str, Asked] = {
    "a juice": (lambda name: [*of_juice(name)], ((n,) for n in JUST)),
    "a sweetness": (lambda b: [*of_brix(b)], ((b,) for b in BRIX)),
    "a tea": (lambda key, grams, ph: acid.ph(
        of_dried(key, grams, ph=ph) + of_material("water", 1000.0)), product(
        ("hibiscus_dried",), (10.0, 60.0), (None, 2.2, 3.4))),
    "sweetened": (by_name(solve.sweeten), product(
        JUST, (20.0, 64.0), ("sugar_white", "honey"))),
    "thinned": (by_name(solve.thin), product(JUST, (8.0, 40.0), (0.0, 250.0))),
    "soured to a pH": (by_name(solve.acidify_to_ph), product(
        JUST, (2.8, 3.3, 4.0), ("citric_acid", "lemon_bottled", "vinegar_cider"))),
    "soured": (by_name(solve.acidify_to_acidity), product(
        JUST, (12.0, 40.0), ("citric_acid", "malic_acid"))),
    "sweet and sour": (by_name(solve.sweeten_and_acidify), product(
        ("damson", "thin"), (40.0,), (2.9, 3.2))),
    "boiled down": (lambda name, brix, share, metres, kg: solve.boil_down(
        JUICES[name], brix=brix, volume_share=share, altitude_m=metres, rate_kg_h=kg), [
        (name, *goal, metres, kg) for name in JUST for goal in ((45.0, None), (None, 0.5))
        for metres, kg in ((585.0, 1.8), (0.0, None))]),
    "boiled to a heat": (lambda name, c: solve.boil_down(
        JUICES[name], boiling_c=c, altitude_m=585.0), product(JUST, (100.0, 103.0))),
    "a pan's pace": (by_name(solve.measured_rate_kg_h), product(
        ("damson", "syrup"), (300.0, 700.0, 2000.0), (12.0, 60.0))),
    "blended": (lambda a, b, to: solve.blend(
        JUICES[a], JUICES[b], to, lambda mix: float(mix.brix)), product(
        ("damson", "thin"), ("syrup", "sweet"), (10.0, 25.0, 60.0))),
    "sugar to reach": (sugar.sugar_to_reach, product((1000.0,), (0.0, 14.0), (10.0, 40.0, 66.0))),
    "water to reach": (sugar.water_to_reach, product((1000.0,), (20.0, 60.0), (10.0, 40.0))),
    "inverted": (lambda c, ph: sugar.inverted_share([0.0, 30.0, 90.0], [18.0, c, c], ph, 0.3),
                 product((60.0, 98.0, 104.0), (2.8, 3.6))),
    "keeping": (water.keeping_class, ((a,) for a in (0.98, 0.93, 0.9, 0.85, 0.8, 0.7, 0.6, 0.4))),
    "a barometer": (lambda m: water.altitude_from_pressure_m(water.air_pressure_pa(m)), (
        (m,) for m in METRES)),
    "boils at": (water.brix_from_boiling_point, product((101.0, 103.5, 110.0), METRES)),
    "heated": (heat.minutes_to_heat, product((1.0, 6.0), (10.0, 60.0), (85.0,), (1.8,))),
    "a ring": (lambda kw, kind: [heat.useful_kw(kw, kind), heat.evaporation_kg_h(kw, kind)],
               product((0.8, 2.2), ("electric", "gas", "induction"))),
    "a steam canner": (heat.steam_canner_water_kg, product((10.0, 45.0), (1.2, 2.5))),
    "a shock": (heat.thermal_shock, product((8.0, 20.0, 60.0), (20.0, 90.0), (25.0, 98.0))),
    "a logged jar": (lambda f: heat.fit_heating(
        [3.0 * n for n in range(12)], [98.0 - 70.0 * f**n for n in range(12)], 98.0), (
        (0.7,), (0.85,))),
    "loads": (juicing.loads, product((0.4, 4.0, 11.9, 12.1), (0.6,), (8.0,))),
    "condensate": (juicing.condensate_kg, product((0.5, 4.0), (96.0, 99.5))),
    "dry pan": (juicing.minutes_to_dry, product((0.5, 3.0), (0.9, 2.2))),
    "drained": (juicing.drained_share, product((0.0, 1.0, 8.0, 24.0), (2.0, 6.0))),
    "recovered": (juicing.recovered_share, product((0.0, 400.0, 3000.0), (150.0, 900.0))),
    "covered": (juicing.water_to_cover_l, product((1.0, 6.0), (0.5, 0.75))),
    "by depth": (juicing.water_from_depth_l, product((4.0, 16.0), (24.0, 32.0), (2.0,))),
    "by sweetness": (lambda own, kg, mixed: juicing.water_from_brix_l(
        Estimate(own - 1, own, own + 1, estimates.Evidence.TYPICAL), kg, mixed), product(
        (12.0, 16.0), (2.0,), (4.0, 9.0))),
    "a mark": (lambda which, value, name: scales.brix_for(which, value, IN_JARS[name].lot), product(
        ("ratio", "thick"), (2.0, 12.0, 900.0), ("juice", "syrup", "vinegar", "strong"))),
    "a glass": (lambda name, *wish: serving.serve(JUICES[name], serving.Wish(*wish)), product(
        JUST, (150.0, 400.0))),
    "a drop": (lambda words, c, brix: [
        texture.brix_of_drop(words, c),
        texture.corrected_by_drop(Estimate(brix - 6, brix, brix + 6, estimates.Evidence.TYPICAL),
                                  words, c)], product(
        ("pours like cream", "coats a spoon", "stands like set honey"), (8.0, 20.0),
        (45.0, 68.0))),
    "on a plate": (texture.cold_plate, product((50.0, 66.0, 76.0), (80.0, 108.0), (5.0, 20.0))),
    "caramel": (texture.caramel_stage, (
        (t,) for t in (110.0, 119.0, 130.0, 145.0, 160.0, 171.0, 180.0, 200.0))),
    "taste": (acid.taste_word, ((r,) for r in (0.2, 0.6, 1.0, 1.6, 2.5, 4.0, 9.0, 30.0))),
    "agrees": (estimates.agreement, product((OWN, Estimate(
        3.0, 4.0, 6.0, estimates.Evidence.TYPICAL)), (1.8, 2.15, 2.9, 3.1, 6.4, 9.0), (0.0, 0.3))),
    "drawn": (lambda n: [float(x) for x in estimates.normal_scores(n)[:6]], (
        (n,) for n in (0, 1, 7))),
    "reconciled": (lambda grams, ml, brix, pomace: reconcile.reconcile([
        reconcile.Measurement("fruit", "in", "mass_g", grams),
        reconcile.Measurement("juice", "out", "volume_ml", ml),
        reconcile.Measurement("juice", "out", "brix", brix),
        reconcile.Measurement("pomace", "out", "mass_g", pomace)]), product(
        (5000.0,), (2300.0, 3900.0), (13.0, 31.0), (2400.0, 900.0))),
    "several": (names.plural, ((w,) for w in (
        "cherry", "quince", "leaf", "box", "glass", "tray", "peach", "potato", "mango", "day",
        "key", "bay leaf", "loaf", "jelly", "dish"))),
    "letters": (names.letters, ((w,) for w in ("damson", "apple", "aronia", "io", "a", "e2"))),
    "meant": (names.nearest, ((w,) for w in MISSPELT)),
    "grams": (lambda amount, dimension, of: quantities.mass_g(
        Quantity(amount, dimension, of)), product(
        (3.0, 250.0), ("mass", "volume", "count", "temperature"),
        ("quince", "honey", "redcurrant", None))),
    "millilitres": (lambda amount, dimension, of: quantities.volume_ml(
        Quantity(amount, dimension, of)), product(
        (3.0, 250.0), ("mass", "volume", "count"), ("quince", "honey", None))),
    "a quantity": (lambda text: (q := quantities.parse(text, METRIC), quantities.show(q, "us")), (
        (t,) for t in ("2 lb 3 oz damsons", "3 x 500 g", "18 quinces", "a dozen limes", "1 quince",
                       "1 us cup honey", "1/2 imperial pint apple juice", "2 and 3 cups", "90 °F",
                       "2 lb 3 cups", "5", "1 or 2 g", "3 boxes", "2 kg vinegar", "1 t sugar"))),
    "filled to": (lambda name, ml, g: [solve.scale_to_volume(JUICES[name], ml).mass_g,
                                       solve.scale_to_mass(JUICES[name], g).volume_ml], product(
        JUST, (150.0, 4000.0), (90.0,))),
    "read since": (lambda *seen: of_lot(as_seen(IN_JARS["drink"].lot, *seen)), product((
        Seen(volume_ml=700.0), Seen(mass_g=760.0), Seen(brix=31.0, brix_error=1.0),
        Seen(volume_ml=800.0, water_g=120.0, lost=0.25),
        Seen(mass_g=900.0, acids=(("citric_acid", 4.0), ("lemon_bottled", 20.0))),
        Seen(meter=(3.3, None, 3.1)), Seen(brix=99.0)), (False, True))),
    "a tray in the vacuum": (lambda told: course(
        "freeze_dry", {"tray_g": 800.0, "tray_water_kg": 0.69}, TYPICAL_H, told), ((t,) for t in (
            (), ((0.4, 700.0),), ((6.0, 480.0),), ((6.0, 480.0), (12.0, 190.0)), ((9.0, 790.0),),
            ((20.0, 111.0), (21.0, 111.0)), ((20.0, 111.0), (20.5, 110.9)), ((14.0, 109.0),)))),
    "a tray in warm air": (lambda told: course(
        "air_dry", {"tray_g": 500.0, "first_wet": 0.85, "what": "slices", "k": 0.2, "n": 1.1},
        TYPICAL_H, told), ((t,) for t in (
            (), ((3.0, 300.0),), ((3.0, 300.0), (7.0, 140.0)), ((0.04, 490.0),), ((3.0, 510.0),),
            ((3.0, 70.0),), ((9.0, 92.0),)))),
    "a bath": (lambda temps: (lost := traced.breaks(
        [(MORNING + timedelta(minutes=3 * n), t) for n, t in enumerate(temps)], 98.0,
        MORNING + timedelta(minutes=3)), traced.unbroken_min(
            MORNING, MORNING + timedelta(minutes=24), lost)), ((t,) for t in (
        (90.0, 98.0, 98.1, 98.0, 97.9, 98.0), (98.0, 95.0, 98.0, 98.0, 94.0, 93.0),
        (98.0, 97.6, 97.0, 96.9, 96.4, 98.0), (98.0,)))),
    "few of many": (lambda n: [len(found := traced.few([
        (MORNING + timedelta(minutes=m), 60.0 + (m * 7) % 41) for m in range(n)])),
        min(t for _, t in found), max(t for _, t in found), found[-1]], (
        (n,) for n in (2, 240, 900, 5000))),
    "spirit in it": (lambda grams, keep: becomes.sentences(filled(
        ("raspberry", 400.0), ("sugar_white", 420.0), ("spirit_40", grams)), keep, 14.0), product(
        (0.5, 2.0, 20.0, 40.0), ("chill", "shelf"))),
    "a line of much": (lambda text: read(text, METRIC).mass_g, ((x,) for x in (
        "500 kg damsons", "500.1 kg damsons", "1 g salt", "0.001 g salt", "480 l apple juice"))),
    "a line, metric": (lambda text: read(text, METRIC), ((x,) for x in LINES[::2])),
    "a line, imperial": (lambda text: read(text, IMPERIAL), ((x,) for x in LINES[1::2])),
    "found": (lambda text: of_shelf.read(text, HERE), ((x,) for x in FOUND)),
    "found, in cups": (lambda text: of_shelf.read(text, US), ((x,) for x in FOUND)),
    "found, a day": (lambda days: [of_shelf.read(f"3 jars plum, {when}", replace(
        HERE, today=date(2026, 1, 15) + timedelta(days=days))).filled for when in (
        "last winter", "last summer", "autumn", "March", "this year", "last year")], (
        (days,) for days in (0, 50, 51, 130, 240, 334))),
}  # fmt: skip

ASKED = {name: (ask, [*grid]) for name, (ask, grid) in RULES.items()}
BOOK = Book(__file__, "formulas.txt", ASKED)


@pytest.mark.parametrize("name", ASKED)
def test_it_gives_what_it_gave(name: str) -> None:
    BOOK.holds(name, answers(*ASKED[name]))
