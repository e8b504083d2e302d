import { useState } from "react";
import type { StepView } from "@/api/types";
import type { Act } from "@/cook/act";
import { Button } from "@/ui/button";
import { Choice } from "@/ui/choice";
import { Dialog } from "@/ui/dialog";
import { TextField } from "@/ui/field";
import { Said } from "@/ui/notice";

type Props = { open: boolean; onClose: () => void; step: StepView; act: Act; error: Error | null };

/** Time is only ever added, and says why. */
export function MoreTimeSheet({ open, onClose, step, act, error }: Props) {
  const [minutes, setMinutes] = useState("10");
  const [reason, setReason] = useState("");
  return (
    <Dialog open={open} onClose={onClose} title="More time" lead={step.title}>
      <form
        className="grid gap-4"
        onSubmit={(e) => {
          e.preventDefault();
          act({ act: "more-time", step: step.id, minutes: Number(minutes), reason });
        }}
      >
        <Choice
          label="Add"
          value={minutes}
          onChange={setMinutes}
          options={["5", "10", "15", "30"].map((m) => ({ value: m, label: `${m} min` }))}
        />
        <div className="flex flex-wrap gap-2">
          {step.reasons.map((r) => (
            <Button
              key={r}
              size="small"
              aria-pressed={reason === r}
              className={reason === r ? "bg-tag" : ""}
              onClick={() => setReason(r)}
            >
              {r}
            </Button>
          ))}
        </div>
        <TextField label="Why" value={reason} onChange={setReason} />
        <Said error={error} />
        <Button kind="go" size="large" type="submit" disabled={reason.trim() === ""}>
          Add {minutes} min
        </Button>
      </form>
    </Dialog>
  );
}
