import { useQuery } from "@tanstack/react-query";
import { useRef } from "react";
import { Link, useParams } from "react-router";
import { Refused } from "@/api/client";
import { batchQuery } from "@/api/queries";
import type { BatchView, StepView } from "@/api/types";
import { useZone } from "@/api/use-zone";
import { Disagreements } from "@/cook/disagreements";
import { GiveUp } from "@/cook/give-up";
import { LotsSoFar } from "@/cook/lots-so-far";
import { SoFar } from "@/cook/so-far";
import { Station } from "@/cook/station";
import { StepBeads } from "@/cook/step-beads";
import { TakenBack } from "@/cook/taken-back";
import { useAddress } from "@/lib/address";
import { moment } from "@/lib/format";
import { useNow } from "@/lib/use-now";
import { Empty, Said, Waiting } from "@/ui/notice";
import { FindingRow } from "@/ui/verdict";

/** Cook: the batch by station. One step in focus, the others a press away. */
export function Cook() {
  const { batchId } = useParams();
  const asked = useQuery(batchQuery(Number(batchId)));
  const [address, change] = useAddress();
  const chosen = useChosen();
  if (asked.error instanceof Refused && asked.error.problem.status === 404)
    return <Empty>There is no such batch in this household.</Empty>;
  if (asked.error && !asked.data) return <Said error={asked.error} />;
  if (!asked.data) return <Waiting />;
  const batch = asked.data;
  const step = inFocus(batch, chosen(batch, Number(address.get("step"))));
  return (
    <div className="grid gap-x-8 gap-y-5 wide:grid-cols-[minmax(0,1fr)_15rem_15.5rem]">
      <Heading batch={batch} />
      <div className="grid min-w-0 content-start gap-5">
        <Disagreements batch={batch} />
        {batch.findings.some((f) => f.id === "headspace-off") && (
          <ul className="border-2 border-brass p-3">
            {batch.findings
              .filter((f) => f.id === "headspace-off")
              .map((f) => (
                <FindingRow key={f.id} finding={f} />
              ))}
          </ul>
        )}
        {step ? <Station key={step.id} batch={batch} step={step} /> : <Finished batch={batch} />}
      </div>
      <TakenBack batch={batch} />
      <LotsSoFar batch={batch} />
      <div>
        <StepBeads
          batch={batch}
          focus={step?.id ?? 0}
          onFocus={(id) => change({ step: String(id), told: null, sum: null })}
        />
        <GiveUp batch={batch} />
      </div>
      <SoFar batch={batch} />
    </div>
  );
}

type Chosen = { step: StepView | undefined; over: boolean };

/** The step that the address asks for, and whether it was finished since it was asked for. */
function useChosen(): (batch: BatchView, wanted: number) => Chosen {
  const asked = useRef({ id: 0, done: false });
  return (batch, wanted) => {
    const step = batch.steps.find((s) => s.id === wanted);
    const done = step?.phase === "done";
    if (asked.current.id !== wanted) asked.current = { id: wanted, done };
    return { step, over: done && !asked.current.done };
  };
}

/** The step asked for while it is open; else the running one due first; else the next that can begin. */
function inFocus(batch: BatchView, { step: asked, over }: Chosen): StepView | undefined {
  const open_ = asked?.phase === "running" || asked?.phase === "waiting";
  if (asked && !over && (open_ || asked.may_repeat || asked.may_put_cold)) return asked;
  const due = (s: StepView) => (s.due_at ? new Date(s.due_at).getTime() : 0);
  const running = batch.steps
    .filter((s) => s.phase === "running" && s.role !== "cool" && !s.idle)
    .sort((a, b) => due(a) - due(b));
  const ready = batch.steps.filter((s) => s.ready && s.role !== "cool");
  const cooling = batch.steps.find((s) => s.phase === "running");
  const open = (s: StepView) => s.opens_at !== null && new Date(s.opens_at).getTime() <= Date.now();
  const check = ready.find((s) => s.role === "check" && open(s));
  const others = ready.filter((s) => s.role !== "check");
  const after = asked ? batch.steps.indexOf(asked) : -1;
  const other = others.find((s) => batch.steps.indexOf(s) > after) ?? others[0];
  return running[0] ?? other ?? check ?? cooling;
}

function Heading({ batch }: { batch: BatchView }) {
  const zone = useZone();
  const now = useNow(60_000);
  return (
    <header className="wide:col-span-3">
      <h1 className="text-2xl wide:text-3xl">{batch.title}</h1>
      <p className="mt-1 hidden text-slate wide:block">
        {batch.code} · begun {moment(batch.started_at, now, zone)} by {batch.started_by}
        {batch.source ? ` · ${batch.source}` : ""}
      </p>
    </header>
  );
}

function Finished({ batch }: { batch: BatchView }) {
  if (batch.became === "nothing")
    return <Empty>This batch was given up. Nothing of it waits, and its stations are free.</Empty>;
  return (
    <Empty>
      This batch is finished.{" "}
      {batch.became === "glasses" ? (
        "It was poured, and nothing of it stands anywhere"
      ) : (
        <>
          Its jars stand on the{" "}
          <Link className="underline" to="/shelf">
            shelf
          </Link>
        </>
      )}
      ; how it went is under{" "}
      <Link className="underline" to={`/notes/${batch.id}`}>
        Notes
      </Link>
      .
    </Empty>
  );
}
