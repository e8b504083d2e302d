import { useCallback, useState } from "react";
import { useChange } from "@/api/changes";
import type { BatchView, StepView } from "@/api/types";
import { useZone } from "@/api/use-zone";
import type { Act } from "@/cook/act";
import { BesidesPlan } from "@/cook/besides";
import { Drawing } from "@/cook/drawing";
import { FinishSheet, needsSheet } from "@/cook/finish-sheet";
import { InsideJar } from "@/cook/inside-jar";
import { MoreTimeSheet } from "@/cook/more-time";
import { Pan } from "@/cook/pan";
import { ProblemSheet } from "@/cook/problem";
import { ProcessCard } from "@/cook/process-card";
import { ReadingSheet } from "@/cook/reading-sheet";
import { Seals } from "@/cook/seals";
import { Timer } from "@/cook/timer";
import { Together } from "@/cook/together";
import { litresRange, timeOfDay } from "@/lib/format";
import { useKey } from "@/lib/use-key";
import { useNow } from "@/lib/use-now";
import { Button } from "@/ui/button";
import { Said } from "@/ui/notice";
import { FindingRow } from "@/ui/verdict";

type Sheet = "done" | "reading" | "time" | "problem" | null;

/** One station: what is on, how long, what to look for, and the large buttons. */
export function Station({ batch, step }: { batch: BatchView; step: StepView }) {
  const change = useChange(batch.id);
  const [sheet, setSheet] = useState<Sheet>(null);
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
      <div className="mt-3 grid gap-x-8 gap-y-4 wide:grid-cols-[14rem_1fr]">
        <div className={step.role === "check" ? "hidden" : "hidden wide:block"}>
          <Drawing batch={batch} step={step} />
        </div>
        <div
          className={`grid content-start gap-4 ${step.role === "check" ? "wide:col-span-2" : ""}`}
        >
          <Timer step={step} />
          <Words step={step} />
          <Told step={step} />
          {step.midway && <p className="border-elder border-l-6 pl-3 text-2xl">{step.midway}</p>}
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
        <Seals batch={batch} step={step} act={act} busy={change.isPending} />
      )}
      {step.role !== "check" && (
        <>
          <Presses step={step} act={act} open={open} busy={change.isPending} />
          <Together batch={batch} step={step} act={act} />
        </>
      )}
      <BesidesPlan step={step} act={act} busy={change.isPending} />
      <div className="mt-3">
        <Said error={sheet === null ? change.error : null} onChange={instead} />
      </div>
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
        step={step}
        act={act}
        error={change.error}
      />
    </section>
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

/** What was chosen about the step, and the water in it as it is known. */
function Told({ step }: { step: StepView }) {
  const water = step.water;
  if (step.choices.length === 0 && !water) return null;
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

type PressProps = { step: StepView; act: Act; open: (sheet: Sheet) => void; busy: boolean };

/** The large buttons: one for what comes next, and the three that may be needed meanwhile. */
function Presses({ step, act, open, busy }: PressProps) {
  const zone = useZone();
  const now = useNow();
  const running = step.phase === "running";
  const boilWanted = running && step.counts_from_boil && !step.clock_from;
  const tooSoon =
    running && step.holds_boil && step.due_at !== null && new Date(step.due_at).getTime() > now;
  const canFinish =
    (running && !(boilWanted && step.holds_boil) && !tooSoon) ||
    (step.ready && step.starts_by_itself && step.role !== "heat");
  const mayRead = running && step.asks.length > 0;
  const finish = useCallback(
    () => (needsSheet(step) ? open("done") : act({ act: "finish", step: step.id, said: {} })),
    [step, open, act],
  );
  useKey("d", finish, canFinish && !busy);
  useKey("r", () => open("reading"), mayRead);
  useKey("+", () => open("time"), running);
  if (step.role === "cool") return <Cooling step={step} />;
  return (
    <div className="mt-5 grid grid-cols-3 gap-3 wide:grid-cols-[minmax(0,1.6fr)_repeat(3,minmax(0,1fr))]">
      <div className="col-span-3 grid wide:col-span-1">
        {step.phase === "waiting" && !canFinish && (
          <Button
            kind="go"
            size="large"
            disabled={!step.ready || busy}
            onClick={() => act({ act: "start", step: step.id })}
          >
            {step.ready ? "Start" : `After: ${step.waits_for}`}
          </Button>
        )}
        {boilWanted && (
          <Button
            kind="go"
            size="large"
            disabled={busy}
            onClick={() => act({ act: "boil-reached", step: step.id })}
          >
            It boils: start the time
          </Button>
        )}
        {tooSoon && (
          <Button size="large" disabled>
            Done at {timeOfDay(step.due_at, zone)}
          </Button>
        )}
        {canFinish && (
          <Button kind="go" size="large" keys="d" disabled={busy} onClick={finish}>
            Done
          </Button>
        )}
      </div>
      {running && step.holds_boil ? (
        <Button
          kind="warn"
          disabled={busy || boilWanted}
          onClick={() => act({ act: "boil-lost", step: step.id })}
        >
          Boil lost
        </Button>
      ) : (
        <Button keys="r" disabled={!mayRead} onClick={() => open("reading")}>
          Reading
        </Button>
      )}
      <Button keys="+" disabled={!running} onClick={() => open("time")}>
        More time
      </Button>
      <Button kind="warn" disabled={!running} onClick={() => open("problem")}>
        Problem
      </Button>
    </div>
  );
}

function Cooling({ step }: { step: StepView }) {
  const zone = useZone();
  return (
    <p className="mt-5 border-2 border-line bg-paper p-4 text-xl">
      Nothing to press. Leave the jars alone; the seal check opens at {timeOfDay(step.due_at, zone)}
      .
    </p>
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
