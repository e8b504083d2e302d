import { useState } from "react";
import { useKeepMethod } from "@/api/changes";
import { Refused } from "@/api/client";
import type { PlanView } from "@/api/types";
import type { Asked } from "@/plan/asked";
import { Button } from "@/ui/button";
import { Dialog } from "@/ui/dialog";
import { TextField } from "@/ui/field";
import { Said } from "@/ui/notice";

type Props = { asked: Asked; change: (next: Partial<Asked>) => void; plan: PlanView };

/** A flow that was changed: keep it under a name, or go back to the method as it was. */
export function KeepMethod({ asked, change, plan }: Props) {
  const [open, setOpen] = useState(false);
  if (asked.flow.length === 0) return null;
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-2 print:hidden">
      <span className="font-bold text-brass">the flow was changed</span>
      <Button size="small" onClick={() => setOpen(true)}>
        Keep it as a method
      </Button>
      <Button size="small" kind="quiet" onClick={() => change({ flow: [] })}>
        back to {plan.method.name.toLowerCase()}
      </Button>
      {open && <Sheet asked={asked} change={change} plan={plan} onClose={() => setOpen(false)} />}
    </div>
  );
}

function Sheet({ asked, change, plan, onClose }: Props & { onClose: () => void }) {
  const keep = useKeepMethod();
  const [name, setName] = useState(plan.method.own ? plan.method.name : "");
  const [from, setFrom] = useState(plan.method.adapted_from);
  const [note, setNote] = useState(plan.method.note);
  const refused = keep.error instanceof Refused ? keep.error : undefined;
  return (
    <Dialog
      open
      onClose={onClose}
      title="Keep this flow"
      lead={
        plan.method.own
          ? `Under the same name it becomes version ${plan.method.version + 1}; the old one stays.`
          : `It begins as a copy of ${plan.method.name.toLowerCase()}.`
      }
    >
      <form
        className="grid gap-4"
        onSubmit={(e) => {
          e.preventDefault();
          keep.mutate(
            {
              name,
              based_on: plan.method.key,
              steps: asked.flow,
              adapted_from: from,
              note,
              fruits: plan.inputs.slice(0, 1).map((i) => i.material),
            },
            {
              onSuccess: (kept) => {
                change({ method: kept.method.key, flow: [] });
                onClose();
              },
            },
          );
        }}
      >
        <TextField label="Name" value={name} onChange={setName} error={refused?.at("/name")} />
        <TextField
          label="Adapted from"
          placeholder="whom or what, if you like"
          value={from}
          onChange={setFrom}
        />
        <TextField label="Worth knowing" value={note} onChange={setNote} />
        {!refused?.at("/name") && <Said error={keep.error} />}
        <Button kind="go" size="large" type="submit" disabled={name.length < 2 || keep.isPending}>
          Keep it
        </Button>
      </form>
    </Dialog>
  );
}
