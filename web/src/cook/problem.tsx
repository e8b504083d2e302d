import { useState } from "react";
import type { StepView } from "@/api/types";
import type { Act } from "@/cook/act";
import { Button } from "@/ui/button";
import { Dialog } from "@/ui/dialog";
import { TextField } from "@/ui/field";
import { Said } from "@/ui/notice";

type Props = { open: boolean; onClose: () => void; step: StepView; act: Act; error: Error | null };

/** Something went wrong: note it, with the advice that fits this step. */
export function ProblemSheet({ open, onClose, step, act, error }: Props) {
  const [words, setWords] = useState("");
  return (
    <Dialog open={open} onClose={onClose} title="Problem" lead={step.title}>
      <form
        className="grid gap-4"
        onSubmit={(e) => {
          e.preventDefault();
          act({ act: "note", step: step.id, what: "problem", words }, () => setWords(""));
        }}
      >
        <ul className="grid list-disc gap-1 pl-5 text-lg">
          {advice(step).map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
        <TextField
          label="What happened"
          value={words}
          onChange={setWords}
          placeholder="hose came loose, about a cup lost"
        />
        <Said error={error} />
        <Button kind="go" size="large" type="submit" disabled={words.trim() === ""}>
          Note it
        </Button>
      </form>
    </Dialog>
  );
}

function advice(step: StepView): string[] {
  const burn = "A burn: cool running water for 20 minutes, then a doctor if it blisters.";
  const own = step.cautions.map((c) => c.remedy).slice(0, 2);
  return [burn, ...own, "When in doubt, chill, freeze or throw away."];
}
