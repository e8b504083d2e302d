import { useQuery } from "@tanstack/react-query";
import { Collapsible } from "radix-ui";
import type { Refused } from "@/api/client";
import { lotsQuery, methodsQuery } from "@/api/queries";
import type { KitchenView, PlanView } from "@/api/types";
import { TakeIn } from "@/intake/take-in";
import { count, inPounds, mass, plain, short, typedKilos } from "@/lib/format";
import type { Asked } from "@/plan/asked";
import { Choice } from "@/ui/choice";
import { NumberField, TextField } from "@/ui/field";
import { Pick } from "@/ui/pick";
import { Tick } from "@/ui/tick";

type Of<T, K extends keyof T> = { [P in K]: T[P] };

type Props = {
  asked: Asked;
  change: (next: Partial<Asked>) => void;
  kitchen: KitchenView;
  plan: PlanView | undefined;
  refused: Refused | undefined;
};

const FORMS: Record<string, string> = { juice: "bought", pomace: "of another batch" };

/** The left column: what came in, and what it should become. */
export function CameIn({ asked, change, kitchen, plan, refused }: Props) {
  const chosen = kitchen.fruits.find((f) => f.key === asked.fruit);
  const steamed =
    plan && !refused && plan.loads > 0
      ? `${count(plan.loads, "load")} of ${plain(plan.kg_per_load)} kg in a basket of ${short(kitchen.basket_l)} l`
      : undefined;
  return (
    <div className="grid gap-3">
      <h2>What came in</h2>
      <FruitPick
        asked={asked}
        change={change}
        kitchen={kitchen}
        error={refused?.at("/inputs/0/material")}
      />
      <div className="grid grid-cols-2 gap-3">
        <NumberField
          label="How much"
          unit={inPounds() ? "lb" : "kg"}
          value={asked.kg}
          onChange={(kg) => change({ kg })}
          error={refused?.at("/inputs/0/grams")}
        />
        {!asked.lot && chosen && chosen.forms.length > 1 && (
          <Pick
            label="As"
            value={asked.form}
            items={chosen.forms.map((f) => ({ value: f, label: f, note: FORMS[f] ?? "" }))}
            onChange={(form) => change({ form, method: "", flow: "" })}
          />
        )}
      </div>
      {((plan?.loads ?? 0) > 0 || asked.loads !== "") && (
        <div className="grid grid-cols-[4.5rem_1fr] items-end gap-3">
          <NumberField
            label="Loads"
            unit=""
            placeholder={plan ? String(plan.loads) : ""}
            value={asked.loads}
            onChange={(loads) => change({ loads })}
            error={refused?.at("/loads")}
          />
          <p className="pb-1 text-base text-slate leading-tight">{steamed}</p>
        </div>
      )}
      <h2 className="mt-2">What it should be</h2>
      <MethodPick asked={asked} change={change} plan={plan} error={refused?.at("/method_key")} />
      <Choice
        label="Kept"
        value={asked.keep}
        onChange={(keep) => change({ keep })}
        options={[
          { value: "shelf", label: "shelf" },
          { value: "chill", label: "cold" },
          { value: "freeze", label: "frozen" },
        ]}
      />
      <JarPick
        asked={asked}
        change={change}
        kitchen={kitchen}
        plan={plan}
        error={refused?.at("/ends/0/jar_kinds")}
      />
      <Measured asked={asked} change={change} plan={plan} refused={refused} />
      <Sayings asked={asked} change={change} plan={plan} />
    </div>
  );
}

type Part = Of<Props, "asked" | "change" | "plan">;

/** Fruit that waits stands first; anything else can be planned as well. */
function FruitPick({
  asked,
  change,
  kitchen,
  error,
}: Of<Props, "asked" | "change" | "kitchen"> & { error: string | undefined }) {
  const waiting = useQuery(lotsQuery).data ?? [];
  const items = [
    ...waiting.map((l) => ({
      value: `lot-${l.id}`,
      label: `${l.name}${l.source ? `, ${l.source}` : ""}`,
      note: mass(l.left_kg * 1000),
      colour: l.colour,
    })),
    ...kitchen.fruits.map((f) => ({ value: f.key, label: f.name, colour: f.colour })),
  ];
  const take = (value: string) => {
    const fresh = { brix: "", ph: "", acid: "", method: "", flow: "", said: "", loads: "" };
    const lot = waiting.find((l) => `lot-${l.id}` === value);
    if (lot) {
      const kg = typedKilos(lot.left_kg);
      change({ ...fresh, lot: String(lot.id), fruit: lot.fruit_key, form: lot.form, kg });
      return;
    }
    const form = kitchen.fruits.find((f) => f.key === value)?.forms[0] ?? "whole";
    change({ ...fresh, lot: "", fruit: value, form, source: "" });
  };
  return (
    <div className="grid gap-1">
      <Pick
        label="Fruit"
        value={asked.lot ? `lot-${asked.lot}` : asked.fruit}
        items={items}
        onChange={take}
        error={error}
      />
      <TakeIn kitchen={kitchen} onTaken={(lot) => take(`lot-${lot.id}`)} />
    </div>
  );
}

/** The ways that suit what came in. */
function MethodPick({ asked, change, plan, error }: Part & { error: string | undefined }) {
  const methods = useQuery(methodsQuery(asked.fruit, asked.form)).data ?? [];
  if (methods.length === 0) return null;
  return (
    <Pick
      label="How"
      value={asked.method || plan?.method.key || methods[0]?.key || ""}
      items={methods.map((m) => ({
        value: m.key,
        label: m.name,
        ...(m.own ? { note: `own, v${m.version}` } : {}),
      }))}
      onChange={(method) => change({ method, flow: "" })}
      error={error}
    />
  );
}

/** What only a reading can tell; everything works without. */
function Measured({ asked, change, plan, refused }: Part & { refused: Refused | undefined }) {
  return (
    <>
      <h2 className="mt-2">If you can tell</h2>
      <div className="grid grid-cols-2 gap-3">
        <NumberField
          label="Sweetness"
          unit="°Bx"
          placeholder="typical"
          value={asked.brix}
          onChange={(brix) => change({ brix })}
          error={refused?.at("/inputs/0/brix")}
        />
        <NumberField
          label="Acidity"
          unit="pH"
          placeholder="typical"
          value={asked.ph}
          onChange={(ph) => change({ ph })}
          error={refused?.at("/inputs/0/ph")}
        />
      </div>
      <p className="-mt-2 text-base text-slate leading-snug">
        {measuring(asked, plan)} Enter a pH only from a meter: a paper strip clears no stop.
      </p>
      {asked.acid !== "" && (
        <NumberField
          label="Citric acid stirred in"
          unit="g"
          value={asked.acid}
          onChange={(acid) => change({ acid })}
          error={refused?.at("/inputs/1/grams")}
          note="Read the acidity again before the canner."
        />
      )}
      {!asked.lot && (
        <TextField
          label="From"
          placeholder="tree, plot, market"
          value={asked.source}
          onChange={(source) => change({ source })}
        />
      )}
    </>
  );
}

/** What the rule book asks and no instrument tells. */
function Sayings({ asked, change, plan }: Part) {
  const said = new Set(asked.said ? asked.said.split(" ") : []);
  const toggle = (word: string) => {
    const next = new Set(said);
    if (!next.delete(word)) next.add(word);
    change({ said: [...next].join(" ") });
  };
  return (
    <Collapsible.Root defaultOpen={said.size > 0}>
      <Collapsible.Trigger className="min-h-11 text-left text-lg underline decoration-dotted underline-offset-4">
        Anything of this so?
      </Collapsible.Trigger>
      <Collapsible.Content className="grid gap-1">
        {plan?.questions.map((q) => (
          <Tick
            key={q.word}
            label={q.ask}
            on={said.has(q.word) || q.said}
            onChange={() => toggle(q.word)}
          />
        ))}
      </Collapsible.Content>
    </Collapsible.Root>
  );
}

/** What one measurement would buy. */
function measuring(asked: Asked, plan: PlanView | undefined): string {
  if (asked.brix && asked.ph) return "Both measured: the ranges are narrow.";
  const brix = plan?.ends[0]?.brix;
  const width = brix ? plain((brix.hi - brix.lo) / 2) : "3";
  return asked.brix
    ? "A pH reading would narrow the acidity."
    : `Unmeasured, sweetness is good to ±${width}. A refractometer halves that.`;
}

type JarProps = Omit<Props, "refused"> & { error: string | undefined };

function JarPick({ asked, change, kitchen, plan, error }: JarProps) {
  const ready = kitchen.jar_kinds.filter((k) => k.jars > 0);
  const items = ready.map((k) => ({
    value: k.key,
    label: k.name,
    note: `${Math.min(k.jars, k.lids)} ready`,
  }));
  const several = ready.length > 1 ? [{ value: "*", label: "any, fewest loads" }] : [];
  const everything = ready.map((k) => k.key).join(" ");
  const shown = asked.jars === everything ? "*" : asked.jars || plan?.ends[0]?.jar_kinds[0] || "";
  if (items.length === 0) return <p className="text-lg">There are no jars in stock.</p>;
  return (
    <Pick
      label="Into"
      value={shown}
      items={[...items, ...several]}
      onChange={(jars) => change({ jars: jars === "*" ? everything : jars })}
      error={error}
    />
  );
}
