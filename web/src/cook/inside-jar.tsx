import type { StepView } from "@/api/types";
import { plain, temperature } from "@/lib/format";
import { useNow } from "@/lib/use-now";

const [WIDTH, HEIGHT, TOP, FOOT] = [360, 130, 22, 22];

/** The coldest point inside the jar through its process: a picture, never a permission. */
export function InsideJar({ step }: { step: StepView }) {
  const now = useNow(5000);
  const { inside } = step;
  if (!inside) return null;
  const last = inside.times_min.at(-1) ?? 1;
  const lowest = Math.min(...inside.temps_c);
  const x = (minute: number) => (WIDTH * minute) / last;
  const y = (c: number) =>
    TOP + ((HEIGHT - TOP - FOOT) * (inside.boiling_c - c)) / (inside.boiling_c - lowest + 1);
  const line = inside.times_min
    .map((t, i) => `${x(t)} ${y(inside.temps_c[i] ?? lowest)}`)
    .join("L");
  const since = step.clock_from ? (now - new Date(step.clock_from).getTime()) / 60_000 : null;
  const counted = inside.counted_min ?? 0;
  const at =
    since === null ? null : Math.min(Math.round(counted + since), inside.times_min.length - 1);
  const bead = at === null ? undefined : inside.temps_c[at];
  return (
    <figure className="max-w-md">
      <h3 className="text-lg">Inside the jar, coldest point</h3>
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="block w-full overflow-visible"
        role="img"
        aria-label={`The coldest point nears ${temperature(inside.boiling_c)} and cools slowly afterwards`}
      >
        <line x1="0" x2={WIDTH} y1={TOP} y2={TOP} stroke="var(--slate)" strokeDasharray="4 4" />
        <text x={WIDTH} y={TOP - 6} textAnchor="end" fontSize="15" fill="var(--slate)">
          {temperature(inside.boiling_c)}
        </text>
        <path
          d={`M${x(counted + step.minutes.typ)} ${TOP}V${HEIGHT - FOOT}`}
          stroke="var(--line)"
          strokeDasharray="2 3"
        />
        {counted > 0 && (
          <>
            <rect x="0" y={TOP} width={x(counted)} height={HEIGHT - TOP - FOOT} fill="var(--tag)" />
            <text x="6" y={HEIGHT - FOOT - 6} fontSize="15" fill="var(--slate)">
              does not count
            </text>
          </>
        )}
        <path
          d={`M${line}`}
          fill="none"
          stroke="var(--hip)"
          strokeWidth="3"
          strokeLinejoin="round"
        />
        {at !== null && bead !== undefined && (
          <circle
            cx={x(at)}
            cy={y(bead)}
            r="6"
            fill="var(--hip)"
            stroke="var(--line)"
            strokeWidth="2"
          />
        )}
        <line x1="0" x2={WIDTH} y1={HEIGHT - FOOT} y2={HEIGHT - FOOT} stroke="var(--line)" />
        <text x="0" y={HEIGHT - 5} fontSize="15" fill="var(--slate)">
          boil
        </text>
        <text
          x={x(counted + step.minutes.typ)}
          y={HEIGHT - 5}
          textAnchor="middle"
          fontSize="15"
          fill="var(--slate)"
        >
          {plain(step.minutes.typ, 1)} min
        </text>
        <text x={WIDTH} y={HEIGHT - 5} textAnchor="end" fontSize="15" fill="var(--slate)">
          cooling
        </text>
      </svg>
      <figcaption className="text-base text-slate">
        {counted > 0 && "The boil was lost: the coldest point fell, and the time began again. "}A
        picture only: the table time is the time.
      </figcaption>
    </figure>
  );
}
