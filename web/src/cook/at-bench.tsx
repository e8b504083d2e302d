import { Link } from "react-router";
import type { BatchView, StepView } from "@/api/types";
import { sumOf } from "@/bench/questions";
import type { Act } from "@/cook/act";
import { useAddress } from "@/lib/address";
import { Button } from "@/ui/button";

type Props = { batch: BatchView; step: StepView; act: Act; busy: boolean };

/** The sums that help at a step, the answer that one sent back, and what was written down here. */
export function AtBench({ batch, step, act, busy }: Props) {
  const [address, change] = useAddress();
  const told = address.get("told");
  const forget = () => change({ step: String(step.id), told: null, sum: null });
  const keep = (words: string) => act({ act: "note", step: step.id, what: "bench", words }, forget);
  return (
    <>
      {told && (
        <section aria-label="From the Bench" className="mt-4 border-2 border-elder bg-paper p-4">
          <p className="text-slate">{sumOf(address.get("sum") ?? "").title}, from the Bench</p>
          <p className="font-bold text-2xl">{told}</p>
          <div className="mt-3 flex flex-wrap gap-3">
            <Button kind="go" disabled={busy} onClick={() => keep(told)}>
              Write it down here
            </Button>
            <Button kind="quiet" onClick={forget}>
              Leave it
            </Button>
          </div>
        </section>
      )}
      {step.notes.length > 0 && (
        <ul aria-label="Written down here" className="mt-4 grid gap-1 text-lg">
          {step.notes.map((note) => (
            <li key={note} className="border-slate border-l-4 pl-3">
              {note}
            </li>
          ))}
        </ul>
      )}
      {step.sums.length > 0 && (
        <p className="mt-4 flex flex-wrap items-center gap-x-4 text-lg print:hidden">
          <span className="text-slate">Work it out:</span>
          {step.sums.map((sum) => (
            <Link
              key={sum.key}
              to={`/bench/${sum.key}?${new URLSearchParams({ ...sum.figures, batch: String(batch.id), step: String(step.id) })}`}
              className="inline-flex min-h-11 items-center underline underline-offset-4"
            >
              {sumOf(sum.key).name}
            </Link>
          ))}
        </p>
      )}
    </>
  );
}
