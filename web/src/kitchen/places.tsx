import type { KitchenView } from "@/api/types";
import type { Field, Values } from "@/kitchen/edit-sheet";
import { figures } from "@/kitchen/figures";
import { Rows } from "@/kitchen/rows";
import { holds, temperature } from "@/lib/format";

const NEW: Values = {
  kind: "shelf",
  name: "",
  temp_c: 18,
  light: false,
  room_l: null,
  swing_c: 0,
  warmest_day: 205,
};

/** What a place that is not cooled has besides. */
const BY_SEASON: Field[] = [
  {
    key: "swing_c",
    label: "Warmer by, on its warmest day",
    type: "number",
    unit: "°C",
    quantity: "span_c",
    note: "and as much colder half a year later; none where it stays the same",
  },
  {
    key: "warmest_day",
    label: "Warmest in",
    type: "pick",
    options: [
      { value: "205", label: "late July" },
      { value: "235", label: "late August" },
      { value: "22", label: "late January" },
      { value: "52", label: "late February" },
    ],
  },
  { key: "light", label: "Light falls on the jars", type: "tick" },
];

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
    {
      key: "temp_c",
      label: cold ? "Temperature" : "Temperature, over the year",
      type: "number",
      unit: "°C",
      quantity: "temp_c",
    },
    {
      key: "room_l",
      label: cold ? "Room for bowls and jugs" : "Room for jars, by what is in them",
      type: "number",
      unit: "l",
      quantity: "litres",
      note: cold
        ? "what drains or rests overnight has to fit"
        : "a plan says when it would be full",
    },
    ...(cold ? [] : BY_SEASON),
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
            {place.swing_c ? `, up to ${temperature(place.temp_c + place.swing_c)}` : ""}
            {place.room_l === null ? "" : `, ${holds(1000 * place.room_l)} of room`}
          </span>
        </>
      )}
    </Rows>
  );
}
