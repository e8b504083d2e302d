import { useState } from "react";
import type { PlanView } from "@/api/types";
import { Beads } from "@/flow/beads";
import { type Label, RibbonThatFits } from "@/flow/ribbon";
import { count, litres, litresRange, mass, minutes, plain } from "@/lib/format";
import { filled } from "@/methods/words";
import type { Asking } from "@/plan/asked";
import { LotPanel } from "@/plan/lot-panel";
import { Scales } from "@/plan/scales";
import { StepPanel } from "@/plan/step-panel";
import { YieldBand } from "@/plan/yield-band";

type Props = Asking & { plan: PlanView };

/** The ribbon of a plan and its steps; under it what is in hand: a step, a lot, or the scales. */
export function Picture({ plan, ...asking }: Props) {
  const [hand, take] = useState<{ step?: string; lot?: string }>({});
  const [end, setEnd] = useState("");
  const [open, setOpen] = useState(false);
  const jars = plan.ends.reduce((sum, e) => sum + e.expected.count, 0);
  const litresOf = plan.ends.map((e) => litresRange(e.litres)).join(" and ");
  const title = `${plan.title}: ${litresOf} into ${count(jars, "jar")}`;
  const step = plan.steps.find((s) => s.key === hand.step);
  const shown = plan.ends.find((e) => e.key === end) ?? plan.ends[0];
  // What was done to it may be answered when something else is in hand already.
  const close = () => take((now) => (now === hand ? {} : now));
  return (
    <>
      <RibbonThatFits
        lots={plan.lots}
        operations={plan.operations}
        labels={labelsOf(plan)}
        onLot={(lot) => take({ lot })}
        title={title}
      />
      <p className="mb-1 leading-tight">{hours(plan)}</p>
      <div className="print:hidden">
        <Beads
          operations={plan.operations}
          onStep={(key) => take({ step: key })}
          pressable={new Set(plan.steps.map((s) => s.key))}
        />
      </div>
      <div className="stitch my-3 print:hidden" />
      {step ? (
        <StepPanel {...asking} plan={plan} step={step} onClose={close} />
      ) : hand.lot ? (
        <LotPanel {...asking} plan={plan} lot={hand.lot} onClose={close} />
      ) : (
        shown && (
          <>
            {plan.ends.length > 1 && (
              <p className="mb-1 flex gap-3 print:hidden">
                {plan.ends.map((e) => (
                  <button
                    key={e.key}
                    type="button"
                    aria-pressed={e.key === shown.key}
                    onClick={() => setEnd(e.key)}
                    className={`min-h-9 border-b-4 px-1 ${e.key === shown.key ? "border-elder font-bold" : "border-transparent text-slate"}`}
                  >
                    {e.label}
                  </button>
                ))}
              </p>
            )}
            <button
              type="button"
              aria-expanded={open}
              onClick={() => setOpen(!open)}
              className="min-h-11 text-left text-lg underline decoration-dotted underline-offset-4 wide:hidden print:hidden"
            >
              {open ? "put the scales away" : "sweet, sharp, thick: set a mark"}
            </button>
            <div className={`print:hidden ${open ? "" : "hidden wide:block"}`}>
              <Scales
                {...asking}
                end={shown}
                last={plan.last_time}
                title={`What is filled, ${litres(shown.litres.typ * 1000)}`}
              />
              <p className="mt-2 text-base text-slate">
                {litresRange(shown.litres)}
                {shown.clarity ? `, ${shown.clarity}` : ""}
              </p>
            </div>
            {plan.fruit_yield && <YieldBand learned={plan.fruit_yield} />}
          </>
        )
      )}
    </>
  );
}

function hours(plan: PlanView): string {
  const least = Math.round(plan.minutes.lo / 10) * 10;
  const most = Math.round(plan.minutes.hi / 10) * 10;
  const waits = plan.waits_h >= 0.75 ? `, and ${minutes(plan.waits_h * 60)} of waiting` : "";
  const cool = plan.ends.some((e) => e.keep === "shelf")
    ? ", then 12 h to cool before the seals are checked"
    : "";
  const long = least === most ? minutes(most) : `${minutes(least)} to ${minutes(most)}`;
  return `${long} of work${waits}${cool}`;
}

/** A name without what only a list needs: "apple juice, bought" is apple juice. */
const plainly = (name: string): string => (name.split(",")[0] ?? name).toLowerCase();

function labelsOf(plan: PlanView): Record<string, Label> {
  const labels: Record<string, Label> = {};
  for (const given of plan.inputs)
    labels[given.key] = { big: mass(given.mass_g.typ), small: plainly(given.name) };
  const hot = plan.lots.find((l) => l.key === "hot");
  if (hot)
    labels.hot = { big: `${plain(hot.brix?.typ)} °Bx`, small: `pH ${plain(hot.ph?.typ, 0.1)}` };
  for (const end of plan.ends) {
    const jars = plan.operations.find((o) => o.key === end.key)?.gives[0] ?? "jars";
    const part = end.expected.part_kind ? `+ ${litres(end.expected.part_ml)}` : undefined;
    labels[jars] = { big: filled(end), small: part };
  }
  return labels;
}
