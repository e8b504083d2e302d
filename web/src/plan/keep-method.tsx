import { useState } from "react";
import { useKeepMethod } from "@/api/changes";
import { Refused } from "@/api/client";
import type { PlanView } from "@/api/types";
import type { Asking } from "@/plan/asked";
import { Button } from "@/ui/button";
import { Dialog } from "@/ui/dialog";
import { TextField } from "@/ui/field";
import { Said } from "@/ui/notice";

type Props = Asking & { plan: PlanView };

/** A recipe of one's own: keep it under a name, or go back to the method's steps as they were. */
export function KeepMethod(props: Props) {
  const { asked, change, plan } = props;
  const [open, setOpen] = useState(false);
  const changed = asked.flow.length > 0;
  const more = asked.lines.length > 1 || asked.without.length > 0;
  if (!changed && !more) return null;
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-2 print:hidden">
      {changed && <span className="font-bold text-brass">the flow was changed</span>}
      <Button
        size="small"
        kind={changed ? "plain" : "quiet"}
        className={changed ? "" : "!px-0"}
        onClick={() => setOpen(true)}
      >
        Keep it as a method
      </Button>
      {changed && (
        <Button size="small" kind="quiet" onClick={() => change({ flow: [] })}>
          back to {plan.method.name.toLowerCase()}
        </Button>
      )}
      {open && <Sheet {...props} onClose={() => setOpen(false)} />}
    </div>
  );
}

function Sheet({ asked, change, plan, sent, onClose }: Props & { onClose: () => void }) {
  const keep = useKeepMethod();
  const [name, setName] = useState(plan.method.own ? plan.method.name : "");
  const [from, setFrom] = useState(asked.from || plan.method.adapted_from);
  const [note, setNote] = useState(plan.method.note);
  const refused = keep.error instanceof Refused ? keep.error : undefined;
  return (
    <Dialog
      open
      onClose={onClose}
      title="Keep this recipe"
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
              plan: sent,
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
