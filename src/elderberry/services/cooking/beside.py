"""Two batches beside each other: why one set thicker than the other."""

from __future__ import annotations

from sqlalchemy.orm import Session as Orm

from elderberry.core import compare
from elderberry.services.cooking.batch_view import picked_on
from elderberry.services.cooking.folder import Folder, folder_of
from elderberry.services.cooking.shown import BesideView
from elderberry.services.errors import Conflict
from elderberry.services.who import Who


def beside(orm: Orm, who: Who, batch_id: int, other_id: int) -> BesideView:
    """What a batch is otherwise than another, ranked by what it explains.

    Raises:
        NotFound: one of them is missing, or another household's.
        Conflict: one of them has nothing in jars that could be compared.
    """
    one, other = folder_of(orm, who, batch_id), folder_of(orm, who, other_id)
    found = compare.differences(_figures(one), _figures(other))
    return BesideView(
        one.batch.code, other.batch.code, other.batch.title, compare.thicker(found),
        [d.words for d in found],
    )  # fmt: skip


def _figures(folder: Folder) -> compare.Figures:
    standing = folder.standing
    contents = standing.contents(standing.fillings[0]) if standing.fillings else None
    if contents is None:
        words = f"Nothing is known of what is in the jars of {folder.batch.code}."
        raise Conflict("nothing-to-compare", words)
    return compare.figures(contents, picked_on(folder))
