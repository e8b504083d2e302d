"""Reading a batch: rows and events in, views out. Nothing here changes anything."""

from __future__ import annotations

from datetime import date

from sqlalchemy.orm import Session as Orm

from elderberry.core import colour, jelly, keeping
from elderberry.core.batch.rows import OperationRow
from elderberry.core.batch.standing import Standing, words
from elderberry.core.estimates import Estimate
from elderberry.core.flow.inputs import Input
from elderberry.core.flow.kinds import kind
from elderberry.core.flow.rows import estimate_of
from elderberry.core.mishaps import FIRST_AID
from elderberry.core.telling import told
from elderberry.services.cooking import balances, endings, jar_view, lot_view, step_view, undo
from elderberry.services.cooking.folder import Folder, opened, title
from elderberry.services.cooking.shown import BatchEnd, BatchView, LineageView
from elderberry.services.planning.end_view import JarCount, ProcessView, becomes
from elderberry.services.planning.plan_view import FlowOperation, InputView, method_view
from elderberry.services.who import Who
from elderberry.store import Batch, Operation


def view(orm: Orm, who: Who, batch: Batch) -> BatchView:
    """A batch as Cook shows it."""
    return of(opened(orm, who, batch))


def of(folder: Folder) -> BatchView:
    """A batch as Cook shows it, of its folder."""
    batch = folder.batch
    standing, brief = folder.standing, folder.brief
    fill = standing.fillings[0]
    juice, drawn = standing.juice_ml(fill)
    generous = batch.predicted["generous"]
    return BatchView(
        id=batch.id,
        code=batch.code,
        title=batch.title,
        inputs=[_input(folder, given) for given in brief.inputs],
        ends=[_end(standing, f) for f in standing.fillings],
        colour=brief.colour,
        source=brief.main.source,
        picked_on=picked_on(folder),
        method=method_view(folder.method, batch.method_key.startswith("own_"), folder.units),
        started_at=batch.started_at,
        started_by=folder.people.get(batch.started_by, ""),
        version=batch.version,
        finished=standing.finished,
        became=endings.came_of(folder),
        steps=[step_view.of(folder, o) for o in folder.operations],
        lots=[lot_view.of(folder, lot) for lot in folder.lots.values()],
        operations=[_flow_operation(folder, o) for o in folder.operations],
        jars=jar_view.views(folder.orm, folder.who, folder.jars),
        juice_l=juice.scaled(0.001),
        juice_measured_l=drawn / 1000,
        jars_ready=[JarCount(**jar) for jar in generous["jars"]],
        process=ProcessView(**batch.process) if batch.process else None,
        findings=[told(f, folder.units) for f in standing.cautions if f.place in {"", "fruit"}],
        press=undo.last_press(folder),
        first_aid=FIRST_AID,
    )


def inputs(folder: Folder) -> list[InputView]:
    """Everything that went in."""
    return [_input(folder, given) for given in folder.brief.inputs]


def lineage(folder: Folder) -> LineageView:
    """The flow as it went, of a batch's folder."""
    return folder.once("lineage", lambda: _lineage(folder))


def _lineage(folder: Folder) -> LineageView:
    balanced = (balances.of_step(folder, o) for o in folder.operations)
    return LineageView(
        id=folder.batch.id,
        code=folder.batch.code,
        title=folder.batch.title,
        inputs=[_input(folder, given) for given in folder.brief.inputs],
        source=folder.brief.main.source,
        picked_on=picked_on(folder),
        started_by=folder.people.get(folder.batch.started_by, ""),
        lots=[lot_view.of(folder, lot) for lot in folder.lots.values()],
        operations=[_flow_operation(folder, o) for o in folder.operations],
        jars=len(folder.jars),
        became=endings.came_of(folder),
        unexplained_kg=sum(b.unexplained_kg for b in balanced if b),
    )


def picked_on(folder: Folder) -> date | None:
    """The day the main thing was picked, where that was said."""
    main = folder.brief.main.key
    return next((lot.picked_on for lot in folder.lots.values() if lot.key == main), None)


def _input(folder: Folder, given: Input) -> InputView:
    """Something that went in, as it was weighed or came to be."""
    lot = next((lot for lot in folder.lots.values() if lot.key == given.key), None)
    mass = estimate_of(lot.predicted["mass_g"]) if lot else given.amount.grams
    return InputView(
        given.key, given.material, given.name, given.form, given.amount.said,
        mass or Estimate(0.0, 0.0, 0.0), colour.of_material(given.material), given.amount.how,
    )  # fmt: skip


def _end(standing: Standing, fill: OperationRow) -> BatchEnd:
    """An end as it stands."""
    contents = standing.contents(fill)
    product = keeping.product_word(contents) if contents else "juice"
    litres, keep = standing.juice_ml(fill)[0].scaled(0.001), standing.end(fill).keep
    said = becomes(contents, keep, standing.kitchen) if contents else []
    sets = jelly.forecast(contents) if contents else None
    dry_g = contents.lot.mass_g if contents and contents.lot.loose else None
    return BatchEnd(fill.key, fill.id, product, keep, litres, dry_g, said, sets)


def _flow_operation(folder: Folder, operation: Operation) -> FlowOperation:
    edges = folder.edges[operation.id]
    return FlowOperation(
        key=operation.key,
        kind=operation.kind,
        verb=words(operation, "verb", folder.units),
        title=title(operation, folder.units),
        minutes=Estimate(operation.minutes_lo, operation.minutes, operation.minutes_hi),
        takes=[folder.lots[i].key for i in edges["in"]],
        gives=[folder.lots[i].key for i in edges["out"]],
        step=operation.params.get("step", ""),
        role=kind(operation.kind).role,
        station=kind(operation.kind).station,
        hands=words(operation, "hands", folder.units),
        before=words(operation, "before", folder.units),
        look_for=words(operation, "look_for", folder.units),
    )
