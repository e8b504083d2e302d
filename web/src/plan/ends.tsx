import { useState } from "react";
import type { EndView, KitchenView, PlanView, ServingView } from "@/api/types";
import { plain } from "@/lib/format";
import { type Asked, endOf, withEnd, withLine } from "@/plan/asked";
import { Rack } from "@/plan/rack";
import { Cautions, EndVerdict } from "@/plan/verdict";
import { Button } from "@/ui/button";
import { Choice } from "@/ui/choice";
import { TextField } from "@/ui/field";
import { Pick } from "@/ui/pick";

type Props = {
  asked: Asked;
  change: (next: Partial<Asked>) => void;
  plan: PlanView;
  kitchen: KitchenView;
  error: string | undefined;
};

/** The ends of a flow, each with its jars, its verdict, and how it is thinned in the glass. */
export function Ends({ asked, change, plan, kitchen, error }: Props) {
  return (
    <div className="grid gap-4">
      {plan.ends.map((end) => (
        <End
          key={end.key}
          end={end}
          several={plan.ends.length > 1}
          asked={asked}
          change={change}
          kitchen={kitchen}
          error={error}
        />
      ))}
      <Cautions plan={plan} />
    </div>
  );
}

type EndProps = Omit<Props, "plan"> & { end: EndView; several: boolean };

function End({ end, several, asked, change, kitchen, error }: EndProps) {
  const [open, setOpen] = useState(false);
  const set = (next: { keep?: string; jars?: string; name?: string }) =>
    change({ ends: withEnd(asked, end.key, next) });
  const remedy = (what: string) => {
    const [key, value = ""] = what.split("=");
    if (key === "acid") change({ lines: withLine(asked, { text: `${value} g citric acid` }) });
    else if (key === "line") change({ lines: withLine(asked, { text: value }) });
    else if (key === "keep") set({ keep: value });
    else set({ jars: "" });
  };
  const shown = !several || open;
  return (
    <section
      aria-label={several ? end.label : "Jars"}
      className={several ? "border-slate/50 border-b pb-3" : ""}
    >
      {several && (
        <div className="flex items-baseline justify-between gap-2">
          <h2>{end.label}</h2>
          <button
            type="button"
            aria-expanded={open}
            onClick={() => setOpen(!open)}
            className="min-h-8 text-slate underline decoration-dotted underline-offset-4 print:hidden"
          >
            {open ? "less" : "change"}
          </button>
        </div>
      )}
      <Rack end={end} kitchen={kitchen} small={several} brief={!shown} />
      <EndVerdict end={end} onChange={remedy} brief={!shown} of={several ? end.label : ""} />
      <Thin servings={end.servings} />
      {shown && (
        <div className="mt-2 grid gap-2 print:hidden">
          <Choice
            label="Kept"
            value={end.keep}
            onChange={(keep) => set({ keep })}
            options={[
              { value: "shelf", label: "shelf" },
              { value: "chill", label: "cold" },
              { value: "freeze", label: "frozen" },
            ]}
          />
          <JarPick
            end={end}
            asked={asked}
            kitchen={kitchen}
            onChange={(jars) => set({ jars })}
            error={error}
          />
          <Named
            value={endOf(asked, end.key).name ?? ""}
            usual={end.label}
            onChange={(name) => set({ name })}
          />
        </div>
      )}
    </section>
  );
}

type NamedProps = { value: string; usual: string; onChange: (name: string) => void };

/** The name that goes on its label, where the usual one will not do. */
function Named({ value, usual, onChange }: NamedProps) {
  const [open, setOpen] = useState(value !== "");
  if (!open)
    return (
      <Button
        size="small"
        kind="quiet"
        className="!px-0 justify-self-start"
        onClick={() => setOpen(true)}
      >
        Give it a name
      </Button>
    );
  return <TextField label="Its name" placeholder={usual} value={value} onChange={onChange} />;
}

/** How it is thinned: parts of water to one, and what that is in a glass. */
function Thin({ servings }: { servings: ServingView[] }) {
  const [with_, setWith] = useState(0);
  const s = servings[with_] ?? servings[0];
  if (!s) return null;
  const glass = `${plain(s.base_ml, 5)} ml in a glass of ${plain(s.glass_ml, 10)}`;
  return (
    <button
      type="button"
      title={`the ${s.limited_by === "sweet" ? "sweetness" : "sharpness"} asks for so much`}
      onClick={() => setWith((with_ + 1) % servings.length)}
      className="mt-1 block min-h-8 text-left text-slate"
    >
      thin <b className="text-ink">1 : {plain(s.parts)}</b> with{" "}
      <span className="underline decoration-dotted underline-offset-4">{s.diluent}</span>: {glass}
    </button>
  );
}

type JarProps = {
  end: EndView;
  asked: Asked;
  kitchen: KitchenView;
  onChange: (jars: string) => void;
  error: string | undefined;
};

function JarPick({ end, asked, kitchen, onChange, error }: JarProps) {
  const ready = kitchen.jar_kinds.filter((k) => k.jars > 0);
  const items = ready.map((k) => ({
    value: k.key,
    label: k.name,
    note: `${Math.min(k.jars, k.lids)} ready`,
  }));
  const several = ready.length > 1 ? [{ value: "*", label: "any, fewest loads" }] : [];
  const everything = ready.map((k) => k.key).join(" ");
  const chosen = endOf(asked, end.key).jars;
  const shown = chosen === everything ? "*" : chosen || end.jar_kinds[0] || "";
  if (items.length === 0) return <p className="text-lg">There are no jars in stock.</p>;
  return (
    <Pick
      label="Into"
      value={shown}
      items={[...items, ...several]}
      onChange={(jars) => onChange(jars === "*" ? everything : jars)}
      error={error}
    />
  );
}
