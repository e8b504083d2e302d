import { useState } from "react";
import { useFurnish } from "@/api/changes";
import type { JarKind, KitchenView } from "@/api/types";
import { Button } from "@/ui/button";
import { NumberField, parse, TextField } from "@/ui/field";
import { Lid } from "@/ui/lid";
import { Said } from "@/ui/notice";
import { Pick } from "@/ui/pick";

const CLOSURES = [
  { value: "-", label: "new lids" },
  { value: "reusable", label: "reusable lids" },
  { value: "one_piece", label: "one-piece lids" },
];

/** Lids that are counted by themselves: by what they are and by their colour. */
export function OtherLids({ jar, kitchen }: { jar: JarKind; kitchen: KitchenView }) {
  const furnish = useFurnish();
  const [closure, setClosure] = useState("-");
  const [colour, setColour] = useState("red");
  const [text, setText] = useState("");
  const [packet, setPacket] = useState("");
  const count = parse(text);
  const there = kitchen.jar_kinds.find((k) => k.key === jar.key)?.other_lids ?? [];
  const colours = [
    ...(closure === "-" ? [] : [{ value: "-", label: "as they are" }]),
    ...Object.keys(kitchen.lids).map((name) => ({ value: name, label: name })),
  ];
  return (
    <fieldset className="grid gap-3 border-line border-t-2 pt-3">
      <legend className="sr-only">Lids of another kind or colour</legend>
      <p className="font-bold">Lids of another kind or colour</p>
      <ul className="grid gap-1">
        {there.map((l) => (
          <li key={`${l.closure}-${l.colour}`} className="flex items-center gap-3 text-lg">
            <Lid colour={kitchen.lids[l.colour] ?? "var(--brass)"} />
            {l.count} {l.colour} {l.name}
            {l.packet && <span className="text-slate">packet {l.packet}</span>}
          </li>
        ))}
      </ul>
      <div className="grid grid-cols-3 items-end gap-2">
        <Pick label="Kind" value={closure} items={CLOSURES} onChange={setClosure} />
        <Pick label="Colour" value={colour} items={colours} onChange={setColour} />
        <NumberField label="How many" unit="" value={text} onChange={setText} />
      </div>
      <TextField label="On their packet" value={packet} onChange={setPacket} />
      <Said error={furnish.error} />
      <Button
        disabled={count === null || Number.isNaN(count) || furnish.isPending}
        onClick={() =>
          furnish.mutate(
            {
              act: "lids",
              kind: jar.key,
              closure: closure.replace("-", ""),
              colour: colour.replace("-", ""),
              count: Math.round(count ?? 0),
              packet,
            },
            { onSuccess: () => setText("") },
          )
        }
      >
        Count these lids
      </Button>
    </fieldset>
  );
}
