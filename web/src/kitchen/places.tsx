import { useState } from "react";
import type { KitchenView, Place } from "@/api/types";
import { EditSheet, type Field, type Values } from "@/kitchen/edit-sheet";
import { Part } from "@/kitchen/part";
import { plain, short } from "@/lib/format";
import { Button } from "@/ui/button";

const NEW: Values = { kind: "shelf", name: "", temp_c: 18, light: false, room_l: null };

function fields(values: Values): Field[] {
  const cold = values.kind === "refrigerator" || values.kind === "freezer";
  return [
    {
      key: "kind",
      label: "Kind",
      type: "choice",
      options: ["shelf", "cellar", "refrigerator", "freezer"].map((v) => ({ value: v, label: v })),
    },
    { key: "name", label: "Name", type: "text" },
    { key: "temp_c", label: "Temperature", type: "number", unit: "°C" },
    cold
      ? {
          key: "room_l",
          label: "Room for bowls and jugs",
          type: "number",
          unit: "l",
          note: "what drains or rests overnight has to fit",
        }
      : { key: "light", label: "Light falls on the jars", type: "tick" },
  ];
}

/** Places where jars live; their temperatures run the clocks. */
export function Places({ kitchen }: { kitchen: KitchenView }) {
  const [open, setOpen] = useState<Place | "new" | null>(null);
  const row = open === "new" ? null : open;
  return (
    <Part
      name="Places for jars"
      add={
        <Button size="small" kind="quiet" onClick={() => setOpen("new")}>
          add one
        </Button>
      }
    >
      <ul className="grid gap-1">
        {kitchen.places.map((p) => (
          <li key={p.id}>
            <button
              type="button"
              onClick={() => setOpen(p)}
              className="grid min-h-11 w-full grid-cols-[4rem_1fr_auto] items-center gap-3 text-left hover:bg-tag"
            >
              <span
                className={`border-wood border-b-4 text-right font-bold text-lg ${p.temp_c < 8 ? "bg-cold" : ""} px-1`}
              >
                {plain(p.temp_c, 1)} °C
              </span>
              <span className="font-bold text-lg">{p.name}</span>
              <span className="text-base text-slate">
                {p.kind}
                {p.light ? ", in the light" : ""}
                {p.room_l === null ? "" : `, ${short(p.room_l)} l free`}
              </span>
            </button>
          </li>
        ))}
      </ul>
      {open && (
        <EditSheet
          title={row ? row.name : "A new place"}
          fields={fields}
          first={row ? { ...row } : NEW}
          change={({ id, ...sent }) => ({ act: "put", what: "places", id: row?.id ?? null, sent })}
          drop={row ? { act: "drop", what: "places", id: row.id } : undefined}
          onClose={() => setOpen(null)}
        />
      )}
    </Part>
  );
}
