import type { HouseholdCreate } from "@/api/types";
import type { System } from "@/lib/units";
import { measureIn, typed } from "@/lib/units";
import { Choice } from "@/ui/choice";
import { NumberField, parse } from "@/ui/field";
import { Tick } from "@/ui/tick";

/** What a kitchen has, as it is ticked on the first day. */
export type Told = {
  units: System;
  juicer: boolean;
  basket: string;
  canner: "bath" | "steam" | "none";
  holds: string;
  pot: string;
  width: string;
  reads: string[];
  jars: Record<string, string>;
};

export const BARE: Told = {
  units: "metric",
  juicer: false,
  basket: "8",
  canner: "bath",
  holds: "7",
  pot: "",
  width: "",
  reads: ["jug"],
  jars: {},
};

const READS = [
  ["thermometer", "thermometer"],
  ["scale", "scale"],
  ["jug", "measuring jug"],
  ["ruler", "ruler"],
  ["refractometer", "refractometer"],
  ["hydrometer", "hydrometer"],
  ["ph_meter", "pH meter"],
  ["ph_strip", "pH strips"],
] as const;

const JARS = {
  metric: [
    ["m250", "250 ml"],
    ["m500", "500 ml"],
    ["m750", "750 ml"],
  ],
  us: [
    ["half_pint", "half pints"],
    ["pint", "pints"],
    ["quart", "quarts"],
  ],
} as const;

/** As it is sent: only what is there. */
export function things(told: Told): NonNullable<HouseholdCreate["things"]> {
  const said = (text: string, quantity: string) => {
    const value = parse(text);
    return value === null ? null : typed(value, measureIn(told.units, quantity));
  };
  const jars = Object.entries(told.jars).map(([kind, n]) => [kind, parse(n) ?? 0] as const);
  return {
    units: told.units,
    juicer_l: told.juicer ? (said(told.basket, "litres") ?? 8) : null,
    canner: told.canner === "none" ? null : told.canner,
    canner_jars: parse(told.holds) ?? 7,
    pot_l: said(told.pot, "litres"),
    pot_cm: said(told.width, "depth_cm"),
    instruments: told.reads,
    jars: Object.fromEntries(jars.filter(([, n]) => n > 0)),
  };
}

type Props = { told: Told; onChange: (told: Told) => void };

/** The units that everything is said in, asked before the first figure. */
export function Units({ told, onChange }: Props) {
  return (
    <Choice
      label="Weighs and measures in"
      value={told.units}
      onChange={(units) => onChange({ ...told, units, jars: {} })}
      options={[
        { value: "metric", label: "kilos, litres" },
        { value: "us", label: "pounds, US cups" },
        { value: "imperial", label: "pounds, pints" },
      ]}
    />
  );
}

/** What stands in the kitchen, in a few presses: plans are made with that and nothing else. */
export function Things({ told, onChange }: Props) {
  const litre = measureIn(told.units, "litres");
  const say = (next: Partial<Told>) => onChange({ ...told, ...next });
  const reads = (which: string) =>
    say({
      reads: told.reads.includes(which)
        ? told.reads.filter((r) => r !== which)
        : [...told.reads, which],
    });
  return (
    <fieldset className="grid content-start gap-4">
      <legend className="mb-3">
        <h2>What is in it?</h2>
        <span className="block text-base text-slate">
          Plans are made with this. All of it can be changed under Kitchen.
        </span>
      </legend>
      <div className="grid items-end gap-3 wide:grid-cols-[1fr_7.5rem]">
        <Tick
          label="A steam juicer"
          note="Without one: simmer and hang, press, steep."
          on={told.juicer}
          onChange={(juicer) => say({ juicer })}
        />
        {told.juicer && (
          <NumberField
            label="Basket"
            unit={litre.unit}
            value={told.basket}
            onChange={(basket) => say({ basket })}
          />
        )}
      </div>
      <div className="grid items-end gap-3 wide:grid-cols-[1fr_7.5rem]">
        <Choice
          label="Jars for a shelf are boiled in"
          value={told.canner}
          onChange={(canner) => say({ canner })}
          options={[
            { value: "bath", label: "a deep pot" },
            { value: "steam", label: "a steam canner" },
            { value: "none", label: "nothing yet" },
          ]}
        />
        {told.canner !== "none" && (
          <NumberField
            label="It takes"
            unit="jars"
            value={told.holds}
            onChange={(holds) => say({ holds })}
          />
        )}
      </div>
      <div className="grid grid-cols-2 gap-3">
        <NumberField
          label="The largest pot"
          unit={litre.unit}
          placeholder="if known"
          value={told.pot}
          onChange={(pot) => say({ pot })}
        />
        <NumberField
          label="Its width inside"
          unit={measureIn(told.units, "depth_cm").unit}
          placeholder="if known"
          value={told.width}
          onChange={(width) => say({ width })}
        />
      </div>
      <div>
        <p className="text-base text-slate">Reads with</p>
        <div className="grid grid-cols-2 gap-x-3 wide:grid-cols-4">
          {READS.map(([which, label]) => (
            <Tick
              key={which}
              label={label}
              on={told.reads.includes(which)}
              onChange={() => reads(which)}
            />
          ))}
        </div>
      </div>
      <div>
        <p className="text-base text-slate">Jars that stand ready</p>
        <div className="grid grid-cols-3 gap-3">
          {JARS[told.units === "metric" ? "metric" : "us"].map(([kind, label]) => (
            <NumberField
              key={kind}
              label={label}
              unit=""
              placeholder="0"
              value={told.jars[kind] ?? ""}
              onChange={(n) => say({ jars: { ...told.jars, [kind]: n } })}
            />
          ))}
        </div>
      </div>
    </fieldset>
  );
}
