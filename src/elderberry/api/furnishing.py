"""The Kitchen screen: changing the place, what stands in it, what is in stock, and who cooks."""

from __future__ import annotations

from fastapi import APIRouter

from elderberry.api.deps import Chosen, Person, Transaction
from elderberry.api.once import ChangeRoute
from elderberry.api.sent.furnishing import (
    EffectAsk,
    JarCountPut,
    KitchenUpdate,
    LidCountPut,
    PlacePut,
    StationPut,
    VesselPut,
)
from elderberry.api.sent.people import HoursPut, NewPasswordPut, PersonCreate
from elderberry.services.household import furnishing, kitchen_view, kitchens
from elderberry.services.household.kitchen_view import Effect, KitchenView
from elderberry.services.shelf import shelf

router = APIRouter(prefix="/api/kitchen", tags=["kitchen"], route_class=ChangeRoute)


@router.patch("")
def change(sent: KitchenUpdate, orm: Transaction, who: Person) -> KitchenView:
    """Change the kitchen itself."""
    furnishing.change_kitchen(orm, who, sent.changes())
    return kitchen_view.view(orm, who)


@router.post("/effect")
def effect(sent: EffectAsk, orm: Transaction, who: Person) -> Effect:
    """What another altitude or barometer reading would do, kept nowhere."""
    pressure = None if sent.pressure_hpa is None else 100.0 * sent.pressure_hpa
    heater = kitchens.for_core(orm, who).canner.heater
    return kitchen_view.effect(sent.altitude_m, pressure, heater)


@router.post("/stations", status_code=201)
def add_station(sent: StationPut, orm: Transaction, who: Person) -> KitchenView:
    """A new station."""
    furnishing.put(orm, who, "station", None, sent.model_dump())
    return kitchen_view.view(orm, who)


@router.put("/stations/{station_id}")
def put_station(station_id: int, sent: StationPut, orm: Transaction, who: Person) -> KitchenView:
    """Other figures of a station."""
    furnishing.put(orm, who, "station", station_id, sent.model_dump())
    return kitchen_view.view(orm, who)


@router.delete("/stations/{station_id}")
def drop_station(station_id: int, orm: Transaction, who: Person) -> KitchenView:
    """A station is gone."""
    furnishing.drop_station(orm, who, station_id)
    return kitchen_view.view(orm, who)


@router.post("/vessels", status_code=201)
def add_vessel(sent: VesselPut, orm: Transaction, who: Person) -> KitchenView:
    """New pots, bowls or jugs."""
    furnishing.put(orm, who, "vessel", None, sent.model_dump())
    return kitchen_view.view(orm, who)


@router.put("/vessels/{vessel_id}")
def put_vessel(vessel_id: int, sent: VesselPut, orm: Transaction, who: Person) -> KitchenView:
    """Other figures of a vessel."""
    furnishing.put(orm, who, "vessel", vessel_id, sent.model_dump())
    return kitchen_view.view(orm, who)


@router.delete("/vessels/{vessel_id}")
def drop_vessel(vessel_id: int, orm: Transaction, who: Person) -> KitchenView:
    """A vessel is gone."""
    furnishing.drop_vessel(orm, who, vessel_id)
    return kitchen_view.view(orm, who)


@router.post("/places", status_code=201)
def add_place(sent: PlacePut, orm: Transaction, who: Person) -> KitchenView:
    """A new place for jars."""
    furnishing.put(orm, who, "place", None, sent.model_dump())
    return kitchen_view.view(orm, who)


@router.put("/places/{place_id}")
def put_place(place_id: int, sent: PlacePut, orm: Transaction, who: Person) -> KitchenView:
    """Another temperature, name or room of a place."""
    furnishing.put(orm, who, "place", place_id, sent.model_dump())
    shelf.place_changed(orm, who, place_id)
    return kitchen_view.view(orm, who)


@router.delete("/places/{place_id}")
def drop_place(place_id: int, orm: Transaction, who: Person) -> KitchenView:
    """A place is gone."""
    furnishing.drop_place(orm, who, place_id)
    return kitchen_view.view(orm, who)


@router.put("/jars/{kind}/lids")
def count_lids(kind: str, sent: LidCountPut, orm: Transaction, who: Person) -> KitchenView:
    """How many lids of a closure and a colour there are for a kind of jar."""
    furnishing.count_lids(orm, who, kind, sent.closure, sent.colour, sent.count, sent.packet)
    return kitchen_view.view(orm, who)


@router.put("/jars/{kind}")
def count_jars(kind: str, sent: JarCountPut, orm: Transaction, who: Person) -> KitchenView:
    """How many jars and lids of a kind stand ready."""
    furnishing.count_jars(orm, who, kind, sent.jars, sent.lids, sent.packet)
    return kitchen_view.view(orm, who)


@router.post("/people", status_code=201)
def add_person(sent: PersonCreate, orm: Transaction, who: Person, chosen: Chosen) -> KitchenView:
    """Someone joins the household."""
    furnishing.add_person(orm, who, furnishing.NewPerson(**sent.model_dump()), chosen.hashing)
    return kitchen_view.view(orm, who)


@router.put("/people/{person_id}/password", status_code=204)
def give_password(
    person_id: int, sent: NewPasswordPut, orm: Transaction, who: Person, chosen: Chosen
) -> None:
    """Another password for somebody who forgot theirs; they are signed out everywhere."""
    furnishing.give_password(orm, who, person_id, sent.password, chosen.hashing)


@router.delete("/people/{person_id}/sessions", status_code=204)
def sign_person_out(person_id: int, orm: Transaction, who: Person) -> None:
    """Sign somebody of the household out everywhere, as after a phone was lost."""
    furnishing.sign_out(orm, who, person_id)


@router.put("/people/{person_id}/hours")
def set_hours(person_id: int, sent: HoursPut, orm: Transaction, who: Person) -> KitchenView:
    """When someone cooks."""
    furnishing.set_hours(orm, who, person_id, sent.model_dump())
    return kitchen_view.view(orm, who)
