import type { TraysView } from "@/api/types";
import { mass, plain } from "@/lib/format";

const [WIDE, HIGH, LEFT, FOOT] = [260, 170, 8, 24];

/** What a tray weighs hour by hour: as it is expected to go, and as it was weighed. */
export function Curve({ load }: { load: TraysView }) {
  const last = load.curve.at(-1)?.h ?? 1;
  const top = load.each_g;
  const low = load.last_g * 0.85;
  const x = (h: number) => LEFT + ((WIDE - LEFT - 6) * h) / last;
  const y = (g: number) => 6 + (HIGH - FOOT - 12) * (1 - (g - low) / (top - low));
  const line = (of: "lo" | "typ" | "hi") =>
    load.curve.map((p) => `${x(p.h).toFixed(1)} ${y(p[of]).toFixed(1)}`);
  const enough = y(load.enough_g);
  return (
    <figure
      aria-label={`A tray from ${mass(load.each_g)}, dry from ${mass(load.enough_g)} down`}
      className="max-w-md"
    >
      <figcaption className="text-lg font-bold">What a tray weighs</figcaption>
      <svg viewBox={`0 0 ${WIDE} ${HIGH}`} className="block w-full" aria-hidden="true">
        <rect
          x={LEFT}
          y={enough}
          width={WIDE - LEFT}
          height={Math.max(2, HIGH - FOOT - enough)}
          fill="var(--leaf)"
          opacity="0.18"
        />
        <path d={`M${line("lo").join("L")}L${line("hi").reverse().join("L")}Z`} fill="var(--tag)" />
        <path d={`M${line("typ").join("L")}`} fill="none" stroke="var(--brass)" strokeWidth="3" />
        <path
          d={`M${LEFT} 4V${HIGH - FOOT}H${WIDE}`}
          fill="none"
          stroke="var(--line)"
          strokeWidth="2"
        />
        {load.weighings.map(({ h, g }) => (
          <circle
            key={h}
            cx={x(Math.min(h, last))}
            cy={y(Math.max(g, low))}
            r="5"
            fill="var(--leaf)"
            stroke="var(--line)"
            strokeWidth="1.5"
          />
        ))}
        <g fontSize="12" className="fill-slate">
          <text x={LEFT} y={HIGH - 8}>
            0
          </text>
          <text x={x(last / 2)} y={HIGH - 8} textAnchor="middle">
            {plain(last / 2, 1)} h
          </text>
          <text x={WIDE - 2} y={HIGH - 8} textAnchor="end">
            {plain(last, 1)} h
          </text>
        </g>
        <text x={WIDE - 4} y={enough - 5} textAnchor="end" fontSize="12" className="fill-ink">
          dry from {mass(load.enough_g)}
        </text>
      </svg>
    </figure>
  );
}
