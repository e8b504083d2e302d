import { useState } from "react";
import type { EndView, PlanView } from "@/api/types";
import { Beads } from "@/flow/beads";
import { type Label, RibbonThatFits } from "@/flow/ribbon";
import { count, litres, mass, minutes, plain, range } from "@/lib/format";
import type { Asked } from "@/plan/asked";
import { LotSheet } from "@/plan/lot-sheet";
import { StepSheet } from "@/plan/step-sheet";
import { YieldBand } from "@/plan/yield-band";
import { Gauge } from "@/ui/gauge";

type Props = { plan: PlanView; asked: Asked; change: (next: Partial<Asked>) => void };

/** The ribbon of a plan with its gauges and steps: what the juice will be, in ranges. */
export function Picture({ plan, asked, change }: Props) {
  const [step, setStep] = useState<string | null>(null);
  const [lot, setLot] = useState<string | null>(null);
  const jars = plan.ends.reduce((sum, e) => sum + e.expected.count, 0);
  const litresOf = plan.ends.map((e) => range(e.litres)).join(" and ");
  const title = `${plan.title}: ${litresOf} litres into ${count(jars, "jar")}`;
  return (
    <>
      <RibbonThatFits
        lots={plan.lots}
        operations={plan.operations}
        colour={plan.colour}
        labels={labelsOf(plan)}
        onLot={setLot}
        title={title}
      />
      <p className="mt-1 mb-4 text-lg">{hours(plan)}</p>
      <div className="print:hidden">
        <Beads
          operations={plan.operations}
          onStep={setStep}
          pressable={new Set(plan.steps.map((s) => s.key))}
        />
      </div>
      {plan.ends.map((end) => (
        <Gauges key={end.key} plan={plan} end={end} />
      ))}
      <StepSheet
        asked={asked}
        change={change}
        plan={plan}
        step={plan.steps.find((s) => s.key === step)}
        onClose={() => setStep(null)}
      />
      <LotSheet asked={asked} change={change} plan={plan} lot={lot} onClose={() => setLot(null)} />
    </>
  );
}

function Gauges({ plan, end }: { plan: PlanView; end: EndView }) {
  const maxPh = end.process?.max_ph ?? undefined;
  return (
    <div className="mt-5 grid grid-cols-2 gap-4 wide:grid-cols-[1.3fr_1fr_1fr]">
      <div className="col-span-2 wide:col-span-1">
        <h3 className="text-lg">
          {plan.ends.length > 1 ? `Into the jars: ${end.product}` : "Into the jars"}
        </h3>
        <p>
          <span className="font-bold text-lg">{plain(end.litres.typ)}</span>{" "}
          <span className="text-slate">
            litres, {range(end.litres)}
            {end.clarity ? `, ${end.clarity}` : ""}
          </span>
        </p>
        {plan.fruit_yield && end === plan.ends[0] && <YieldBand learned={plan.fruit_yield} />}
      </div>
      <div>
        <h3 className="text-lg">Sweetness</h3>
        <Gauge name="sweetness" unit="°Bx" predicted={end.brix} scale={[0, 40]} />
      </div>
      <div>
        <h3 className="text-lg">Acidity</h3>
        <Gauge name="acidity" unit="pH" predicted={end.ph} scale={[2.2, 5]} limit={maxPh} />
      </div>
    </div>
  );
}

function hours(plan: PlanView): string {
  const least = Math.round(plan.minutes.lo / 10) * 10;
  const most = Math.round(plan.minutes.hi / 10) * 10;
  const waits = plan.waits_h >= 0.75 ? `, and ${minutes(plan.waits_h * 60)} of waiting` : "";
  const cool = plan.ends.some((e) => e.keep === "shelf")
    ? ", then 12 h to cool before the seals are checked"
    : "";
  return `${minutes(least)} to ${minutes(most)} of work${waits}${cool}`;
}

function labelsOf(plan: PlanView): Record<string, Label> {
  const labels: Record<string, Label> = {};
  for (const given of plan.inputs)
    labels[given.key] = { big: mass(given.mass_g.typ), small: given.name.toLowerCase() };
  const hot = plan.lots.find((l) => l.key === "hot");
  if (hot)
    labels.hot = { big: `${plain(hot.brix?.typ)} °Bx`, small: `pH ${plain(hot.ph?.typ, 0.1)}` };
  for (const end of plan.ends) {
    const jars = plan.operations.find((o) => o.key === end.key)?.gives[0] ?? "jars";
    const part = end.expected.part_kind ? `+ ${litres(end.expected.part_ml)}` : undefined;
    const big = end.expected.count ? count(end.expected.count, "jar") : "no jars";
    labels[jars] = { big, small: part };
  }
  return labels;
}
