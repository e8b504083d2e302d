import type { KitchenView, Vessel } from "@/api/types";
import type { Field, Values } from "@/kitchen/edit-sheet";
import { figures } from "@/kitchen/figures";
import { Rows } from "@/kitchen/rows";
import { short } from "@/lib/format";

const NEW: Values = { kind: "pot", name: "", litres: null, count: 1, diameter_cm: null };

const FIELDS: Field[] = [
  {
    key: "kind",
    label: "Kind",
    type: "choice",
    options: ["pot", "bowl", "jug"].map((v) => ({ value: v, label: v })),
  },
  { key: "name", label: "Name", type: "text" },
  { key: "litres", label: "Holds to the brim", type: "number", unit: "l" },
  { key: "count", label: "How many", type: "number", unit: "" },
  {
    key: "diameter_cm",
    label: "Wide inside",
    type: "number",
    unit: "cm",
    note: "lets a spoon's depth tell how much water went in",
  },
];

/** Pots, bowls and jugs, drawn by what they hold: a step that would overflow is caught in Plan. */
export function Vessels({ kitchen }: { kitchen: KitchenView }) {
  const largest = Math.max(8, ...kitchen.vessels.map((v) => v.litres));
  return (
    <Rows
      name="Pots, bowls and jugs"
      what="vessels"
      one="A new vessel"
      rows={kitchen.vessels}
      none="None listed, so no plan can tell whether one would overflow."
      fresh={NEW}
      fields={() => FIELDS}
      values={(vessel) => figures(vessel, NEW)}
      list="flex flex-wrap items-end gap-x-4 gap-y-3"
      row="block text-center"
    >
      {(vessel) => (
        <>
          <Drawn vessel={vessel} size={34 + 50 * Math.cbrt(vessel.litres / largest)} />
          <span className="block font-bold">{vessel.name}</span>
          <span className="block text-base text-slate">
            {vessel.count > 1 ? `${vessel.count} × ` : ""}
            {short(vessel.litres)} l
          </span>
        </>
      )}
    </Rows>
  );
}

const SHAPE: Record<string, string> = {
  pot: "M12 14H68V62H12ZM2 24H12M68 24H78",
  bowl: "M4 26H76C74 52 60 64 40 64S6 52 4 26Z",
  jug: "M18 8H60L66 14 60 64H22ZM62 20Q78 22 74 38T58 50",
};

function Drawn({ vessel, size }: { vessel: Vessel; size: number }) {
  return (
    <svg
      width={size}
      height={size * 0.86}
      viewBox="0 0 80 68"
      aria-hidden="true"
      className="mx-auto"
    >
      <path d={SHAPE[vessel.kind]} fill="var(--paper)" stroke="var(--line)" strokeWidth="2.5" />
    </svg>
  );
}
