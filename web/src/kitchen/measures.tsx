import { useState } from "react";
import { useFurnish } from "@/api/changes";
import { Refused } from "@/api/client";
import type { KitchenView } from "@/api/types";
import { Part } from "@/kitchen/part";
import { mass, plain } from "@/lib/format";
import { measureOf, typed } from "@/lib/units";
import { Button } from "@/ui/button";
import { Choice } from "@/ui/choice";
import { NumberField, parse, TextField } from "@/ui/field";
import { Said } from "@/ui/notice";
import { Tick } from "@/ui/tick";

const NAMES: Record<string, string> = {
  jug: "measuring jug",
  scale: "scale",
  thermometer: "thermometer",
  refractometer: "refractometer",
  hydrometer: "hydrometer",
  ph_meter: "pH meter",
  ph_strip: "pH strips",
  ruler: "ruler or marked spoon",
};

/** Which instruments there are; none is fine, and a step only asks for what can be read. */
export function Instruments({ kitchen }: { kitchen: KitchenView }) {
  const furnish = useFurnish();
  const there = new Set(kitchen.instruments);
  const toggle = (name: string, on: boolean) => {
    const next = new Set(there);
    if (on) next.add(name);
    else next.delete(name);
    furnish.mutate({ act: "kitchen", sent: { instruments: [...next] } });
  };
  return (
    <Part name="Instruments">
      <div className="grid grid-cols-2 gap-x-4">
        {kitchen.all_instruments.map((name) => (
          <Tick
            key={name}
            label={NAMES[name] ?? name}
            on={there.has(name)}
            onChange={(on) => toggle(name, on)}
          />
        ))}
      </div>
      <p className="mt-2 text-base text-slate">{buys(there)}</p>
      <Said error={furnish.error} />
    </Part>
  );
}

/** What the one most useful next instrument would buy. */
function buys(there: Set<string>): string {
  if (!there.has("thermometer"))
    return "Without a thermometer juice is heated to a full boil before it is filled.";
  if (!there.has("ph_meter"))
    return "Without a pH meter sharp fruit still goes on the shelf; fruit that can be mild is chilled or frozen.";
  if (!there.has("refractometer") && !there.has("hydrometer"))
    return "A refractometer would halve the range of every sweetness.";
  return "With these, ranges are as narrow as a kitchen gets.";
}

const SYSTEMS = [
  { value: "metric", label: "metric" },
  { value: "us", label: "US" },
  { value: "imperial", label: "imperial" },
] as const;

/** Water, units, cup and the household's own containers. */
export function Measures({ kitchen }: { kitchen: KitchenView }) {
  const furnish = useFurnish();
  const [hardness, setHardness] = useState(
    kitchen.hardness_mg_l === null ? "" : plain(kitchen.hardness_mg_l, 1),
  );
  const [humidity, setHumidity] = useState(
    kitchen.humidity_pct === null ? "" : plain(kitchen.humidity_pct, 1),
  );
  const refused = furnish.error instanceof Refused ? furnish.error : undefined;
  return (
    <Part name="Water and measures">
      <div className="grid gap-4 wide:grid-cols-2">
        <Choice
          label="Weights and volumes are"
          value={kitchen.units as "metric"}
          onChange={(units) => furnish.mutate({ act: "kitchen", sent: { units } })}
          options={[...SYSTEMS]}
        />
        <Choice
          label="A cup here is"
          value={kitchen.cup as "metric"}
          onChange={(cup) => furnish.mutate({ act: "kitchen", sent: { cup } })}
          options={[...SYSTEMS]}
        />
      </div>
      <form
        className="mt-4 grid grid-cols-[1fr_auto] items-end gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          furnish.mutate({ act: "kitchen", sent: { hardness_mg_l: parse(hardness) } });
        }}
      >
        <NumberField
          label="Water hardness, as lime"
          unit="mg/l"
          placeholder="soft, or not known"
          value={hardness}
          onChange={setHardness}
          error={refused?.at("/hardness_mg_l")}
        />
        <Button type="submit">Keep</Button>
      </form>
      <p className="mt-1 text-base text-slate">
        A bare number of fruit is {kitchen.units === "metric" ? "kilos" : "pounds"}. Hard water
        takes some of the acid's strength in steeps and second pressings.
      </p>
      <form
        className="mt-4 grid grid-cols-[1fr_auto] items-end gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          furnish.mutate({ act: "kitchen", sent: { humidity_pct: parse(humidity) } });
        }}
      >
        <NumberField
          label="Humidity of the room"
          unit="%"
          placeholder="55, if nobody measures it"
          value={humidity}
          onChange={setHumidity}
          error={refused?.at("/humidity_pct")}
        />
        <Button type="submit">Keep</Button>
      </form>
      <p className="mt-1 text-base text-slate">
        Powder and dried slices take up water from the air: how long they may lie open hangs on it.
      </p>
      <Containers kitchen={kitchen} />
      {!refused?.problem.errors?.length && <Said error={furnish.error} />}
    </Part>
  );
}

/** What this household calls a crate or a bucket, and what it holds. */
function Containers({ kitchen }: { kitchen: KitchenView }) {
  const furnish = useFurnish();
  const [name, setName] = useState("");
  const [kg, setKg] = useState("");
  const measure = measureOf("mass_g");
  const grams = parse(kg);
  const keep = (containers: Record<string, number>) =>
    furnish.mutate({ act: "kitchen", sent: { containers } }, { onSuccess: () => setName("") });
  return (
    <div className="mt-4">
      <h3 className="text-lg">Containers of our own</h3>
      <ul className="mt-1 grid gap-1">
        {Object.entries(kitchen.containers).map(([n, g]) => (
          <li key={n} className="flex items-center justify-between gap-3 text-lg">
            <span>
              a {n} is <b>{mass(g)}</b>
            </span>
            <Button
              size="small"
              kind="quiet"
              onClick={() => {
                const { [n]: _, ...others } = kitchen.containers;
                keep(others);
              }}
            >
              forget
            </Button>
          </li>
        ))}
      </ul>
      <form
        className="mt-1 grid grid-cols-[1fr_7rem_auto] items-end gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          if (name && grams)
            keep({ ...kitchen.containers, [name.trim().toLowerCase()]: typed(grams, measure) });
        }}
      >
        <TextField label="A" placeholder="crate, bucket, basket" value={name} onChange={setName} />
        <NumberField label="holds" unit={measure.unit} value={kg} onChange={setKg} />
        <Button type="submit" disabled={!name || !grams}>
          Add
        </Button>
      </form>
      <Said error={furnish.error} />
    </div>
  );
}
