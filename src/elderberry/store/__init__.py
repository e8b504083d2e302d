"""Tables, migrations and queries on MariaDB; knows the core's types and nothing above it."""

from elderberry.store.base import Base
from elderberry.store.batch import Batch, Operation, OperationLot
from elderberry.store.change import ChangeMade
from elderberry.store.cycle_seen import CycleSeen
from elderberry.store.event import Event, Reading
from elderberry.store.feed import Feed
from elderberry.store.household import Household, Kitchen
from elderberry.store.jar import Jar, JarStock, LidStock, Stack
from elderberry.store.lot import Lot
from elderberry.store.method import OwnMethod
from elderberry.store.own_ingredient import OwnIngredient
from elderberry.store.own_process import OwnProcessEntry
from elderberry.store.pace_seen import PaceSeen
from elderberry.store.person import KnownBrowser, Person, Session, SignInTry
from elderberry.store.place import Place, PlaceDay
from elderberry.store.row_taken import RowTaken
from elderberry.store.serving import Serving
from elderberry.store.station import Station
from elderberry.store.tasted import Tasted
from elderberry.store.vessel import Vessel
from elderberry.store.yield_seen import YieldSeen

__all__ = [
    "Base",
    "Batch",
    "ChangeMade",
    "CycleSeen",
    "Event",
    "Feed",
    "Household",
    "Jar",
    "JarStock",
    "Kitchen",
    "KnownBrowser",
    "LidStock",
    "Lot",
    "Operation",
    "OperationLot",
    "OwnIngredient",
    "OwnMethod",
    "OwnProcessEntry",
    "PaceSeen",
    "Person",
    "Place",
    "PlaceDay",
    "Reading",
    "RowTaken",
    "Serving",
    "Session",
    "SignInTry",
    "Stack",
    "Station",
    "Tasted",
    "Vessel",
    "YieldSeen",
]
