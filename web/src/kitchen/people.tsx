import { useState } from "react";
import type { KitchenView, Person } from "@/api/types";
import { Access } from "@/kitchen/access";
import { EditSheet, type Field } from "@/kitchen/edit-sheet";
import { Part } from "@/kitchen/part";
import { Button } from "@/ui/button";

const HOURS: Field[] = [
  { key: "start", label: "From", type: "text", note: "such as 08:00" },
  { key: "end", label: "Until", type: "text", note: "such as 21:30" },
];

const JOINS: Field[] = [
  { key: "name", label: "Name", type: "text" },
  { key: "sign_in", label: "Sign-in name", type: "text" },
  { key: "password", label: "Password", type: "password", note: "at least eight characters" },
  {
    key: "role",
    label: "As",
    type: "choice",
    options: ["keeper", "helper", "guest"].map((v) => ({ value: v, label: v })),
  },
];

/** Who cooks, and when. */
export function People({ kitchen }: { kitchen: KitchenView }) {
  const [open, setOpen] = useState<Person | "new" | null>(null);
  return (
    <Part
      name="People and hours"
      add={
        <Button size="small" kind="quiet" onClick={() => setOpen("new")}>
          someone joins
        </Button>
      }
    >
      <ul className="grid gap-1">
        {kitchen.people.map((p) => (
          <li key={p.id}>
            <button
              type="button"
              onClick={() => setOpen(p)}
              className="grid min-h-11 w-full grid-cols-[1fr_auto] items-center gap-3 text-left hover:bg-tag"
            >
              <span className="text-lg">
                <b>{p.name}</b>{" "}
                <span className="text-slate">{p.you ? `${p.role}, you` : p.role}</span>
              </span>
              <span className="text-base text-slate">
                {p.hours ? `cooks ${p.hours.start} to ${p.hours.end}` : "any hour"}
              </span>
            </button>
          </li>
        ))}
      </ul>
      {open === "new" && (
        <EditSheet
          title="Someone joins"
          fields={() => JOINS}
          first={{ name: "", sign_in: "", password: "", role: "helper" }}
          change={(sent) => ({ act: "person", sent })}
          onClose={() => setOpen(null)}
        />
      )}
      {open && open !== "new" && (
        <EditSheet
          title={open.you ? "When you cook" : `When ${open.name} cooks`}
          fields={() => HOURS}
          first={{ start: open.hours?.start ?? "08:00", end: open.hours?.end ?? "21:00" }}
          more={<Access person={open} />}
          change={(v) => ({
            act: "hours",
            id: open.id,
            start: String(v.start),
            end: String(v.end),
          })}
          onClose={() => setOpen(null)}
        />
      )}
    </Part>
  );
}
