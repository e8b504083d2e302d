import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { useNavigate } from "react-router";
import { retryKey, useStartBatch } from "@/api/changes";
import { Refused } from "@/api/client";
import { kitchenQuery, lotsQuery, planQuery } from "@/api/queries";
import type { PlanView } from "@/api/types";
import { typedKilos } from "@/lib/format";
import { type Asked, request, useAsked } from "@/plan/asked";
import { BatchSheet } from "@/plan/batch-sheet";
import { CameIn } from "@/plan/came-in";
import { KeepMethod } from "@/plan/keep-method";
import { Picture } from "@/plan/picture";
import { Rack } from "@/plan/rack";
import { MayItStand } from "@/plan/verdict";
import { Button } from "@/ui/button";
import { Said, Waiting } from "@/ui/notice";

/** Plan: what came in, the ribbon to the jars, the rack, the verdict. Every figure recomputes all. */
export function Plan() {
  const [asked, change] = useAsked();
  const kitchen = useQuery(kitchenQuery).data;
  useLotOf(asked, change);
  const sent = request(asked);
  const planned = useQuery(planQuery(sent));
  const refused = planned.error instanceof Refused ? planned.error : undefined;
  if (!kitchen) return <Waiting />;
  const plan = planned.data;
  const remedy = (what: string) => change(remedied(what));
  return (
    <div className="grid gap-8 print:block wide:grid-cols-[14rem_minmax(0,1fr)_16.5rem] wide:grid-rows-[auto_1fr] wide:gap-x-9 wide:gap-y-4">
      <header className="flex items-start justify-between gap-x-6 gap-y-3 wide:col-span-2">
        <div className="min-w-0">
          <h1 className="text-3xl">{plan?.title ?? "A new batch"}</h1>
          <p className="mt-1 text-slate">{plan && subtitle(plan)}</p>
          {plan && <KeepMethod asked={asked} change={change} plan={plan} />}
        </div>
        <div className="hidden shrink-0 wide:block print:hidden">
          <Start asked={asked} plan={plan} blocked={Boolean(refused)} />
        </div>
      </header>
      <section aria-label="What came in" className="wide:row-start-2 print:hidden">
        <CameIn asked={asked} change={change} kitchen={kitchen} plan={plan} refused={refused} />
      </section>
      <section
        aria-label="The flow"
        className={`min-w-0 wide:row-start-2 ${refused ? "opacity-40" : ""}`}
      >
        {plan && <Picture plan={plan} asked={asked} change={change} />}
      </section>
      <aside
        className={`print:mt-6 wide:row-span-2 wide:row-start-1 ${refused ? "opacity-40" : ""}`}
      >
        {plan?.ends.map((end) => (
          <Rack key={end.key} end={end} colour={plan.colour} kitchen={kitchen} />
        ))}
        {plan && <div className="stitch my-4" />}
        {plan && <MayItStand plan={plan} onChange={remedy} />}
        {refused && !refused.problem.errors?.length && <Said error={refused} />}
      </aside>
      {plan && <BatchSheet plan={plan} />}
      <div className="wide:hidden print:hidden">
        <Start asked={asked} plan={plan} blocked={Boolean(refused)} />
      </div>
    </div>
  );
}

/** A plan that is opened from what waits takes its fruit, form and kilos from there. */
function useLotOf(asked: Asked, change: (next: Partial<Asked>) => void) {
  const lot = useQuery(lotsQuery).data?.find((l) => String(l.id) === asked.lot);
  useEffect(() => {
    if (lot && (lot.fruit_key !== asked.fruit || lot.form !== asked.form))
      change({
        fruit: lot.fruit_key,
        form: lot.form,
        kg: typedKilos(lot.left_kg),
      });
  }, [lot, asked.fruit, asked.form, change]);
}

/** A remedy as a change of the plan; which jars are tested and ready, the server knows. */
function remedied(what: string): Partial<Asked> {
  const [key, value = ""] = what.split("=");
  if (key === "acid") return { acid: value };
  return key === "keep" ? { keep: value } : { jars: "" };
}

const WHERE: Record<string, string> = {
  shelf: "for the shelf",
  chill: "for the refrigerator",
  freeze: "for the freezer",
};

function subtitle(plan: PlanView): string {
  const where = plan.ends.map((e) => WHERE[e.keep] ?? e.keep).join(", ");
  const { name, school, adapted_from, version, own } = plan.method;
  const whose = adapted_from ? `, adapted from ${adapted_from}` : "";
  return `${where} · ${name.toLowerCase()}${own ? `, version ${version}` : ""}${whose} · ${school}`;
}

function Start({
  asked,
  plan,
  blocked,
}: {
  asked: Asked;
  plan: PlanView | undefined;
  blocked: boolean;
}) {
  const start = useStartBatch();
  const navigate = useNavigate();
  const [key] = useState(retryKey);
  const may = plan?.may_start && !blocked;
  return (
    <div className="grid gap-3">
      <Button
        kind="go"
        size="large"
        disabled={!may || start.isPending}
        onClick={() =>
          start.mutate(
            { plan: request(asked), key: `${key}-${JSON.stringify(request(asked)).length}` },
            { onSuccess: (batch) => navigate(`/cook/${batch.id}`) },
          )
        }
      >
        Start this batch
      </Button>
      {plan && !plan.may_start && (
        <p className="font-bold text-hip">A stop stands. Resolve it first.</p>
      )}
      <Said error={start.error} />
    </div>
  );
}
