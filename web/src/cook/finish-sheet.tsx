import type { BatchView, StepView } from "@/api/types";
import type { Act } from "@/cook/act";
import { FillForm } from "@/cook/fill-form";
import { ReadForm } from "@/cook/read-form";
import { Dialog } from "@/ui/dialog";

type Props = {
  open: boolean;
  onClose: () => void;
  batch: BatchView;
  step: StepView;
  act: Act;
  error: Error | null;
  busy: boolean;
};

const TITLES: Record<string, string> = {
  steam_juice: "Draw the juice",
  steam_on: "Draw the late juice",
  heat_to: "How hot is it?",
  fill: "Really filled",
  sort: "What is left of it",
};

/** What is asked when a step is done: litres drawn, degrees read, jars filled. */
export function FinishSheet({ open, onClose, batch, step, act, error, busy }: Props) {
  if (!step.says) return null;
  const fill = step.role === "fill";
  const title = TITLES[step.kind] ?? "What came of it";
  return (
    <Dialog open={open} onClose={onClose} title={title} lead={step.title}>
      {fill ? (
        <FillForm batch={batch} step={step} act={act} error={error} busy={busy} />
      ) : (
        <ReadForm step={step} act={act} error={error} busy={busy} />
      )}
    </Dialog>
  );
}
