import { useState } from "react";
import { useEnterProcess } from "@/api/changes";
import { Refused } from "@/api/client";
import type { SafetyView } from "@/api/types";
import { jarSize, plain } from "@/lib/format";
import { Button } from "@/ui/button";
import { Dialog } from "@/ui/dialog";
import { NumberField, parse, TextField } from "@/ui/field";
import { Said } from "@/ui/notice";
import { Pick } from "@/ui/pick";

/** A household's own tested processes: they fill a gap, and lift nothing else. */
export function OwnProcesses({ safety }: { safety: SafetyView }) {
  const [open, setOpen] = useState(false);
  return (
    <section className="mt-8 print:hidden">
      <h2>Your own tested sources</h2>
      <p className="mt-1 max-w-2xl text-lg text-slate">
        Where no tested process exists, a source of your food authority may fill the gap. It never
        lifts a stop on acidity or on what must not be processed, never shortens a table time, and
        is named on every jar made with it.
      </p>
      <ul className="mt-2 grid gap-2">
        {safety.own.map((o) => (
          <li key={o.id} className="border-slate/40 border-t pt-2 text-lg">
            <b>
              {o.product}, to {jarSize(o.jar_ml)}
            </b>
            :{" "}
            {Object.entries(o.minutes)
              .map(([m, minutes]) => `${minutes} min up to ${m} m`)
              .join(", ")}
            , to pH {plain(o.max_ph)}
            <span className="block text-base text-slate">{o.source}</span>
          </li>
        ))}
      </ul>
      <Button className="mt-3" onClick={() => setOpen(true)}>
        Enter a source
      </Button>
      <Dialog open={open} onClose={() => setOpen(false)} title="A tested source of your own">
        <Form safety={safety} onDone={() => setOpen(false)} />
      </Dialog>
    </section>
  );
}

const EMPTY = { jar: "473", minutes: "", ph: "", source: "" };

function Form({ safety, onDone }: { safety: SafetyView; onDone: () => void }) {
  const enter = useEnterProcess();
  const [product, setProduct] = useState(safety.fillable[0] ?? "");
  const [form, setForm] = useState(EMPTY);
  const set = (key: keyof typeof EMPTY) => (value: string) => setForm({ ...form, [key]: value });
  const refused = enter.error instanceof Refused ? enter.error : undefined;
  const items = safety.fillable.map((p) => ({ value: p, label: p.replaceAll("_", " ") }));
  return (
    <form
      className="grid gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        enter.mutate(
          {
            product,
            jar_ml: parse(form.jar) ?? 0,
            minutes: parse(form.minutes) ?? 0,
            up_to_m: Math.ceil(safety.altitude_m ?? 0),
            max_ph: parse(form.ph) ?? 0,
            source: form.source,
          },
          { onSuccess: onDone },
        );
      }}
    >
      <Pick
        label="Product"
        value={product}
        items={items}
        onChange={setProduct}
        error={refused?.at("/product")}
      />
      <div className="grid grid-cols-2 gap-3">
        <NumberField
          label="Largest jar"
          unit="ml"
          value={form.jar}
          onChange={set("jar")}
          error={refused?.at("/jar_ml")}
        />
        <NumberField
          label="At a full boil, here"
          unit="min"
          value={form.minutes}
          onChange={set("minutes")}
          error={refused?.at("/minutes")}
        />
      </div>
      <NumberField
        label="Tested up to"
        unit="pH"
        value={form.ph}
        onChange={set("ph")}
        error={refused?.at("/max_ph")}
        note="Every batch is read with a meter before its canner."
      />
      <TextField
        label="Where is it published, and when?"
        value={form.source}
        onChange={set("source")}
        error={refused?.at("/source")}
      />
      {refused && !refused.problem.errors?.length && <Said error={refused} />}
      <Button kind="go" size="large" type="submit" disabled={enter.isPending}>
        Enter it
      </Button>
    </form>
  );
}
