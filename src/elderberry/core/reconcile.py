"""Reconciling what was measured: do masses, volumes and Brix of a step agree with each other?

Whatever goes in comes out, in mass, in soluble solids and in acid. Measured figures never quite
say so; the least-squares consistent set shows by how much each would have to give, and the one
that would have to give most for its error is the one to look at again.
"""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Literal

import numpy as np

from elderberry.core import sugar
from elderberry.core.errors import CannotTell, check_range
from elderberry.core.numbers import Array

Side = Literal["in", "out"]
Quantity = Literal["mass_g", "volume_ml", "brix", "acid_pct"]

ERRORS: dict[Quantity, tuple[float, float]] = {
    "mass_g": (0.0, 0.01),
    "volume_ml": (0.0, 0.03),
    "brix": (0.3, 0.0),
    "acid_pct": (0.02, 0.05),
}
"""Standard error of each instrument: its unit, and a share of the reading."""
SUSPECT = 2.58
"""Normalised adjustment beyond which a figure is called suspect: one in a hundred by chance."""
_LIMITS = {"mass_g": (0, 1e7), "volume_ml": (0, 1e7), "brix": (0, 90), "acid_pct": (0, 20)}
TIE = 0.92
"""Adjustments this close to the largest are as suspect as it is."""
COARSE: tuple[Quantity, ...] = ("volume_ml", "brix", "acid_pct", "mass_g")
"""Quantities from the coarsest instrument to the finest."""
_VAGUE_BRIX, _ROUNDS = 30.0, 40


@dataclass(frozen=True)
class Measurement:
    """A figure of a lot that went in or came out, with its standard error [its unit].

    Raises:
        OutOfRange: a figure that cannot be.
    """

    lot: str
    side: Side
    quantity: Quantity
    value: float
    error: float | None = None
    assumed: bool = False
    """A prediction that stands in for a figure nobody measured; it is never called suspect."""

    def __post_init__(self) -> None:
        low, high = _LIMITS[self.quantity]
        check_range(self.quantity, self.value, "", low, high)

    @property
    def sigma(self) -> float:
        """Standard error; that of the usual instrument when none was given."""
        if self.error is not None:
            return max(self.error, 1e-9)
        fixed, share = ERRORS[self.quantity]
        return max(fixed + share * self.value, 1e-9)


@dataclass(frozen=True)
class Adjustment:
    """What a measured figure would have to be for all of them to agree."""

    lot: str
    quantity: Quantity
    measured: float
    consistent: float
    normalised: float
    """The change in units of its own standard error, larger is more suspect [-]."""


@dataclass(frozen=True)
class Balanced:
    """A lot in the consistent set: mass_g [g], volume_ml [mL], brix [g/100 g], acid_pct [%]."""

    mass_g: float
    volume_ml: float
    brix: float
    acid_pct: float | None


@dataclass(frozen=True)
class Reconciled:
    """The consistent set, and what had to give for it."""

    lots: dict[str, Balanced]
    adjustments: tuple[Adjustment, ...]
    """Most suspect first; what was only assumed comes last."""
    unexplained_g: float
    """Mass that went in and was not measured coming out [g]; negative where more came out."""
    unexplained_solids_g: float
    suspect: Adjustment | None
    """The most suspect figure, where it is beyond chance."""
    rather: float | None
    """What the other figures say the suspect one should have read."""

    @property
    def agrees(self) -> bool:
        """Whether the figures agree with each other within their errors."""
        return self.suspect is None


def reconcile(measurements: Sequence[Measurement]) -> Reconciled:
    """The least-squares consistent set under conservation of mass, solids and acid.

    Gauss–Newton on masses, Brix and acidities of the lots, with Σ in = Σ out held exactly; the
    normalised adjustment is the residual over its own standard deviation. Where one balance alone
    ties figures together they are all equally suspect, and the coarsest one is named.

    Args:
        measurements: figures of lots, each in or out, of one step or of a whole batch.

    Raises:
        CannotTell: nothing went in, or nothing came out.
        OutOfRange: a figure that cannot be.

    Source: data reconciliation with the measurement test, as in process engineering texts.

    >>> weighed = [Measurement("fruit", "in", "mass_g", 5000),
    ...            Measurement("juice", "out", "mass_g", 2600),
    ...            Measurement("pomace", "out", "mass_g", 2390)]
    >>> reconcile(weighed).agrees
    True
    """
    problem = _Problem.of(measurements)
    state, spread = problem.solve()
    residuals = problem.values - problem.predict(state)[0]
    adjustments = problem.adjustments(state, residuals, spread)
    in_, out = problem.raw("in"), problem.raw("out")
    suspect, rather = _most_suspect(measurements, adjustments)
    return Reconciled(
        lots=problem.balanced(state),
        adjustments=adjustments,
        unexplained_g=in_[0] - out[0],
        unexplained_solids_g=in_[1] - out[1],
        suspect=suspect,
        rather=rather,
    )


def _most_suspect(
    measurements: Sequence[Measurement], adjustments: Sequence[Adjustment]
) -> tuple[Adjustment | None, float | None]:
    """The figure beyond chance to look at again, and what the others say it should have read.

    One balance alone ties figures together. Then the coarser instrument is named first, and of
    two alike the one that the smallest slip would explain.
    """
    assumed = {(m.lot, m.quantity) for m in measurements if m.assumed}
    real = [a for a in adjustments if (a.lot, a.quantity) not in assumed]
    top = max((a.normalised for a in real), default=0.0)
    if top <= SUSPECT:
        return None, None
    tied = [(a, _rather(measurements, a)) for a in real if a.normalised >= TIE * top]

    def slip(pair: tuple[Adjustment, float]) -> tuple[int, float]:
        adjustment, rather = pair
        change = abs(np.log(max(rather, 1e-6) / max(adjustment.measured, 1e-6)))
        return COARSE.index(adjustment.quantity), float(change)

    return min(tied, key=slip)


def _rather(measurements: Sequence[Measurement], suspect: Adjustment) -> float:
    """The suspect figure as the others alone would have it."""
    others = [m for m in measurements if (m.lot, m.quantity) != (suspect.lot, suspect.quantity)]
    try:
        found = reconcile_lots(others).get(suspect.lot)
    except CannotTell:
        found = None
    value = getattr(found, suspect.quantity) if found else None
    return suspect.consistent if value is None else float(value)


def reconcile_lots(measurements: Sequence[Measurement]) -> dict[str, Balanced]:
    """Only the consistent set: each lot's mass, volume, Brix and acidity."""
    problem = _Problem.of(measurements)
    state, _ = problem.solve()
    return problem.balanced(state)


@dataclass(frozen=True)
class _Problem:
    """Lots as unknowns: masses first, then Brix, then acidities where any was measured."""

    lots: tuple[str, ...]
    sign: Array
    measurements: tuple[Measurement, ...]
    acid: bool

    @classmethod
    def of(cls, measurements: Sequence[Measurement]) -> _Problem:
        sides = {m.lot: m.side for m in measurements}
        if set(sides.values()) != {"in", "out"}:
            raise CannotTell("something has to go in and something has to come out")
        lots = tuple(sides)
        sign = np.array([1.0 if sides[lot] == "in" else -1.0 for lot in lots])
        acid = any(m.quantity == "acid_pct" for m in measurements)
        return cls(lots, sign, tuple(measurements), acid)

    @property
    def values(self) -> Array:
        return np.array([m.value for m in self.measurements])

    @property
    def sigmas(self) -> Array:
        return np.array([m.sigma for m in self.measurements])

    def _measured(self, lot: str, quantity: Quantity) -> float | None:
        found = [m.value for m in self.measurements if (m.lot, m.quantity) == (lot, quantity)]
        return found[-1] if found else None

    def start(self) -> Array:
        """A first guess: what was measured, and for the rest what is left over."""
        brixes = [m.value for m in self.measurements if m.quantity == "brix"]
        usual = float(np.mean(brixes)) if brixes else 12.0
        brix = [self._measured(lot, "brix") for lot in self.lots]
        filled = [usual if b is None else b for b in brix]
        masses = [self._mass(lot, b) for lot, b in zip(self.lots, filled, strict=True)]
        known = sum(s * m for s, m in zip(self.sign, masses, strict=True) if m is not None)
        open_lots = [i for i, m in enumerate(masses) if m is None]
        guess = max(1.0, abs(known) / max(1, len(open_lots)))
        start = [guess if m is None else m for m in masses] + filled
        if self.acid:
            sours = [m.value for m in self.measurements if m.quantity == "acid_pct"]
            measured = [self._measured(lot, "acid_pct") for lot in self.lots]
            start += [float(np.mean(sours)) if a is None else a for a in measured]
        return np.array(start)

    def _mass(self, lot: str, brix: float) -> float | None:
        mass = self._measured(lot, "mass_g")
        if mass is not None:
            return mass
        volume = self._measured(lot, "volume_ml")
        return None if volume is None else volume * float(_density(np.array([brix]))[0][0])

    def predict(self, state: Array) -> tuple[Array, Array]:
        """What the instruments would read of a state, and how that changes with every unknown."""
        n = len(self.lots)
        mass, brix = state[:n], state[n : 2 * n]
        rho, slope = _density(brix)
        read, jacobian = (
            np.empty(len(self.measurements)),
            np.zeros((len(self.measurements), len(state))),
        )
        for row, m in enumerate(self.measurements):
            i = self.lots.index(m.lot)
            if m.quantity == "volume_ml":
                read[row] = mass[i] / rho[i]
                jacobian[row, i] = 1.0 / rho[i]
                jacobian[row, n + i] = -mass[i] * slope[i] / rho[i] ** 2
            else:
                place = {"mass_g": 0, "brix": 1, "acid_pct": 2}[m.quantity] * n + i
                read[row], jacobian[row, place] = state[place], 1.0
        return read, jacobian

    def balance(self, state: Array) -> tuple[Array, Array]:
        """What goes in less what comes out (mass, solids, acid if it was read), and its slope."""
        n = len(self.lots)
        mass = state[:n]
        rows, slopes = [self.sign @ mass], [np.concatenate([self.sign, np.zeros(len(state) - n)])]
        for part in range(1, len(state) // n):
            share = state[part * n : (part + 1) * n] / 100.0
            slope = np.zeros(len(state))
            slope[:n] = self.sign * share
            slope[part * n : (part + 1) * n] = self.sign * mass / 100.0
            rows.append(self.sign @ (mass * share))
            slopes.append(slope)
        return np.array(rows), np.array(slopes)

    def solve(self) -> tuple[Array, Array]:
        """The consistent state, and the variance of every residual."""
        state = self.start()
        prior, scale = state.copy(), self._vague(state)
        weights = 1.0 / self.sigmas**2
        jac = cons = np.zeros((0, 0))
        for _ in range(_ROUNDS):
            (read, jac), (left, cons) = self.predict(state), self.balance(state)
            normal = jac.T @ (weights[:, None] * jac) + np.diag(1.0 / scale**2)
            pull = jac.T @ (weights * (self.values - read)) + (prior - state) / scale**2
            size = len(cons)
            matrix = np.block([[normal, cons.T], [cons, np.zeros((size, size))]])
            step = np.linalg.lstsq(matrix, np.concatenate([pull, -left]), rcond=None)[0]
            before, state = state, np.maximum(state + step[: len(state)], 0.0)
            if np.max(np.abs(state - before) / (np.abs(state) + 1e-2)) < 1e-9:
                break
        return state, self._residual_variance(jac, cons, scale)

    def _vague(self, state: Array) -> Array:
        """How little is known of an unknown that nobody measured."""
        n = len(self.lots)
        total = float(np.sum(state[:n]))
        scale = np.concatenate([np.full(n, 100.0 * total), np.full(n, _VAGUE_BRIX * 10)])
        return np.concatenate([scale, np.full(n, 50.0)]) if self.acid else scale

    def _residual_variance(self, jac: Array, cons: Array, scale: Array) -> Array:
        weights = 1.0 / self.sigmas**2
        normal = jac.T @ (weights[:, None] * jac) + np.diag(1.0 / scale**2)
        free = np.linalg.svd(cons)[2][np.linalg.matrix_rank(cons) :].T
        inner = free.T @ normal @ free
        covariance = free @ np.linalg.pinv(inner) @ free.T
        explained = np.einsum("ij,jk,ik->i", jac, covariance, jac)
        return np.asarray(np.maximum(self.sigmas**2 - explained, 0.0))

    def adjustments(self, state: Array, residuals: Array, spread: Array) -> tuple[Adjustment, ...]:
        """Every measured figure with its adjustment, most suspect first."""
        predicted = self.predict(state)[0]
        found = []
        for m, to, residual, variance in zip(
            self.measurements, predicted, residuals, spread, strict=True
        ):
            redundant = variance > 1e-6 * m.sigma**2
            score = abs(float(residual)) / float(np.sqrt(variance)) if redundant else 0.0
            found.append((Adjustment(m.lot, m.quantity, m.value, float(to), score), m))
        found.sort(key=lambda pair: (pair[1].assumed, -pair[0].normalised))
        return tuple(adjustment for adjustment, _ in found)

    def balanced(self, state: Array) -> dict[str, Balanced]:
        """The consistent lots by name."""
        n = len(self.lots)
        rho = _density(state[n : 2 * n])[0]
        return {
            lot: Balanced(
                float(state[i]), float(state[i] / rho[i]), float(state[n + i]),
                float(state[2 * n + i]) if self.acid else None,
            )
            for i, lot in enumerate(self.lots)
        }  # fmt: skip

    def raw(self, side: Side) -> tuple[float, float]:
        """Mass and solids of one side as they were measured [g]; nothing for what was not."""
        start, n = self.start(), len(self.lots)
        chosen = self.sign > 0 if side == "in" else self.sign < 0
        mass = np.array([self._mass(lot, start[n + i]) or 0.0 for i, lot in enumerate(self.lots)])
        return float(mass[chosen].sum()), float((mass * start[n : 2 * n])[chosen].sum() / 100.0)


def _density(brix: Array) -> tuple[Array, Array]:
    """Densities [g/mL] and their slope, at a Brix that a search may carry out of range."""
    inside = np.clip(brix, 0.0, 84.0)
    rho = np.asarray(sugar.apparent_density_kg_m3(inside)) / 1000.0
    ahead = np.asarray(sugar.apparent_density_kg_m3(inside + 0.01)) / 1000.0
    return rho, (ahead - rho) / 0.01
