import type { KitchenView, Vessel } from "@/api/types";
import type { Field, Values } from "@/kitchen/edit-sheet";
import { figures } from "@/kitchen/figures";
import { asMarks, marksText } from "@/kitchen/marks";
import { Rows } from "@/kitchen/rows";
import { holds } from "@/lib/format";
import { measureOf } from "@/lib/units";

const NEW: Values = {
  kind: "pot",
  name: "",
  litres: null,
  count: 1,
  diameter_cm: null,
  marks: null,
};

const KINDS = [
  ...["pot", "bowl", "jug", "glass", "can"].map((v) => ({ value: v, label: v })),
  { value: "squeeze", label: "squeeze bottle" },
  ...["box", "bag"].map((v) => ({ value: v, label: v })),
  { value: "cubes", label: "cube tray" },
  { value: "barrier", label: "barrier bag, closed with heat" },
];

const NOTES: Record<string, string> = {
  glass: "what is drunk is reckoned in the first glass that is listed",
  pot: "a step that would overflow it is caught in Plan",
};

function fields(values: Values): Field[] {
  const kind = String(values.kind);
  const found: Field[] = [
    { key: "kind", label: "Kind", type: "pick", options: KINDS },
    { key: "name", label: "Name", type: "text" },
    {
      key: "litres",
      label: "Holds to the brim",
      type: "number",
      unit: "l",
      quantity: "litres",
      ...(NOTES[kind] ? { note: NOTES[kind] } : {}),
    },
    { key: "count", label: "How many", type: "number", unit: "" },
  ];
  if (kind === "pot" || kind === "bowl")
    found.push({
      key: "diameter_cm",
      label: "Wide inside",
      type: "number",
      unit: "cm",
      quantity: "depth_cm",
      note: "lets a spoon's depth tell how much is in it",
    });
  found.push({
    key: "marks",
    label: `Its own marks, from the lowest, in ${measureOf("little_ml").unit}`,
    type: "text",
    note: "so that a line may say: to the second ring of the jug",
  });
  return found;
}

/** Everything that holds something, drawn by how much: to work in, to keep in, to drink from. */
export function Vessels({ kitchen }: { kitchen: KitchenView }) {
  const largest = Math.max(8, ...kitchen.vessels.map((v) => v.litres));
  return (
    <Rows
      name="Pots, jugs, boxes and glasses"
      what="vessels"
      one="A new vessel"
      rows={kitchen.vessels}
      none="None listed, so no plan can tell whether one would overflow."
      fresh={NEW}
      fields={fields}
      values={(vessel) => ({ ...figures(vessel, NEW), marks: marksText(vessel.marks) })}
      sent={(values) => ({ ...values, marks: asMarks(values.marks) })}
      list="flex flex-wrap items-end gap-x-4 gap-y-3"
      row="block text-center"
    >
      {(vessel) => (
        <>
          <Drawn vessel={vessel} size={34 + 50 * Math.cbrt(vessel.litres / largest)} />
          <span className="block font-bold">{vessel.name}</span>
          <span className="block text-base text-slate">
            {vessel.count > 1 ? `${vessel.count} × ` : ""}
            {holds(1000 * vessel.litres)}
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
  glass: "M24 8H56L51 64H29Z",
  can: "M16 18H54V6H64V64H16ZM20 18V8H46V18",
  squeeze: "M36 4H44L46 16Q58 20 58 30V64H22V30Q22 20 34 16Z",
  box: "M8 26H72L68 64H12ZM5 18H75V26H5Z",
  cubes: "M6 34H74L70 56H10ZM6 34H74M23 34V56M40 34V56M57 34V56",
  barrier: "M14 8H66V64H14ZM14 16H66M14 20H66M34 40H46M40 34V46",
  bag: "M16 10H64V20H16ZM16 20Q10 44 14 64H66Q70 44 64 20",
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
