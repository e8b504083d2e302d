import { useState } from "react";
import type { PlanView, TraysView } from "@/api/types";
import { count, mass, range } from "@/lib/format";
import { Curve } from "@/trays/curve";
import { Load } from "@/trays/load";
import { WillItDry } from "@/trays/will-it-dry";

/** The trays of a plan that dries something, load by load, and how they will go. */
export function Trays({ plan }: { plan: PlanView }) {
  const [at, setAt] = useState(0);
  const load = plan.trays[Math.min(at, plan.trays.length - 1)];
  if (!load) return null;
  return (
    <section aria-label="On the trays" className="mb-4">
      <p className="text-lg">{inWords(plan, load)}</p>
      {plan.trays.length > 1 && (
        <p className="mt-1 flex flex-wrap gap-3 print:hidden">
          {plan.trays.map((t, n) => (
            <button
              key={t.key}
              type="button"
              aria-pressed={t === load}
              onClick={() => setAt(n)}
              className={`min-h-11 border-b-4 px-1 ${t === load ? "border-elder font-bold" : "border-transparent text-slate"}`}
            >
              {t.loads > 1 ? `load ${t.load}` : t.name.toLowerCase()}
            </button>
          ))}
        </p>
      )}
      <div className="mt-2">
        <Load load={load} />
      </div>
      <div className="mt-3 grid gap-5 wide:grid-cols-2">
        <WillItDry load={load} />
        <Curve load={load} />
      </div>
    </section>
  );
}

function inWords(plan: PlanView, load: TraysView): string {
  const known = load.cycles > 0 ? `, by ${count(load.cycles, "load")} of this machine` : "";
  const end =
    load.role === "freeze_dry"
      ? "dry when two weighings an hour apart are the same"
      : `a tray goes from ${mass(load.each_g)} to ${mass(load.enough_g)}`;
  return `${count(load.trays, "tray")}, ${range(load.hours, 1, 1)} h${known} · ${mass(plan.water_out_g)} of water to come out · ${end}`;
}
