import type { YieldView } from "@/api/types";
import { count, plain } from "@/lib/format";
import { measureOf, shown } from "@/lib/units";
import { Bar, BrassTick } from "@/ui/scale";

const W = 220;

/** What this fruit gives by this way: the tables' band, this kitchen's, and a dot a batch. */
export function YieldBand({ learned }: { learned: YieldView }) {
  const { tables, estimate, dots } = learned;
  const values = [
    tables.lo,
    tables.hi,
    estimate.lo,
    estimate.hi,
    ...dots.map((d) => d.yield_l_per_kg),
  ];
  const [from, to] = [Math.min(...values) * 0.94, Math.max(...values) * 1.04];
  const x = (v: number) => 6 + ((W - 12) * (v - from)) / (to - from);
  const aside = dots.filter((d) => d.aside).length;
  const measure = measureOf("yield");
  const here = (v: number) => plain(shown(v, measure), 0.01);
  const much = `${here(estimate.lo)} to ${here(estimate.hi)} ${measure.unit}`;
  const words = `${learned.name}: ${much}`;
  return (
    <figure className="min-w-0">
      <svg viewBox={`0 0 ${W} 40`} className="block w-full max-w-56" role="img" aria-label={words}>
        <Bar
          range={tables}
          x={x}
          y={24}
          height={6}
          fill="var(--tag)"
          stroke="var(--slate)"
          strokeWidth={0.75}
        />
        <Bar range={estimate} x={x} y={10} height={10} fill="var(--leaf)" opacity={0.35} />
        <BrassTick at={x(estimate.typ)} from={5} to={33} />
        {dots.map((d) => (
          <circle
            key={`${d.batch}-${d.yield_l_per_kg}`}
            cx={x(d.yield_l_per_kg)}
            cy="15"
            r="4.5"
            fill={d.aside ? "var(--paper)" : "var(--leaf)"}
            stroke="var(--line)"
            strokeDasharray={d.aside ? "2 2" : undefined}
          >
            <title>{`${d.batch}: ${here(d.yield_l_per_kg)} ${measure.unit}${d.source ? `, ${d.source}` : ""}${d.aside ? ", set aside as an outlier" : ""}`}</title>
          </circle>
        ))}
      </svg>
      <figcaption className="text-base text-slate leading-tight">
        {much},{" "}
        {learned.batches
          ? `learned from ${count(learned.batches, "batch", "batches")}`
          : "from the tables"}
        {aside ? `; ${aside} set aside` : ""}
      </figcaption>
    </figure>
  );
}
