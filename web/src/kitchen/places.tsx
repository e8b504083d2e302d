import type { KitchenView } from "@/api/types";
import type { Field, Values } from "@/kitchen/edit-sheet";
import { figures } from "@/kitchen/figures";
import { Rows } from "@/kitchen/rows";
import { holds, temperature } from "@/lib/format";

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
    { key: "temp_c", label: "Temperature", type: "number", unit: "°C", quantity: "temp_c" },
    cold
      ? {
          key: "room_l",
          label: "Room for bowls and jugs",
          type: "number",
          unit: "l",
          quantity: "litres",
          note: "what drains or rests overnight has to fit",
        }
      : { key: "light", label: "Light falls on the jars", type: "tick" },
  ];
}

/** Places where jars live; their temperatures run the clocks. */
export function Places({ kitchen }: { kitchen: KitchenView }) {
  return (
    <Rows
      name="Places for jars"
      what="places"
      one="A new place"
      rows={kitchen.places}
      fresh={NEW}
      fields={fields}
      values={(place) => figures(place, NEW)}
      list="grid gap-1"
      row="grid min-h-11 w-full grid-cols-[4rem_1fr_auto] items-center gap-3 text-left"
    >
      {(place) => (
        <>
          <span
            className={`border-wood border-b-4 text-right font-bold text-lg ${place.temp_c < 8 ? "bg-cold" : ""} px-1`}
          >
            {temperature(place.temp_c)}
          </span>
          <span className="font-bold text-lg">{place.name}</span>
          <span className="text-base text-slate">
            {place.kind}
            {place.light ? ", in the light" : ""}
            {place.room_l === null ? "" : `, ${holds(1000 * place.room_l)} free`}
          </span>
        </>
      )}
    </Rows>
  );
}
