"""Somebody who presses anything at any time."""

from __future__ import annotations

import random
from collections.abc import Callable
from datetime import timedelta

from sqlalchemy.orm import Session as Orm

from elderberry.core import jars
from elderberry.core.batch.lifecycle import Phase
from elderberry.core.errors import CoreError
from elderberry.services.cooking import batch_view, endings, steps
from elderberry.services.cooking.folder import Folder
from elderberry.services.errors import ServiceError
from elderberry.store import Operation
from tests.factories import NOON, Work, household, reading, request

WAYS = (
    ("damson", "steam_juiced", "whole"), ("apple", "pressed_apple", "whole"),
    ("redcurrant", "simmered_redcurrant", "whole"), ("gooseberry", "weighted_gooseberry", "whole"),
    ("redcurrant", "redcurrants_in_the_jar", "whole"), ("rosehip", "rosehip_steep", "whole"),
    ("elderberry", "steam_juiced", "whole"), ("apple", "bought_juice", "juice"),
)  # fmt: skip
READ = {
    "volume_ml": ("jug", 300, 4000), "mass_g": ("scale", 500, 6000),
    "brix": ("refractometer", 5, 20), "temp_c": ("thermometer", 60, 99),
    "ph": ("ph_meter", 2.7, 4.6), "depth_cm": ("ruler", 2, 20),
}  # fmt: skip


class Hands:
    """Somebody who presses whatever there is to press, often what makes sense, often not."""

    def __init__(self, orm: Orm, seed: int) -> None:
        self.dice = random.Random(seed)
        fruit, method, form = WAYS[seed % len(WAYS)]
        keep = "shelf" if fruit not in {"elderberry", "rosehip"} else "chill"
        self.who = household(orm)
        asked = request(fruit, 3.0, method_key=method, form=form, keep=keep)
        self.work, self.orm, self.now = Work(orm, self.who, asked), orm, NOON
        self.refusals: list[str] = []

    def press(self) -> None:
        """One press, at a later moment; a refusal is taken as it is."""
        self.now += timedelta(minutes=self.dice.choice((0, 1, 5, 20, 60, 60, 800)))
        folder = self.work.folder
        operation = self._step(folder)
        act = self.dice.choice(
            (self._start, self._done, self._done, self._boil, self._look, self._odd)
        )
        try:
            with self.orm.begin_nested():
                act(operation)
        except (CoreError, ServiceError) as refusal:
            self.refusals.append(str(refusal))

    def _step(self, folder: Folder) -> Operation:
        """The step that is next, or now and then any other."""
        open_ = [o for o in folder.operations if folder.phase(o) in {Phase.WAITING, Phase.RUNNING}]
        if open_ and self.dice.random() < 0.8:
            return open_[0]
        return self.dice.choice(folder.operations)

    def _start(self, operation: Operation) -> None:
        self.work.do(operation.key, self._at(), steps.start)

    def _done(self, operation: Operation) -> None:
        said = self._fill() if operation.kind == "fill" else self._read(operation)
        self.work.do(operation.key, self._at(), lambda made: steps.finish(made, said))

    def _boil(self, operation: Operation) -> None:
        reached = self.dice.random() < 0.8
        self.work.do(operation.key, self._at(), lambda made: steps.boil(made, reached=reached))

    def _look(self, _: Operation) -> None:
        jars_ = self.work.folder.jars
        checks = [o.key for o in self.work.folder.operations if o.kind == "seal_check"]
        if jars_ and checks:
            number = self.dice.randrange(len(jars_))
            way_on = self.dice.choice((None, "reprocess", "chill", "freeze"))
            self.work.look(number, self._at(), held=self.dice.random() < 0.7, way_on=way_on)

    def _odd(self, operation: Operation) -> None:
        """What is pressed less often: more time, a note, a reading, or the cold after all."""
        if self.dice.random() < 0.05:
            endings.divert(self.orm, self.who, self.work.batch.id, "chill", self.now)
            return
        quantity = self.dice.choice(list(READ))
        instrument, low, high = READ[quantity]
        entry = reading(quantity, round(self.dice.uniform(low, high), 2), instrument)
        acts: tuple[Callable[[steps.Change], None], ...] = (
            lambda made: steps.lengthen(made, 5, "hard fruit"),
            lambda made: steps.note(made, "refilled", ""),
            lambda made: steps.take_reading(made, entry),
        )
        chosen = self.dice.choice(acts)
        self.work.do(operation.key, self._at(), chosen)

    def _at(self) -> float:
        return (self.now - NOON).total_seconds() / 60

    def _read(self, operation: Operation) -> steps.Finish:
        view = batch_view.view(self.orm, self.who, self.work.folder.batch)
        asks = next(s.asks for s in view.steps if s.id == operation.id)
        said = []
        for ask in asks:
            instrument, low, high = READ[ask.quantity]
            near = ask.predicted.typ * self.dice.uniform(0.9, 1.1) if ask.predicted else high
            if self.dice.random() < 0.9:
                said.append(reading(ask.quantity, max(low, min(near, high)), instrument))
        return steps.Finish(readings=tuple(said))

    def _fill(self) -> steps.Finish:
        kind = self.dice.choice(("pint", "pint", "half_pint", "quart"))
        size = jars.kind(kind).nominal_ml
        standing = self.work.folder.standing
        most = int(standing.hot_ml(standing.fillings[0]) / size)
        count = max(0, most - self.dice.choice((0, 0, 1, 20)))
        part = self.dice.choice((0.0, 120.0))
        return steps.Finish(
            jars=(steps.JarEntry(kind, count),), part_kind=kind if part else None, part_ml=part,
            said=(*self.dice.choice(((), ("lid_used_before",), ("headspace_off",))),
                  *self.dice.choice(((), (steps.LIQUID_BOILED,)))),
        )  # fmt: skip
