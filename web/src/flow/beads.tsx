import type { FlowOperation } from "@/api/types";
import { minutes } from "@/lib/format";

type Bead = { key: string; verb: string; minutes: string; times: number };

/** Operations of one kind in a row become one bead: "steam ×4". */
export function beads(operations: FlowOperation[]): Bead[] {
  const strung: Bead[] = [];
  const sums: number[] = [];
  for (const o of operations) {
    const last = strung.findIndex((b) => b.verb === o.verb);
    if (last >= 0) {
      const bead = strung[last];
      if (!bead) continue;
      sums[last] = (sums[last] ?? 0) + (o.kind === "cool" ? 0 : o.minutes.typ);
      strung[last] = { ...bead, times: bead.times + 1, minutes: minutes(sums[last] ?? 0) };
    } else {
      sums.push(o.minutes.typ);
      strung.push({ key: o.key, verb: o.verb, minutes: minutes(o.minutes.typ), times: 1 });
    }
  }
  return strung;
}

/** The steps as beads on a string, with their minutes. */
export function Beads({ operations }: { operations: FlowOperation[] }) {
  return (
    <ol className="relative grid grid-cols-3 gap-y-3 border-line wide:flex wide:justify-between wide:border-t-2">
      {beads(operations).map((b) => (
        <li key={b.key} className="relative pr-2 wide:pt-4">
          <span
            aria-hidden="true"
            className="mb-1 block size-4 rounded-full border-2 border-line bg-paper wide:absolute wide:-top-[9px] wide:mb-0"
          />
          <span className="block font-bold font-display text-lg leading-tight">
            {b.verb}
            {b.times > 1 && (
              <span className="font-text font-normal text-base text-slate"> ×{b.times}</span>
            )}
          </span>
          <span className="block text-base text-slate">{b.minutes}</span>
        </li>
      ))}
    </ol>
  );
}
