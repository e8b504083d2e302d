import type { TraceView } from "@/api/types";
import { useZone } from "@/api/use-zone";
import { minutes, temperature, timeOfDay } from "@/lib/format";

const [WIDE, HIGH, LEFT, FOOT] = [520, 170, 8, 22];
const WHERE: Record<string, string> = {
  bath: "in the bath",
  jar: "in a jar",
  in_it: "in it",
};

/** What a probe saw: its curve, the boil as a line, and where a bath fell below it. */
export function TraceCurve({ trace }: { trace: TraceView }) {
  const zone = useZone();
  const first = Date.parse(trace.since);
  const last = Math.max(1, trace.points.at(-1)?.minute ?? 1);
  const temps = trace.points.map((p) => p.temp_c);
  const low = Math.min(...temps) - 1;
  const top = Math.max(trace.boils_c ?? 0, ...temps) + 2;
  const x = (minute: number) => LEFT + ((WIDE - LEFT - 4) * minute) / last;
  const y = (temp: number) => 4 + (HIGH - FOOT - 8) * (1 - (temp - low) / (top - low));
  const at = (iso: string) => x((Date.parse(iso) - first) / 60_000);
  const boil = trace.boils_c;
  return (
    <figure className="max-w-2xl">
      <figcaption className="text-lg">
        <b>What a probe saw</b> {WHERE[trace.probe]}: {temperature(trace.hottest_c)} at most
        {trace.lost.length > 0 && (
          <span className="block font-bold text-hip">
            Below its boil{" "}
            {trace.lost
              .map(
                (b) =>
                  `from ${timeOfDay(b.since, zone)} to ${b.until ? timeOfDay(b.until, zone) : "the end"}`,
              )
              .join(", ")}
            : the time before that does not count.
          </span>
        )}
      </figcaption>
      <svg viewBox={`0 0 ${WIDE} ${HIGH}`} className="block w-full" aria-hidden="true">
        {trace.lost.map((b) => (
          <rect
            key={b.since}
            x={at(b.since)}
            y={4}
            width={Math.max(2, (b.until ? at(b.until) : WIDE - 4) - at(b.since))}
            height={HIGH - FOOT - 4}
            fill="var(--hip)"
            opacity="0.18"
          />
        ))}
        {boil !== null && (
          <>
            <path
              d={`M${LEFT} ${y(boil)}H${WIDE}`}
              stroke="var(--leaf)"
              strokeWidth="2"
              strokeDasharray="6 4"
            />
            <text x={WIDE - 4} y={y(boil) + 14} textAnchor="end" fontSize="12" className="fill-ink">
              a boil, {temperature(boil)}
            </text>
          </>
        )}
        <path
          d={`M${trace.points.map((p) => `${x(p.minute).toFixed(1)} ${y(p.temp_c).toFixed(1)}`).join("L")}`}
          fill="none"
          stroke="var(--elder)"
          strokeWidth="2.5"
          strokeLinejoin="round"
        />
        <path
          d={`M${LEFT} 4V${HIGH - FOOT}H${WIDE}`}
          fill="none"
          stroke="var(--line)"
          strokeWidth="2"
        />
        <g fontSize="12" className="fill-slate">
          <text x={LEFT} y={HIGH - 6}>
            {timeOfDay(trace.since, zone)}
          </text>
          <text x={WIDE - 2} y={HIGH - 6} textAnchor="end">
            {minutes(last)} later
          </text>
        </g>
      </svg>
    </figure>
  );
}
