import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNavigate } from "react-router";
import { retryKey, useStartBatch } from "@/api/changes";
import { Refused } from "@/api/client";
import { kitchenQuery, planQuery } from "@/api/queries";
import type { PlanView } from "@/api/types";
import { Beads } from "@/flow/beads";
import { minutes } from "@/lib/format";
import { type Asked, request, useAsked } from "@/plan/asked";
import { CameIn } from "@/plan/came-in";
import { Picture } from "@/plan/picture";
import { Rack } from "@/plan/rack";
import { MayItStand } from "@/plan/verdict";
import { Button } from "@/ui/button";
import { Said, Waiting } from "@/ui/notice";

/** Plan: what came in, the ribbon to the jars, the rack, the verdict. Every figure recomputes all. */
export function Plan() {
  const [asked, change] = useAsked();
  const kitchen = useQuery(kitchenQuery).data;
  const sent = request(asked);
  const planned = useQuery(planQuery(sent));
  const refused = planned.error instanceof Refused ? planned.error : undefined;
  if (!kitchen) return <Waiting />;
  const plan = planned.data;
  const remedy = (what: string) => change(remedied(what));
  return (
    <div className="grid gap-8 wide:grid-cols-[14rem_minmax(0,1fr)_16.5rem] wide:grid-rows-[auto_1fr] wide:gap-x-9 wide:gap-y-4">
      <header className="flex flex-wrap items-start justify-between gap-x-6 gap-y-3 wide:col-span-2">
        <div>
          <h1 className="text-3xl">{plan?.title ?? "A new batch"}</h1>
          <p className="mt-1 text-slate">{plan && subtitle(plan)}</p>
        </div>
        <div className="hidden wide:block">
          <Start asked={asked} plan={plan} blocked={Boolean(refused)} />
        </div>
      </header>
      <section aria-label="What came in" className="wide:row-start-2">
        <CameIn asked={asked} change={change} kitchen={kitchen} plan={plan} refused={refused} />
      </section>
      <section
        aria-label="The flow"
        className={`min-w-0 wide:row-start-2 ${refused ? "opacity-40" : ""}`}
      >
        {plan && <Picture plan={plan} />}
        {plan && (
          <div className="mt-5">
            <p className="mb-3 text-lg">{hours(plan)}</p>
            <Beads operations={plan.operations} />
          </div>
        )}
      </section>
      <aside className={`wide:row-span-2 wide:row-start-1 ${refused ? "opacity-40" : ""}`}>
        {plan && <Rack plan={plan} kitchen={kitchen} />}
        {plan && <div className="stitch my-4" />}
        {plan && <MayItStand plan={plan} onChange={remedy} />}
        {refused && !refused.problem.errors?.length && <Said error={refused} />}
      </aside>
      <div className="wide:hidden">
        <Start asked={asked} plan={plan} blocked={Boolean(refused)} />
      </div>
    </div>
  );
}

/** A remedy as a change of the plan; which jars are tested and ready, the server knows. */
function remedied(what: string): Partial<Asked> {
  const [key, value = ""] = what.split("=");
  if (key === "acid") return { acid: value };
  return key === "keep" ? { keep: value } : { jars: "" };
}

function subtitle(plan: PlanView): string {
  const where = {
    shelf: "for the shelf",
    chill: "for the refrigerator",
    freeze: "for the freezer",
  }[plan.keep];
  return `${where} · ${plan.method.toLowerCase()} · ${plan.school}`;
}

function hours(plan: PlanView): string {
  const least = Math.round(plan.minutes.lo / 10) * 10;
  const most = Math.round(plan.minutes.hi / 10) * 10;
  const cool = plan.keep === "shelf" ? ", then 12 h to cool before the seals are checked" : "";
  return `${minutes(least)} to ${minutes(most)} at the stove${cool}`;
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
