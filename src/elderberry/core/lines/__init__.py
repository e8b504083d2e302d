"""Reading lines of a recipe as people say them: "2 1/2 cups honey", "sugar to 46 Brix"."""

from elderberry.core.lines.line import CouldBe, Line, Meaning, NotListed
from elderberry.core.lines.reading import read
from elderberry.core.lines.taste import to_taste_g_per_l

__all__ = ["CouldBe", "Line", "Meaning", "NotListed", "read", "to_taste_g_per_l"]
