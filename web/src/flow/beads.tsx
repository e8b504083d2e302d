import type { FlowOperation } from "@/api/types";
import { minutes } from "@/lib/format";

type Bead = { key: string; step: string; verb: string; sum: number; times: number };

/** Operations of one step become one bead: "steam ×4". */
export function beads(operations: FlowOperation[]): Bead[] {
  const strung = new Map<string, Bead>();
  for (const o of operations) {
    const key = `${o.step || o.kind}-${o.verb}`;
    const bead = strung.get(key) ?? { key, step: o.step ?? "", verb: o.verb, sum: 0, times: 0 };
    const more = o.role === "cool" && bead.times > 0 ? 0 : o.minutes.typ;
    strung.set(key, { ...bead, sum: bead.sum + more, times: bead.times + 1 });
  }
  return [...strung.values()];
}

type Props = {
  operations: FlowOperation[];
  /** Pressing a step, where it can be changed. */
  onStep?: ((step: string) => void) | undefined;
  pressable?: Set<string>;
};

/** The steps as beads on a string, with their minutes. */
export function Beads({ operations, onStep, pressable }: Props) {
  return (
    <ol className="flex flex-wrap">
      {beads(operations).map((b) => (
        <li key={b.key} className="flex items-center">
          {onStep && pressable?.has(b.step) ? (
            <button
              type="button"
              onClick={() => onStep(b.step)}
              className="flex min-h-8 items-center gap-1.5 hover:underline"
            >
              <Words bead={b} open />
            </button>
          ) : (
            <span className="flex min-h-8 items-center gap-1.5">
              <Words bead={b} open={false} />
            </span>
          )}
          <span aria-hidden="true" className="mx-1 h-0.5 w-2.5 bg-line" />
        </li>
      ))}
    </ol>
  );
}

function Words({ bead, open }: { bead: Bead; open: boolean }) {
  return (
    <>
      <span
        aria-hidden="true"
        className={`size-3.5 shrink-0 rounded-full border-2 border-line ${open ? "bg-paper" : "bg-line"}`}
      />
      <span
        className={`font-bold font-display leading-tight ${open ? "underline decoration-dotted decoration-slate underline-offset-4" : ""}`}
      >
        {bead.verb}
        {bead.times > 1 && (
          <span className="font-text font-normal text-base text-slate"> ×{bead.times}</span>
        )}
      </span>
      <span className="text-base text-slate">{minutes(bead.sum)}</span>
    </>
  );
}
