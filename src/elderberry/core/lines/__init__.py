"""Reading lines of a recipe as people say them: "2 1/2 cups honey", "sugar to 46 Brix"."""

from elderberry.core.lines.line import CouldBe, Line, Meaning, NotListed
from elderberry.core.lines.reading import read

__all__ = ["CouldBe", "Line", "Meaning", "NotListed", "read"]
