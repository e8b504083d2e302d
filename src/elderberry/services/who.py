"""Who asks: the signed-in person and their household."""

from __future__ import annotations

from dataclasses import dataclass

from elderberry.store import Person


@dataclass(frozen=True)
class Who:
    """The signed-in person; every query goes through household_id."""

    household_id: int
    person_id: int
    name: str
    role: str

    @classmethod
    def of(cls, person: Person) -> Who:
        """A person as whoever asks."""
        return cls(person.household_id, person.id, person.name, person.role)
