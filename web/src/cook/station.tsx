import { useState } from "react";
import { useChange } from "@/api/changes";
import type { BatchView, MishapView, StepView } from "@/api/types";
import type { Act } from "@/cook/act";
import { AtBench } from "@/cook/at-bench";
import { BesidesPlan } from "@/cook/besides";
import { Caramel } from "@/cook/caramel";
import { ColdPlate } from "@/cook/cold-plate";
import { Drawing } from "@/cook/drawing";
import { FinishSheet } from "@/cook/finish-sheet";
import { Headspace } from "@/cook/headspace";
import { InsideJar } from "@/cook/inside-jar";
import { MoreTimeSheet } from "@/cook/more-time";
import { Pan } from "@/cook/pan";
import { Presses, type Sheet } from "@/cook/presses";
import { Burns, Happened, ProblemSheet } from "@/cook/problem";
import { ProcessCard } from "@/cook/process-card";
import { ReadingSheet } from "@/cook/reading-sheet";
import { Seals } from "@/cook/seals";
import { Timer } from "@/cook/timer";
import { Together } from "@/cook/together";
import { Trays } from "@/cook/trays";
import { litresRange } from "@/lib/format";
import { TraceCurve } from "@/probe/curve";
import { TakeTrace } from "@/probe/take";
import { Button } from "@/ui/button";
import { Said } from "@/ui/notice";
import { FindingRow } from "@/ui/verdict";

/** Roles whose own picture stands in the place of the drawing. */
const UNDRAWN = new Set(["check", "caramel"]);

/** One station: what is on, how long, what to look for, and the large buttons. */
export function Station({ batch, step }: { batch: BatchView; step: StepView }) {
  const change = useChange(batch.id);
  const [sheet, setSheet] = useState<Sheet>(null);
  const [happened, setHappened] = useState<MishapView | null>(null);
  const act: Act = (what, then) =>
    change.mutate(what, {
      onSuccess: () => {
        setSheet(null);
        then?.();
      },
    });
  const instead = (what: string) => {
    const heat = batch.steps.find((s) => s.may_repeat);
    if (what === "again=heat" && heat) {
      act({ act: "again", step: heat.id });
      return;
    }
    const keep = what.replace("keep=", "");
    if (keep === "chill" || keep === "freeze") act({ act: "ending", keep });
  };
  const open = (which: Sheet) => {
    change.reset();
    setSheet(which);
  };
  return (
    <section aria-label={step.title} className="border-elder border-t-6 pt-3">
      <div className="flex items-baseline justify-between gap-4">
        <h2 className="text-2xl text-ink">{step.title}</h2>
        <span className="hidden text-lg text-slate wide:inline">{step.station?.name}</span>
      </div>
      {happened && <Happened mishap={happened} onRead={() => setHappened(null)} />}
      <div className="mt-3 grid gap-x-8 gap-y-4 wide:grid-cols-[14rem_1fr]">
        {step.plate ? (
          <Timer step={step} />
        ) : (
          <div className={UNDRAWN.has(step.role) ? "hidden" : "hidden wide:block"}>
            <Drawing batch={batch} step={step} />
          </div>
        )}
        <div
          className={`grid content-start gap-4 ${UNDRAWN.has(step.role) ? "wide:col-span-2" : ""}`}
        >
          {step.role !== "caramel" && !step.plate && <Timer step={step} />}
          <Words step={step} />
          {step.headspace_mm !== null && <Headspace mm={step.headspace_mm} colour={batch.colour} />}
          <Told step={step} />
          {step.midway && !step.plate && (
            <p className="border-elder border-l-6 pl-3 text-2xl">{step.midway}</p>
          )}
          <Pan
            step={step}
            onRefill={() => act({ act: "note", step: step.id, what: "refilled", words: "" })}
          />
          {step.stops.length > 0 && (
            <ul className="grid gap-3 border-2 border-hip p-3">
              {step.stops.map((f) => (
                <FindingRow key={f.id} finding={f} onChange={instead} large />
              ))}
            </ul>
          )}
        </div>
      </div>
      {step.role === "check" && (
        <>
          <Seals batch={batch} step={step} act={act} busy={change.isPending} />
          {step.mishaps.length > 0 && (
            <Button kind="warn" className="mt-3 px-8" onClick={() => open("problem")}>
              Problem
            </Button>
          )}
        </>
      )}
      {step.role !== "check" && (
        <>
          <ColdPlate step={step} act={act} busy={change.isPending} />
          <Trays step={step} act={act} busy={change.isPending} />
          {step.role === "caramel" ? (
            <Caramel step={step} act={act} busy={change.isPending} />
          ) : (
            <Presses batch={batch} step={step} act={act} open={open} busy={change.isPending} />
          )}
          <Together batch={batch} step={step} act={act} />
        </>
      )}
      <Checks step={step} />
      <BesidesPlan step={step} act={act} busy={change.isPending} />
      <AtBench batch={batch} step={step} act={act} busy={change.isPending} />
      <div className="mt-3">
        <Said error={sheet === null ? change.error : null} onChange={instead} />
      </div>
      <Probes step={step} act={act} error={change.error} busy={change.isPending} />
      {step.role === "process" && (
        <div className="mt-5 grid items-start gap-x-8 gap-y-4 wide:grid-cols-2">
          <ProcessCard process={batch.process} step={step} />
          <InsideJar step={step} />
        </div>
      )}
      <p className="mt-5 text-xl leading-snug">
        <b className="text-elder">Then</b> {step.then}
      </p>
      <Cautions step={step} />
      <Burns words={batch.first_aid} />
      <FinishSheet
        open={sheet === "done"}
        onClose={() => setSheet(null)}
        batch={batch}
        step={step}
        act={act}
        error={change.error}
        busy={change.isPending}
      />
      <ReadingSheet
        open={sheet === "reading"}
        onClose={() => setSheet(null)}
        step={step}
        act={act}
        error={change.error}
        busy={change.isPending}
      />
      <MoreTimeSheet
        open={sheet === "time"}
        onClose={() => setSheet(null)}
        step={step}
        act={act}
        error={change.error}
      />
      <ProblemSheet
        open={sheet === "problem"}
        onClose={() => setSheet(null)}
        batch={batch}
        step={step}
        act={act}
        onHappened={setHappened}
        error={change.error}
      />
    </section>
  );
}

type ProbesProps = { step: StepView; act: Act; error: Error | null; busy: boolean };

/** What probes saw at the step, and the file of one that was read out. */
function Probes({ step, act, error, busy }: ProbesProps) {
  const hot = step.holds_boil || step.asks.some((a) => a.quantity === "temp_c");
  return (
    <div className="mt-4 grid gap-4 empty:hidden">
      {step.traces.map((trace) => (
        <TraceCurve key={`${trace.since} ${trace.probe}`} trace={trace} />
      ))}
      {hot && step.phase === "running" && (
        <div>
          <TakeTrace
            step={{ id: step.id, title: step.title, bath: step.holds_boil }}
            act={act}
            error={error}
            busy={busy}
          />
        </div>
      )}
    </div>
  );
}

function Words({ step }: { step: StepView }) {
  const waiting = step.phase === "waiting";
  return (
    <div className="grid gap-3 text-xl leading-snug">
      <div>
        <h3 className="text-elder text-xl">{waiting ? "Before you start" : "Look for"}</h3>
        <p>{waiting ? step.before : step.look_for}</p>
      </div>
      {waiting && step.starts_by_itself && step.ready && (
        <p>
          <b className="text-elder">Look for</b> {step.look_for}
        </p>
      )}
    </div>
  );
}

/** What is looked at before one press says that it is done: a list to read, nothing to tick. */
function Checks({ step }: { step: StepView }) {
  if (step.checks.length === 0) return null;
  return (
    <ol
      aria-label="Look at"
      className="mt-4 grid list-decimal gap-x-10 gap-y-1 pl-6 text-lg leading-snug marker:font-bold marker:text-elder wide:grid-cols-2"
    >
      {step.checks.map((check) => (
        <li key={check}>{check}</li>
      ))}
    </ol>
  );
}

/** What was chosen about the step, and the water in it as it is known. */
function Told({ step }: { step: StepView }) {
  const water = step.water;
  if ((step.choices.length === 0 || step.plate) && !water) return null;
  return (
    <div className="text-lg text-slate leading-snug">
      {step.choices.length > 0 && <p>{step.choices.join(" · ")}</p>}
      {water && (
        <p>
          Water {litresRange(water.litres)}
          {water.inferred_from ? (
            <span className="font-bold text-brass">, inferred from {water.inferred_from}</span>
          ) : (
            ", as planned"
          )}
        </p>
      )}
    </div>
  );
}

/** The cautions that belong to this moment. */
function Cautions({ step }: { step: StepView }) {
  if (step.cautions.length === 0) return null;
  return (
    <>
      <div className="stitch my-5" />
      <ul className="grid gap-x-8 gap-y-4 wide:grid-cols-2">
        {step.cautions.map((f) => (
          <FindingRow key={f.id} finding={f} />
        ))}
      </ul>
    </>
  );
}
