"""Figures that were measured are held against each other; following one jug to the jars."""

from __future__ import annotations

import pytest
from hypothesis import given
from hypothesis import strategies as st

from elderberry.core import sugar, waiting
from elderberry.core.errors import CannotTell, OutOfRange, Unknown
from elderberry.core.estimates import Evidence
from elderberry.core.flow.seen import Seen, StepSeen
from elderberry.core.kitchen import Canner, Juicer, Kitchen
from elderberry.core.method import method
from elderberry.core.plan import Plan, plan
from elderberry.core.reconcile import Measurement, Reconciled, reconcile
from tests.briefs import load


def steamed(litres: float = 2.45, brix: float = 13.4, pomace_kg: float = 3.2) -> Reconciled:
    """Five kilos of damsons through the steamer, everything weighed and read."""
    return reconcile([
        Measurement("fruit", "in", "mass_g", 5000),
        Measurement("fruit", "in", "brix", 14.4),
        Measurement("steam", "in", "mass_g", 800, 100, assumed=True),
        Measurement("steam", "in", "brix", 0.0, 0.05, assumed=True),
        Measurement("juice", "out", "volume_ml", 1000 * litres),
        Measurement("juice", "out", "brix", brix),
        Measurement("pomace", "out", "mass_g", 1000 * pomace_kg),
    ])  # fmt: skip


def test_figures_that_agree_are_left_nearly_alone() -> None:
    found = steamed()
    assert found.agrees
    assert found.lots["juice"].volume_ml == pytest.approx(2450, rel=0.02)
    went_in = found.lots["fruit"].mass_g + found.lots["steam"].mass_g
    assert went_in == pytest.approx(found.lots["juice"].mass_g + found.lots["pomace"].mass_g)
    assert abs(found.unexplained_g) < 100


def test_a_misread_jug_is_named_and_what_it_should_have_read() -> None:
    found = steamed(litres=4.45)
    assert found.suspect is not None
    assert (found.suspect.lot, found.suspect.quantity) == ("juice", "volume_ml")
    assert found.rather == pytest.approx(2450, rel=0.1)
    assert found.unexplained_g < -1500


def test_solids_tell_a_misread_refractometer_from_a_misread_jug() -> None:
    found = reconcile([
        Measurement("a", "in", "mass_g", 1000), Measurement("a", "in", "brix", 12.0),
        Measurement("b", "in", "mass_g", 500), Measurement("b", "in", "brix", 4.0),
        Measurement("mix", "out", "mass_g", 1500), Measurement("mix", "out", "brix", 14.0),
    ])  # fmt: skip
    assert found.suspect is not None
    assert (found.suspect.lot, found.suspect.quantity) == ("mix", "brix")
    assert found.rather == pytest.approx((12 * 1000 + 4 * 500) / 1500, abs=0.05)


def test_what_was_only_assumed_is_never_called_suspect() -> None:
    found = reconcile([
        Measurement("fruit", "in", "mass_g", 5000),
        Measurement("juice", "out", "mass_g", 2500),
        Measurement("pomace", "out", "mass_g", 4500, 60, assumed=True),
    ])  # fmt: skip
    assert found.suspect is not None
    assert found.suspect.lot != "pomace"


def test_acid_is_held_against_itself_too() -> None:
    def blend(acid: float) -> Reconciled:
        return reconcile([
            Measurement("a", "in", "mass_g", 1000), Measurement("a", "in", "acid_pct", 2.0),
            Measurement("b", "in", "mass_g", 1000), Measurement("b", "in", "acid_pct", 1.0),
            Measurement("mix", "out", "mass_g", 2000), Measurement("mix", "out", "acid_pct", acid),
        ])  # fmt: skip

    assert blend(1.5).agrees
    wrong = blend(3.0)
    assert wrong.suspect is not None
    assert (wrong.suspect.lot, wrong.suspect.quantity) == ("mix", "acid_pct")


@given(
    st.floats(500, 9000), st.floats(0.1, 0.9), st.floats(4, 24), st.floats(0.2, 0.8),
)  # fmt: skip
def test_true_figures_always_agree_and_stay_as_they_are(
    mass: float, share: float, brix: float, taken: float
) -> None:
    solids = mass * brix / 100
    juice, rest = mass * share, mass * (1 - share)
    in_juice = solids * taken
    b1, b2 = 100 * in_juice / juice, 100 * (solids - in_juice) / rest
    if max(b1, b2) > 60:
        return
    found = reconcile([
        Measurement("whole", "in", "mass_g", mass), Measurement("whole", "in", "brix", brix),
        Measurement("juice", "out", "volume_ml", 1000 * juice / float(sugar.density_kg_m3(b1))),
        Measurement("juice", "out", "brix", b1),
        Measurement("rest", "out", "mass_g", rest), Measurement("rest", "out", "brix", b2),
    ])  # fmt: skip
    assert found.agrees
    assert found.lots["juice"].mass_g == pytest.approx(juice, rel=1e-4)
    assert found.lots["rest"].brix == pytest.approx(b2, abs=1e-2)


def test_a_balance_has_two_sides_and_possible_figures() -> None:
    with pytest.raises(CannotTell):
        reconcile([Measurement("fruit", "in", "mass_g", 5000)])
    with pytest.raises(OutOfRange):
        Measurement("juice", "out", "brix", 120)


def laid(**seen: Seen) -> Plan:
    kitchen = Kitchen(585, Juicer(10, 4, 1.8), Canner(7), 2.0, jar_stock={"pint": 60})
    return plan(method("simmered_redcurrant"), load("redcurrant", 4), kitchen, seen=seen)


def test_a_jug_that_was_read_moves_every_lot_after_it() -> None:
    before = laid()
    juice = before.lots["juice"].volume_ml.typ
    after = laid(juice=Seen(volume_ml=0.9 * juice))
    assert after.lots["hot"].volume_ml.typ == pytest.approx(0.9 * juice, rel=1e-3)
    assert after.lots["hot"].figures.evidence is Evidence.MEASURED
    spread = after.lots["hot"].volume_ml
    assert spread.hi / spread.typ == pytest.approx(1.03, abs=0.004)
    assert after.lots["pulp"].mass_g == before.lots["pulp"].mass_g


def test_sweetness_that_was_read_moves_everything_after_it() -> None:
    after = laid(juice=Seen(brix=12.0, meter=(3.05,)))
    hot = after.lots["hot"]
    assert hot.brix is not None
    assert hot.ph is not None
    assert hot.brix.typ == pytest.approx(12.0, abs=0.01)
    assert hot.ph.typ == pytest.approx(3.05, abs=0.02)
    assert hot.acidity.meter == 3.05


def test_water_beyond_the_plan_ends_in_the_juice() -> None:
    kitchen = Kitchen(585, Juicer(10, 4, 1.8), Canner(7), 2.0, jar_stock={"pint": 60})
    brief, chosen = load("rosehip", 2), method("rosehip_steep")
    before = plan(chosen, brief, kitchen)
    planned = before.lots["water_steep"].volume_ml.typ
    done = {"steep": StepSeen(water_l=planned / 1000 + 0.5)}
    after = plan(chosen, brief, kitchen, done=done)
    more = after.lots["juice"].volume_ml.typ - before.lots["juice"].volume_ml.typ
    assert more == pytest.approx(500, abs=25)


@pytest.mark.parametrize(
    ("fruit", "form", "where", "days"),
    [
        ("raspberry", "whole", "cool", 1), ("raspberry", "whole", "cold", 3),
        ("medlar", "whole", "cool", 3), ("damson", "frozen", "frozen", 300),
        ("apple", "pomace", "cold", 2), ("hibiscus_dried", "dried", "cool", 365),
    ],
)  # fmt: skip
def test_fruit_waits_as_long_as_its_kind_does(
    fruit: str, form: str, where: waiting.Where, days: float
) -> None:
    assert waiting.waits_days(fruit, form, "ripe", where).typ == days
    assert waiting.waits_days(fruit, form, "over", where).typ <= days


def test_ripeness_is_one_of_three() -> None:
    with pytest.raises(Unknown):
        waiting.waits_days("damson", ripeness="blue")  # type: ignore[arg-type]
