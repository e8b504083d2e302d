import type { PlanView } from "@/api/types";
import { DEFER } from "@/lib/words";
import { Recipe } from "@/methods/recipe";
import { Button } from "@/ui/button";

/** The whole batch on one sheet, for a kitchen where no screen should get wet. */
export function BatchSheet({ plan }: { plan: PlanView }) {
  return (
    <div className="order-2 print:mt-6 wide:order-none wide:col-span-3">
      <div className="print:hidden">
        <Button kind="quiet" size="small" onClick={() => window.print()}>
          Print this plan
        </Button>
      </div>
      <section aria-label="On paper" className="hidden gap-4 print:grid">
        <Recipe plan={plan} />
        <p>{DEFER}</p>
      </section>
    </div>
  );
}
