import type { BatchView, StepView } from "@/api/types";
import type { Act } from "@/cook/act";
import { inSentence } from "@/lib/words";
import { Button } from "@/ui/button";

const PLAIN = new Set(["", "join", "keep"]);

/** Steps in a row, from one on, that need no figure: each could be ticked at once. */
export function inARow(batch: BatchView, from: StepView): StepView[] {
  const at = batch.steps.findIndex((s) => s.id === from.id);
  const plain = (s: StepView) =>
    s.phase === "waiting" && s.starts_by_itself && PLAIN.has(s.role) && !s.counts_from_boil;
  const row: StepView[] = [];
  for (const step of batch.steps.slice(at)) {
    if (!plain(step)) break;
    row.push(step);
  }
  return from.ready ? row : [];
}

/** One press for several steps of no consequence that were done in one go. */
export function Together({ batch, step, act }: { batch: BatchView; step: StepView; act: Act }) {
  const row = inARow(batch, step);
  if (row.length < 2) return null;
  const tick = (steps: StepView[]) => {
    const [first, ...rest] = steps;
    if (first) act({ act: "finish", step: first.id, said: {} }, () => tick(rest));
  };
  return (
    <div className="mt-3 flex flex-wrap items-center gap-3">
      <Button size="small" onClick={() => tick(row)}>
        Done with these {row.length}
      </Button>
      <p className="text-slate">{row.map((s) => inSentence(s.title)).join(", ")}: no figures</p>
    </div>
  );
}
