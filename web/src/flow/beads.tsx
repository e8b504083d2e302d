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
    <ol className="relative grid grid-cols-3 gap-x-2 gap-y-3 wide:grid-cols-[repeat(auto-fill,minmax(5.75rem,1fr))]">
      {beads(operations).map((b) => (
        <li key={b.key} className="relative border-line border-t-2 pt-3">
          <span
            aria-hidden="true"
            className="absolute -top-[9px] block size-4 rounded-full border-2 border-line bg-paper"
          />
          {onStep && pressable?.has(b.step) ? (
            <button
              type="button"
              onClick={() => onStep(b.step)}
              className="block min-h-11 text-left underline decoration-dotted decoration-slate underline-offset-4 hover:decoration-solid"
            >
              <Words bead={b} />
            </button>
          ) : (
            <Words bead={b} />
          )}
        </li>
      ))}
    </ol>
  );
}

function Words({ bead }: { bead: Bead }) {
  return (
    <>
      <span className="block font-bold font-display text-lg leading-tight">
        {bead.verb}
        {bead.times > 1 && (
          <span className="font-text font-normal text-base text-slate"> ×{bead.times}</span>
        )}
      </span>
      <span className="block text-base text-slate">{minutes(bead.sum)}</span>
    </>
  );
}
