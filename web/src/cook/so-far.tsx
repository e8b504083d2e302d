import type { BatchView, LotView } from "@/api/types";
import { groupOf } from "@/flow/layout";
import { type Label, RibbonThatFits } from "@/flow/ribbon";
import { usualLabel } from "@/flow/words";

/** The flow as it stands: what was read is solid, what follows from it is still open. */
export function SoFar({ batch }: { batch: BatchView }) {
  const sure = batch.lots.filter((l) => l.known !== "predicted");
  return (
    <section aria-label="The flow so far" className="border-line border-t-6 pt-3 wide:col-span-3">
      <h2>The flow so far</h2>
      <div className="mt-2">
        <RibbonThatFits
          lots={batch.lots.map((l) => l.now)}
          operations={batch.operations}
          labels={labelsOf(batch)}
          measured={new Set(sure.map((l) => l.key))}
          title={`${batch.title}, so far`}
        />
      </div>
    </section>
  );
}

/** Every lot with its figure and how that is known. */
function labelsOf(batch: BatchView): Record<string, Label> {
  const groups = new Map<string, LotView[]>();
  for (const lot of batch.lots)
    groups.set(groupOf(lot.key), [...(groups.get(groupOf(lot.key)) ?? []), lot]);
  const labels: Record<string, Label> = {};
  for (const [name, lots] of groups) {
    const usual = usualLabel(lots.map((l) => l.now));
    if (usual && SAID.has(lots[0]?.kind ?? "")) labels[name] = { ...usual, known: howKnown(lots) };
  }
  return labels;
}

/** Lots whose words say how they are known; what joins from the side has too little room. */
const SAID = new Set(["fruit", "mash", "juice", "caramel", "peel"]);

function howKnown(lots: LotView[]): string {
  const kinds = new Set(lots.map((l) => l.known));
  return kinds.size === 1 ? (lots[0]?.known ?? "") : "partly read";
}
