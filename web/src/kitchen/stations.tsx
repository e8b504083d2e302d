import type { KitchenStation, KitchenView } from "@/api/types";
import type { Field, Values } from "@/kitchen/edit-sheet";
import { figures } from "@/kitchen/figures";
import { Rows } from "@/kitchen/rows";
import { count, holds, litres, plain } from "@/lib/format";

const KINDS = [
  { value: "burner", label: "burner" },
  { value: "juicer", label: "juicer" },
  { value: "canner", label: "canner" },
  { value: "worktop", label: "worktop" },
  { value: "freeze_dryer", label: "freeze dryer" },
  { value: "dryer", label: "warm-air dryer" },
];
const TRAYED = new Set(["freeze_dryer", "dryer"]);
const POWERED = new Set(["burner", "juicer", "canner"]);

const NEW: Values = {
  kind: "burner",
  name: "",
  power_kw: 2,
  power_kind: "electric",
  basket_l: null,
  pan_l: null,
  jars: null,
  heater: null,
  trays: null,
  tray_cm2: null,
  tray_mm: null,
  tray_kg: null,
};

/** Stations: what a step occupies, with the sizes and the power that times come from. */
export function Stations({ kitchen }: { kitchen: KitchenView }) {
  return (
    <Rows
      name="Stations"
      what="stations"
      one="A new station"
      rows={kitchen.stations}
      fresh={NEW}
      fields={fields}
      values={(station) => figures(station, NEW)}
      sent={cleaned}
      list="grid gap-1"
      row="grid min-h-11 w-full grid-cols-[2.5rem_1fr_auto] items-center gap-3 text-left"
    >
      {(station) => (
        <>
          <Icon kind={station.kind} />
          <span className="font-bold text-lg">{station.name}</span>
          <span className="text-base text-slate">{sizes(station)}</span>
        </>
      )}
    </Rows>
  );
}

function fields(values: Values): Field[] {
  const kind = String(values.kind);
  const known = KINDS.some((k) => k.value === kind);
  const found: Field[] = [{ key: "name", label: "Name", type: "text" }];
  if (known) found.unshift({ key: "kind", label: "Kind", type: "choice", options: KINDS });
  if (kind === "juicer")
    found.push(
      { key: "basket_l", label: "Basket", type: "number", unit: "l", quantity: "litres" },
      { key: "pan_l", label: "Water pan", type: "number", unit: "l", quantity: "litres" },
    );
  if (kind === "canner")
    found.push(
      { key: "jars", label: "Holds", type: "number", unit: "jars" },
      {
        key: "heater",
        label: "Works with",
        type: "choice",
        options: [
          { value: "bath", label: "boiling water" },
          { value: "steam", label: "steam" },
        ],
      },
    );
  if (TRAYED.has(kind))
    found.push(
      { key: "trays", label: "Trays", type: "number", unit: "" },
      { key: "tray_cm2", label: "Each is", type: "number", unit: "cm²" },
    );
  if (kind === "freeze_dryer")
    found.push(
      { key: "tray_mm", label: "And deep", type: "number", unit: "mm" },
      { key: "tray_kg", label: "Takes at most", type: "number", unit: "kg", quantity: "kilos" },
    );
  if (POWERED.has(kind))
    found.push(
      { key: "power_kw", label: "Power", type: "number", unit: "kW" },
      {
        key: "power_kind",
        label: "Heated by",
        type: "choice",
        options: ["electric", "gas", "induction"].map((v) => ({ value: v, label: v })),
      },
    );
  return found;
}

/** Sizes that a kind does not have are sent as unknown. */
function cleaned(values: Values): Values {
  const asked = new Set(fields(values).map((f) => f.key));
  return Object.fromEntries(
    Object.entries(values).map(([k, v]) => [
      k,
      k === "kind" || asked.has(k) ? (v === "" ? null : v) : null,
    ]),
  );
}

function sizes(s: KitchenStation): string {
  const words = [
    s.basket_l ? `basket ${holds(1000 * s.basket_l)}, pan ${holds(1000 * (s.pan_l ?? 0))}` : "",
    s.jars ? `${count(s.jars, "jar")}, ${s.heater === "steam" ? "steam" : "boiling water"}` : "",
    s.trays
      ? `${count(s.trays, "tray")}${s.tray_cm2 ? ` of ${plain(s.tray_cm2, 1)} cm²` : ""}`
      : "",
    s.power_kw ? `${plain(s.power_kw)} kW` : "",
    s.kind === "juicer" && s.boil_off_l_h
      ? `boils off ${litres(1000 * s.boil_off_l_h)} an hour`
      : "",
  ];
  return words.filter(Boolean).join(" · ");
}

const ICONS: Record<string, string> = {
  juicer: "M6 8h20v8H6zM4 16h24v6H4zM3 22h26v6H3zM10 8q6-6 12 0",
  burner: "M16 6a10 10 0 1 1 0 20 10 10 0 0 1 0-20M16 11a5 5 0 1 1 0 10 5 5 0 0 1 0-10",
  canner: "M5 10h22v18H5zM3 10h26M10 15h4v10h-4zM18 15h4v10h-4z",
  worktop: "M2 12h28v5H2zM6 17v11M26 17v11",
  cool_rack: "M3 24h26M7 24v4M25 24v4M7 12h6v12H7zM19 12h6v12h-6z",
  fridge: "M8 3h16v26H8zM8 12h16M20 6v3M20 15v4",
  freeze_dryer: "M4 5h24v22H4zM8 9h16v14H8zM8 14h16M8 18h16M26 26l3 3",
  dryer: "M5 5h22v22H5zM5 11h22M5 16h22M5 21h22M11 2q3-2 5 0t5 0",
  freezer: "M4 8h24v20H4zM4 8l3-4h18l3 4M16 13v10M11 15l10 6M21 15l-10 6",
};

function Icon({ kind }: { kind: string }) {
  return (
    <svg width="32" height="32" viewBox="0 0 32 32" aria-hidden="true">
      <path d={ICONS[kind]} fill="none" stroke="var(--line)" strokeWidth="1.75" />
    </svg>
  );
}
