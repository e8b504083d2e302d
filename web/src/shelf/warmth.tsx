import type { WarmDay } from "@/api/types";
import { date, plain, temperature } from "@/lib/format";

const W = 280;
const H = 64;
/** A day that is so much warmer than usual is drawn as one that costs [°C]. */
const COSTS_C = 2;
/** Less than this is no swing [°C]. */
const LEAST_C = 0.6;

/** How warm it stood, day by day: as it was over as it usually is, and what the warm days took. */
export function Warmth({ days, cost }: { days: WarmDay[]; cost: number }) {
  if (days.length < 2) return null;
  const all = days.flatMap((d) => [d.temp_c, d.usual_c]);
  const [lo, hi] = [Math.min(...all) - 1, Math.max(...all) + 1];
  const at = days.map((d) => new Date(d.on).getTime());
  const [from, to] = [at[0] ?? 0, at.at(-1) ?? 1];
  const x = (t: number) => 4 + ((W - 8) * (t - from)) / Math.max(1, to - from);
  const y = (c: number) => H - 6 - ((H - 18) * (c - lo)) / (hi - lo);
  const line = (pick: (d: WarmDay) => number) =>
    days.map((d, i) => `${i ? "L" : "M"}${x(at[i] ?? 0)} ${y(pick(d))}`).join("");
  const warmest = days.reduce((a, b) => (b.temp_c - b.usual_c > a.temp_c - a.usual_c ? b : a));
  const hot = warmest.temp_c - warmest.usual_c >= COSTS_C;
  if (Math.max(...all) - Math.min(...all) < LEAST_C)
    return <p className="text-base text-slate">{temperature(days.at(-1)?.temp_c)} all the while</p>;
  return (
    <figure className="mt-1">
      <svg viewBox={`0 0 ${W} ${H}`} className="block w-full max-w-md" role="img">
        <title>How warm it was where it stood</title>
        <path d={line((d) => d.usual_c)} fill="none" stroke="var(--slate)" strokeDasharray="3 4" />
        <path
          d={line((d) => d.temp_c)}
          fill="none"
          stroke={hot ? "var(--hip)" : "var(--line)"}
          strokeWidth="2"
        />
        {hot && (
          <circle
            cx={x(new Date(warmest.on).getTime())}
            cy={y(warmest.temp_c)}
            r="4"
            fill="var(--hip)"
          />
        )}
      </svg>
      <figcaption className="text-base text-slate">
        {hot ? (
          <>
            <b className="text-hip">
              {temperature(warmest.temp_c)} on {date(warmest.on)}
            </b>
            {cost >= 1 ? `; the warm days cost ${plain(cost, 1)} days of its life` : ""}
          </>
        ) : (
          `${temperature(days.at(-1)?.temp_c)} now, ${temperature(Math.min(...days.map((d) => d.temp_c)))} to ${temperature(Math.max(...days.map((d) => d.temp_c)))} since it stands`
        )}
      </figcaption>
    </figure>
  );
}
