import { Link } from "react-router";
import type { PlanView } from "@/api/types";
import { DEFER } from "@/lib/words";
import { Recipe } from "@/methods/recipe";
import { type Asked, toAddress } from "@/plan/asked";
import { Button } from "@/ui/button";

/** The whole batch on one sheet, for a kitchen where no screen should get wet. */
export function BatchSheet({ plan, asked }: { plan: PlanView; asked: Asked }) {
  return (
    <div className="order-2 print:mt-6 wide:order-none wide:col-span-3">
      <div className="flex flex-wrap items-center gap-4 print:hidden">
        <Button kind="quiet" size="small" onClick={() => window.print()}>
          Print this plan
        </Button>
        <Link
          to={`/plan/shopping?${new URLSearchParams(toAddress(asked))}`}
          className="min-h-11 content-center underline underline-offset-4"
        >
          Shopping list
        </Link>
      </div>
      <section aria-label="On paper" className="hidden gap-4 print:grid">
        <Recipe plan={plan} />
        <p>{DEFER}</p>
      </section>
    </div>
  );
}
