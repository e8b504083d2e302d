"""Who may do what, for every route: this table and nothing else decides.

Everybody of a household looks and asks. Helpers and keepers change what they work on. What
decides over safety and people is a keeper's: the place and its altitude, tested processes, who may
come in.
"""

from __future__ import annotations

from elderberry.api.gate import CHANGES
from elderberry.services.errors import NotAllowed
from elderberry.services.who import Who

Route = tuple[str, str]
"""Verb and address with its names in braces."""

ASKS: frozenset[Route] = frozenset({
    ("POST", "/api/plans"),
    ("POST", "/api/plans/costs"),
    ("POST", "/api/plans/shopping"),
    ("POST", "/api/plans/shopping.pdf"),
    ("POST", "/api/plans/card.pdf"),
    ("POST", "/api/plans/sweeteners"),
    ("POST", "/api/plans/marks"),
    ("POST", "/api/lines"),
    ("POST", "/api/amounts"),
    ("POST", "/api/flows"),
    ("POST", "/api/recipes"),
    ("POST", "/api/found/lines"),
    ("POST", "/api/kitchen/effect"),
    ("POST", "/api/jars/{jar_id}/drink"),
    ("POST", "/api/keeping/backup"),
})  # fmt: skip
"""What is sent only to be reckoned with, and a backup: no row of a household is another for it."""
KEEPERS: frozenset[Route] = frozenset({
    ("PATCH", "/api/kitchen"),
    ("POST", "/api/own-processes"),
    ("POST", "/api/kitchen/people"),
    ("PUT", "/api/kitchen/people/{person_id}/password"),
    ("DELETE", "/api/kitchen/people/{person_id}/sessions"),
    ("PUT", "/api/keeping/nightly"),
    ("POST", "/api/keeping/backup"),
    ("GET", "/api/keeping/archive.zip"),
})  # fmt: skip
"""What only a keeper does."""


def is_change(route: Route) -> bool:
    """Whether anything is kept of what is sent there."""
    return route[0] in CHANGES and route not in ASKS


def check(who: Who, route: Route) -> None:
    """Refuse what a person of this role does not do.

    Raises:
        NotAllowed: with what to do instead.
    """
    if who.role == "keeper":
        return
    if is_change(route) and who.role == "guest":
        raise NotAllowed("A guest looks on and plans. Ask a keeper to make you a helper.")
    if route in KEEPERS:
        raise NotAllowed("Only a keeper of this household does that. Ask one.")
