import type { Estimate } from "@/api/types";
import { plain, range } from "@/lib/format";
import { Bar, BrassTick } from "@/ui/scale";

type Props = {
  name: string;
  unit: string;
  predicted: Estimate | null | undefined;
  measured?: number | null | undefined;
  scale: [number, number];
  limit?: number | undefined;
  words?: string | undefined;
};

const EVIDENCE = { measured: "measured", read: "read", typical: "typical" } as const;

/** A fine gauge: the range as a bar, the expected figure as a tick, what was measured as a bead. */
export function Gauge({ name, unit, predicted, measured, scale, limit, words }: Props) {
  if (!predicted) return null;
  const [from, to] = scale;
  const x = (v: number) => 4 + 112 * Math.max(0, Math.min(1, (v - from) / (to - from)));
  const shown = measured ?? predicted.typ;
  const known =
    measured === null || measured === undefined
      ? EVIDENCE[predicted.evidence ?? "typical"]
      : "measured";
  return (
    <div className="min-w-0">
      <p className="leading-tight">
        <span className="font-bold text-lg">{plain(shown, unit === "pH" ? 0.01 : 0.1)}</span>{" "}
        <span className="text-base text-slate">{unit}</span>
      </p>
      <svg viewBox="0 0 120 14" className="block h-3.5 w-30" aria-hidden="true">
        <line x1="4" x2="116" y1="7" y2="7" stroke="var(--slate)" strokeWidth="1" />
        <Bar
          range={predicted}
          x={x}
          y={3.5}
          height={7}
          least={2}
          fill="var(--tag)"
          stroke="var(--line)"
        />
        <BrassTick at={x(predicted.typ)} from={1} to={13} />
        {limit !== undefined && (
          <path d={`M${x(limit)} 0v14`} stroke="var(--hip)" strokeWidth="2" strokeDasharray="2 2" />
        )}
        {measured !== null && measured !== undefined && (
          <circle
            cx={x(measured)}
            cy="7"
            r="5"
            fill="var(--leaf)"
            stroke="var(--line)"
            strokeWidth="1.5"
          />
        )}
      </svg>
      <p className="text-base text-slate leading-tight">
        {measured === null || measured === undefined ? "" : "expected "}
        {range(predicted, 1, unit === "pH" ? 0.01 : 0.1)}
        <span className="sr-only"> {name}</span>
        <span className="block">{words ?? known}</span>
      </p>
    </div>
  );
}
