import type { PlanView } from "@/api/types";
import { count, minutes } from "@/lib/format";
import { Button } from "@/ui/button";

/** The plan on paper: the steps in order, for a kitchen where no screen should get wet. */
export function BatchSheet({ plan }: { plan: PlanView }) {
  return (
    <div className="print:mt-6 wide:col-span-3">
      <div className="print:hidden">
        <Button kind="quiet" size="small" onClick={() => window.print()}>
          Print this plan
        </Button>
      </div>
      <section aria-label="On paper" className="hidden print:block">
        <h2>Step by step</h2>
        <ol className="mt-2 grid gap-2">
          {plan.operations.map((o) => (
            <li
              key={o.key}
              className="grid break-inside-avoid grid-cols-[1fr_auto] gap-x-4 border-slate/40 border-b pb-1"
            >
              <span className="font-bold">{o.title}</span>
              <span>{minutes(o.minutes.typ)}</span>
              <span className="col-span-2">
                {o.before} Look for {o.look_for}.
              </span>
            </li>
          ))}
        </ol>
        <p className="mt-3">
          Have {count(ready(plan), "jar")} ready. Follow the tested times of your own food
          authority; when in doubt, chill, freeze or throw away.
        </p>
      </section>
    </div>
  );
}

/** Jars to have ready for all ends. */
const ready = (plan: PlanView): number =>
  plan.ends.reduce((sum, e) => sum + e.generous.count + (e.generous.part_kind ? 1 : 0), 0);
