import { useState } from "react";
import { useChange } from "@/api/changes";
import type { BatchView } from "@/api/types";
import { Button } from "@/ui/button";
import { Said } from "@/ui/notice";

/** A batch that was begun by mistake is given up, before its jars are filled: two presses. */
export function GiveUp({ batch }: { batch: BatchView }) {
  const change = useChange(batch.id);
  const [sure, setSure] = useState(false);
  if (batch.finished || batch.jars.length > 0) return null;
  const untouched = batch.steps.every((s) => s.phase === "waiting");
  return (
    <div className="mt-4 text-base">
      {sure ? (
        <div className="border-2 border-hip p-3">
          <p>
            Its steps are dropped and its stations free.{" "}
            {untouched
              ? "What went in waits again as it came."
              : "What went in counts as used; what was read stays on record."}
          </p>
          <div className="mt-2 flex gap-3">
            <Button
              size="small"
              kind="warn"
              disabled={change.isPending}
              onClick={() => change.mutate({ act: "give-up" })}
            >
              Give it up
            </Button>
            <Button size="small" onClick={() => setSure(false)}>
              Keep it
            </Button>
          </div>
          <Said error={change.error} />
        </div>
      ) : (
        <button
          type="button"
          onClick={() => setSure(true)}
          className="min-h-11 text-slate underline decoration-dotted underline-offset-4"
        >
          Begun by mistake?
        </button>
      )}
    </div>
  );
}
