"""What meters have shown of a lot and of all that went into it. A high reading is not forgotten."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass, replace


@dataclass(frozen=True)
class Shown:
    """A meter's pH of something upstream, and what has been done and read since.

    solids_g: fruit solids of what it was read of [g]. acid: whether acid of constant strength has
    gone in since. after, after_acid: the newest later reading of all that is now there; at all,
    and since acid went in. lemon: whether lemon joined after it was read.
    """

    ph: float
    solids_g: float
    acid: bool = False
    lemon: bool = False
    after: float | None = None
    after_acid: float | None = None

    def read_again(self, ph: float) -> Shown:
        """The same once what it is in now was read."""
        return replace(self, after=ph, after_acid=ph if self.acid else None)

    def stands_over(self, limit: float, fruit_solids_g: float, citrus: bool) -> bool:
        """Whether it shuts the way for a process that was tested up to a limit.

        A part that makes under half of the fruit solids, and what went into a citrus concentrate
        before its lemon, is answered by a later reading alone; anything else asks for acid too.
        """
        if self.ph <= limit:
            return False
        answer = self.after if self._minor(fruit_solids_g, citrus) else self.after_acid
        return answer is None or answer > limit

    def waits(self, fruit_solids_g: float, citrus: bool) -> bool:
        """Whether only a reading of what is now there is missing, so that Cook can still ask it."""
        return self.after is None and (self.acid or self._minor(fruit_solids_g, citrus))

    def _minor(self, fruit_solids_g: float, citrus: bool) -> bool:
        return self.solids_g < 0.5 * fruit_solids_g or (citrus and self.lemon)


@dataclass(frozen=True)
class Acidity:
    """The readings of a lot: what a meter says of it now, and every one that stands upstream."""

    meter: float | None = None
    """A meter's pH that holds for it: its own, or that of what it is but for sugar and acid."""
    shown: tuple[Shown, ...] = ()

    def read(self, ph: float, fruit_solids_g: float) -> Acidity:
        """The same once a meter has shown its pH."""
        again = tuple(s.read_again(ph) for s in self.shown)
        return Acidity(ph, (*again, Shown(ph, fruit_solids_g)))

    def acidified(self, lemon: bool = False) -> Acidity:
        """The same once acid of constant strength has gone in: a reading still holds."""
        return Acidity(
            self.meter, tuple(replace(s, acid=True, lemon=s.lemon or lemon) for s in self.shown)
        )

    def joined(self, lemon: bool = False) -> Acidity:
        """The same once something has gone in that is neither sugar nor acid: none holds now."""
        shown = tuple(
            replace(s, after=None, after_acid=None, lemon=s.lemon or lemon) for s in self.shown
        )
        return Acidity(None, shown)


def together(parts: Iterable[Acidity]) -> Acidity:
    """Several lots poured together: the least sharp of their readings, if every one was read.

    >>> together([Acidity(3.1), Acidity(3.4)]).meter, together([Acidity(3.1), Acidity()]).meter
    (3.4, None)
    """
    known = list(parts)
    if len(known) == 1:
        return known[0]
    meters = [a.meter for a in known]
    meter = None if None in meters else max((m for m in meters if m is not None), default=None)
    # A reading that stood after a high one was of its own part alone.
    shown = tuple(
        s if s.after is None else replace(s, after=None, after_acid=None)
        for a in known
        for s in a.shown
    )
    return Acidity(meter, tuple(dict.fromkeys(shown)))
