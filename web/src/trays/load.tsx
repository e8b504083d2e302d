import type { TraysView } from "@/api/types";
import { count, mass, plain } from "@/lib/format";

const WIDE = 530;
const HIGH = 96;
const GAP = 14;

/** The trays of a load one above the other, each with what lies on it. */
export function Load({ load }: { load: TraysView }) {
  const trays = Array.from({ length: load.trays }, (_, n) => n);
  const bad = load.does === "foams";
  const cells = load.portions;
  const each = mass(load.each_g / Math.max(cells, 1));
  const portions = cells > 0 ? `, ${count(cells, "portion")} of ${each}` : "";
  const high = trays.length * (HIGH + GAP);
  return (
    <figure
      aria-label={`${count(load.trays, "tray")} of ${load.name.toLowerCase()}, ${mass(load.each_g)} on each${portions}`}
    >
      <svg
        viewBox={`0 0 ${WIDE + 52} ${high}`}
        className="block max-h-[26rem] w-full"
        aria-hidden="true"
      >
        {trays.map((n) => (
          <g key={n} transform={`translate(48 ${n * (HIGH + GAP) + 2})`}>
            <text x="-30" y={HIGH / 2 + 8} className="fill-ink font-bold" fontSize="24">
              {n + 1}
            </text>
            <rect
              width={WIDE}
              height={HIGH}
              fill="var(--paper)"
              stroke={bad ? "var(--hip)" : "var(--line)"}
              strokeWidth={bad ? 4 : 2.5}
            />
            <OnIt lies={load.lies} colour={load.colour} seed={n} cells={cells} />
            <g transform={`translate(${WIDE - 218} ${HIGH - 42})`}>
              <rect
                width="210"
                height="36"
                fill="var(--paper)"
                stroke="var(--line)"
                strokeWidth="1.5"
              />
              <text x="105" y="26" textAnchor="middle" fontSize="22" className="fill-ink">
                {plain(load.mm, 1)} mm · {cells > 0 ? `${cells} × ${each}` : each}
              </text>
            </g>
          </g>
        ))}
      </svg>
    </figure>
  );
}

type OnItProps = { lies: string; colour: string; seed: number; cells: number };

/** The cells of a divider, in as many rows as keep them nearly square: x, y, width, height. */
function divided(cells: number): [number, number, number, number][] {
  const [wide, high] = [WIDE - 20, HIGH - 20];
  const rows = Math.max(1, Math.round(Math.sqrt((cells * high) / wide)));
  const columns = Math.ceil(cells / rows);
  const [w, h] = [wide / columns, high / rows];
  const gap = Math.min(7, w / 4, h / 4);
  return Array.from({ length: cells }, (_, n) => [
    10 + (n % columns) * w,
    10 + Math.floor(n / columns) * h,
    w - gap,
    h - gap,
  ]);
}

/** What lies on a tray: a sheet in dividers, rounds, berries, strips or leaves. */
function OnIt({ lies, colour, seed, cells }: OnItProps) {
  if (cells > 0 || lies === "flakes" || lies === "powder")
    return (
      <g fill={colour} stroke="var(--line)" strokeWidth="1">
        {divided(cells || 4).map(([x, y, wide, high]) => (
          <rect key={`${x},${y}`} x={x} y={y} width={wide} height={high} />
        ))}
      </g>
    );
  if (lies === "leather")
    return (
      <path
        d={`M12 18Q60 8 130 14T330 12T${WIDE - 14} 16L${WIDE - 12} ${HIGH - 12}Q380 ${HIGH - 6} 260 ${HIGH - 11}T12 ${HIGH - 12}Z`}
        fill={colour}
        stroke="var(--line)"
        strokeWidth="1"
      />
    );
  return (
    <g stroke="var(--line)" strokeWidth="1" fill={colour}>
      {places(lies, seed).map(([x, y, turn]) => (
        <g key={`${x},${y}`} transform={`translate(${x} ${y}) rotate(${turn})`}>
          <Piece lies={lies} />
        </g>
      ))}
    </g>
  );
}

function Piece({ lies }: { lies: string }) {
  if (lies === "slices")
    return (
      <>
        <circle r="18" />
        <circle r="5" fill="var(--paper)" />
      </>
    );
  if (lies === "peel") return <rect x="-11" y="-4" width="22" height="8" rx="2" />;
  if (lies === "herbs") return <path d="M-14 0Q0 -11 14 0Q0 11 -14 0ZM-14 0H14" />;
  return <circle r="9" />;
}

/** Where pieces lie: in rows, a little out of line as a hand lays them. */
function places(lies: string, seed: number): [number, number, number][] {
  const step = lies === "slices" ? 42 : 28;
  const [columns, rows] = [Math.floor((WIDE - 24) / step), Math.floor((HIGH - 12) / step)];
  return Array.from({ length: columns * rows }, (_, n) => {
    const wild = Math.sin(12.9898 * (n + 1) + 78.233 * (seed + 1)) * 43758.5453;
    const off = wild - Math.floor(wild) - 0.5;
    return [
      Math.round(12 + step / 2 + (n % columns) * step + off * 5),
      Math.round(8 + step / 2 + Math.floor(n / columns) * step + off * 4),
      Math.round(off * 150),
    ];
  });
}
