import type { Refused } from "@/api/client";
import type { KitchenView, PlanView } from "@/api/types";
import { count, plain, short } from "@/lib/format";
import type { Asked } from "@/plan/asked";
import { Choice } from "@/ui/choice";
import { NumberField, TextField } from "@/ui/field";
import { Pick } from "@/ui/pick";

type Props = {
  asked: Asked;
  change: (next: Partial<Asked>) => void;
  kitchen: KitchenView;
  plan: PlanView | undefined;
  refused: Refused | undefined;
};

/** The left column: what came in, and what it should become. */
export function CameIn({ asked, change, kitchen, plan, refused }: Props) {
  const lines =
    plan && !refused
      ? `${count(plan.loads, "load")} of ${plain(plan.kg_per_load)} kg in a basket of ${short(kitchen.basket_l)} l`
      : undefined;
  const fruits = kitchen.fruits.map((f) => ({
    value: f.key,
    label: f.name,
    colour: f.colour,
    disabled: !f.steamed,
  }));
  return (
    <div className="grid gap-3">
      <h2>What came in</h2>
      <Pick
        label="Fruit"
        value={asked.fruit}
        items={fruits}
        onChange={(fruit) => change({ fruit, brix: "", ph: "", acid: "" })}
        error={refused?.at("/fruit_key")}
      />
      <div className="grid grid-cols-2 gap-3">
        <NumberField
          label="Prepared"
          unit="kg"
          value={asked.kg}
          onChange={(kg) => change({ kg })}
          error={refused?.at("/fruit_kg")}
        />
        <NumberField
          label="Loads"
          unit=""
          placeholder={plan ? String(plan.loads) : ""}
          value={asked.loads}
          onChange={(loads) => change({ loads })}
          error={refused?.at("/loads")}
        />
      </div>
      <p className="-mt-2 text-base text-slate">{lines}</p>
      <h2 className="mt-2">What it should be</h2>
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
        error={refused?.at("/jar_kinds")}
      />
      <Choice
        label="While steaming"
        value={asked.lifts}
        onChange={(lifts) => change({ lifts })}
        options={[
          { value: "0", label: "lid shut" },
          { value: "3", label: "look 3 times" },
        ]}
        note={
          asked.lifts === "0"
            ? "Each look costs water and strength."
            : "Thinner: see the sweetness."
        }
      />
      <h2 className="mt-2">If you can tell</h2>
      <div className="grid grid-cols-2 gap-3">
        <NumberField
          label="Sweetness"
          unit="°Bx"
          placeholder="typical"
          value={asked.brix}
          onChange={(brix) => change({ brix })}
          error={refused?.at("/brix")}
        />
        <NumberField
          label="Acidity"
          unit="pH"
          placeholder="typical"
          value={asked.ph}
          onChange={(ph) => change({ ph })}
          error={refused?.at("/ph")}
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
          error={refused?.at("/citric_acid_g")}
          note="Read the acidity again before the canner."
        />
      )}
      <TextField
        label="From"
        placeholder="tree, plot, market"
        value={asked.source}
        onChange={(source) => change({ source })}
      />
    </div>
  );
}

/** What one measurement would buy. */
function measuring(asked: Asked, plan: PlanView | undefined): string {
  if (asked.brix && asked.ph) return "Both measured: the ranges are narrow.";
  const width = plan?.brix ? plain((plan.brix.hi - plan.brix.lo) / 2) : "3";
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
  const shown = asked.jars === everything ? "*" : asked.jars || plan?.jar_kinds[0] || "";
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
