import { useState } from "react";
import type { JarKind, KitchenView } from "@/api/types";
import { EditSheet, type Field } from "@/kitchen/edit-sheet";
import { OtherLids } from "@/kitchen/other-lids";
import { Part } from "@/kitchen/part";
import { Button } from "@/ui/button";
import { Glass } from "@/ui/glass";

const FIELDS: Field[] = [
  { key: "jars", label: "Jars standing ready", type: "number", unit: "" },
  { key: "lids", label: "New lids for them", type: "number", unit: "" },
  {
    key: "packet",
    label: "On the packet of lids in use",
    type: "text",
    note: "its lot number: a faulty packet is recalled by it",
  },
];

/** Jars and lids in stock; a jar counts when there is a new lid for it. */
export function Jars({ kitchen }: { kitchen: KitchenView }) {
  const [open, setOpen] = useState<JarKind | null>(null);
  const [all, setAll] = useState(false);
  const there = kitchen.jar_kinds.filter((k) => !k.own && (all || k.jars > 0 || k.lids > 0));
  return (
    <Part
      name="Jars and lids"
      add={
        <Button size="small" kind="quiet" onClick={() => setAll(!all)}>
          {all ? "only those in stock" : "other kinds"}
        </Button>
      }
    >
      <ul className="flex flex-wrap items-end gap-x-3 gap-y-4">
        {there.map((k) => (
          <li key={k.key}>
            <button
              type="button"
              onClick={() => setOpen(k)}
              className="block min-w-20 px-1 text-center hover:bg-tag"
            >
              <span className="flex justify-center">
                <Glass
                  radiusMm={k.radius_mm}
                  heightMm={k.height_mm}
                  scale={0.42}
                  level={0}
                  colour="transparent"
                  ghost={k.jars === 0}
                />
              </span>
              <span className="block font-bold">{k.name}</span>
              <span className="block text-base text-slate">
                {k.jars} {k.lids < k.jars ? `(${k.lids} lids)` : ""}
                {k.other_lids.length > 0 &&
                  ` + ${k.other_lids.reduce((sum, l) => sum + l.count, 0)} other lids`}
              </span>
            </button>
          </li>
        ))}
      </ul>
      {open && (
        <EditSheet
          title={open.name}
          fields={() => FIELDS}
          first={{ jars: open.jars, lids: open.lids, packet: open.packet ?? "" }}
          change={(v) => ({
            act: "jars",
            kind: open.key,
            jars: v.jars as number,
            lids: v.lids as number,
            packet: v.packet as string,
          })}
          more={<OtherLids jar={open} kitchen={kitchen} />}
          onClose={() => setOpen(null)}
        />
      )}
    </Part>
  );
}
