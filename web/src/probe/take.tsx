import { useRef, useState } from "react";
import type { Act } from "@/cook/act";
import { Button } from "@/ui/button";
import { Choice } from "@/ui/choice";
import { Dialog } from "@/ui/dialog";
import { Said } from "@/ui/notice";

type Step = { id: number; title: string; bath: boolean };
type Props = { step: Step; act: Act; error: Error | null; busy: boolean };

/** A press that takes in what a probe has written down at a step. */
export function TakeTrace({ step, act, error, busy }: Props) {
  const [open, setOpen] = useState(false);
  const [where, setWhere] = useState<"bath" | "jar">("bath");
  const box = useRef<HTMLInputElement>(null);
  const probe = step.bath ? where : "in_it";
  return (
    <>
      <Button kind="quiet" size="small" className="!px-0" onClick={() => setOpen(true)}>
        A probe's file
      </Button>
      <Dialog
        open={open}
        onClose={() => setOpen(false)}
        title="What a probe wrote down"
        lead={`${step.title}: times and temperatures, as its program saves them.`}
      >
        <div className="grid gap-4">
          {step.bath && (
            <Choice
              label="The probe was"
              value={where}
              onChange={(next) => setWhere(next as "bath")}
              options={[
                { value: "bath", label: "in the bath" },
                { value: "jar", label: "in a jar" },
              ]}
              note={
                where === "bath"
                  ? "Where it was below its boil, the time begins again."
                  : "It shows how a jar warmed up. It shortens no time."
              }
            />
          )}
          <input
            ref={box}
            type="file"
            accept=".csv,.txt,text/csv,text/plain"
            aria-label="A probe's file"
            hidden
            onChange={async (e) => {
              const chosen = e.target.files?.[0];
              e.target.value = "";
              if (!chosen) return;
              const text = await chosen.text();
              act({ act: "trace", step: step.id, text, probe }, () => setOpen(false));
            }}
          />
          <Button kind="go" size="large" disabled={busy} onClick={() => box.current?.click()}>
            Choose the file
          </Button>
          <Said error={error} />
        </div>
      </Dialog>
    </>
  );
}
