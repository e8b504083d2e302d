import { useCallback } from "react";
import type { BatchView, StepView } from "@/api/types";
import { useZone } from "@/api/use-zone";
import type { Act } from "@/cook/act";
import { timeOfDay } from "@/lib/format";
import { useKey } from "@/lib/use-key";
import { useNow } from "@/lib/use-now";
import { Button } from "@/ui/button";

export type Sheet = "done" | "reading" | "time" | "problem" | null;

type PressProps = {
  batch: BatchView;
  step: StepView;
  act: Act;
  open: (sheet: Sheet) => void;
  busy: boolean;
};

/** The large buttons: one for what comes next, and the three that may be needed meanwhile. */
export function Presses({ batch, step, act, open, busy }: PressProps) {
  const zone = useZone();
  const now = useNow();
  const running = step.phase === "running";
  const boilWanted = running && step.counts_from_boil && !step.clock_from;
  const tooSoon =
    running && step.holds_boil && step.due_at !== null && new Date(step.due_at).getTime() > now;
  const comes =
    step.press === "boil-reached" ? !step.holds_boil : /^(finish|say)$/.test(step.press);
  const canFinish = comes && !tooSoon;
  const next = step.role === "process" ? nextLoad(batch) : undefined;
  const mayRead = running && step.asks.length > 0;
  const finish = useCallback(
    () => (step.says ? open("done") : act({ act: "finish", step: step.id, said: {} })),
    [step, open, act],
  );
  useKey("d", finish, canFinish && !busy);
  useKey("r", () => open("reading"), mayRead);
  useKey("+", () => open("time"), running);
  if (step.role === "cool") {
    const problem = () => open("problem");
    return <Cooling step={step} act={act} busy={busy} onProblem={problem} />;
  }
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
        {canFinish && next && (
          <Button
            kind="go"
            size="large"
            disabled={busy}
            onClick={() =>
              act({ act: "finish", step: step.id, said: {} }, () =>
                act({ act: "start", step: next.id }),
              )
            }
          >
            Lift them; next load in
          </Button>
        )}
        {canFinish && (
          <Button
            kind={next ? "quiet" : "go"}
            size={next ? "small" : "large"}
            keys="d"
            disabled={busy}
            onClick={finish}
          >
            {next ? "Lift them, and wait" : "Done"}
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
      <Button
        kind="warn"
        disabled={!running && step.mishaps.length === 0}
        onClick={() => open("problem")}
      >
        Problem
      </Button>
    </div>
  );
}

/** The canner load whose jars are filled and wait, where there is one. */
function nextLoad(batch: BatchView): StepView | undefined {
  return batch.steps.find(
    (s) =>
      s.role === "process" && s.phase === "waiting" && s.jar_ids.length > 0 && s.stops.length === 0,
  );
}

type CoolingProps = { step: StepView; act: Act; busy: boolean; onProblem: () => void };

/** Jars that rest, are lifted, and cool by themselves; every ping may be counted. */
function Cooling({ step, act, busy, onProblem }: CoolingProps) {
  const zone = useZone();
  const now = useNow(5000);
  const lift = step.lift_at ? new Date(step.lift_at).getTime() : 0;
  const jars = step.jar_ids.length;
  return (
    <div className="mt-5 grid gap-3">
      {lift > now && (
        <p className="border-elder border-l-6 pl-3 text-2xl">
          Heat off, lid off. Lift them at {timeOfDay(step.lift_at, zone)}.
        </p>
      )}
      <p className="border-2 border-line bg-paper p-4 text-xl">
        Nothing to press. Leave the jars alone; the seal check opens at{" "}
        {timeOfDay(step.due_at, zone)}.
      </p>
      <div className="grid grid-cols-2 gap-3">
        <Button
          disabled={busy || step.phase !== "running" || step.pings >= jars}
          onClick={() => act({ act: "note", step: step.id, what: "ping", words: "" })}
        >
          Ping: {step.pings} of {jars}
        </Button>
        <Button kind="warn" disabled={step.mishaps.length === 0} onClick={onProblem}>
          Problem
        </Button>
      </div>
    </div>
  );
}
