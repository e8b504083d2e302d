import { useState } from "react";
import type { KitchenView, Vessel } from "@/api/types";
import { EditSheet, type Field, type Values } from "@/kitchen/edit-sheet";
import { Part } from "@/kitchen/part";
import { short } from "@/lib/format";
import { Button } from "@/ui/button";

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
  const [open, setOpen] = useState<Vessel | "new" | null>(null);
  const row = open === "new" ? null : open;
  const largest = Math.max(8, ...kitchen.vessels.map((v) => v.litres));
  return (
    <Part
      name="Pots, bowls and jugs"
      add={
        <Button size="small" kind="quiet" onClick={() => setOpen("new")}>
          add one
        </Button>
      }
    >
      {kitchen.vessels.length === 0 && (
        <p className="text-lg">None listed, so no plan can tell whether one would overflow.</p>
      )}
      <ul className="flex flex-wrap items-end gap-x-4 gap-y-3">
        {kitchen.vessels.map((v) => (
          <li key={v.id}>
            <button
              type="button"
              onClick={() => setOpen(v)}
              className="block text-center hover:bg-tag"
            >
              <Drawn vessel={v} size={34 + 50 * Math.cbrt(v.litres / largest)} />
              <span className="block font-bold">{v.name}</span>
              <span className="block text-base text-slate">
                {v.count > 1 ? `${v.count} × ` : ""}
                {short(v.litres)} l
              </span>
            </button>
          </li>
        ))}
      </ul>
      {open && (
        <EditSheet
          title={row ? row.name : "A new vessel"}
          fields={() => FIELDS}
          first={row ? { ...row } : NEW}
          change={({ id, ...sent }) => ({ act: "put", what: "vessels", id: row?.id ?? null, sent })}
          drop={row ? { act: "drop", what: "vessels", id: row.id } : undefined}
          onClose={() => setOpen(null)}
        />
      )}
    </Part>
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
