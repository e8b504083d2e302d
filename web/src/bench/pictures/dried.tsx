import { INK, PALE, type Props, part, SYRUP } from "@/bench/pictures/drawn";

/** A tray with its layer: smooth where it dries, risen in bubbles where it foams. */
export function Tray({ draws }: Props) {
  const deep = 16 + 84 * part(draws.thickness, 25);
  const foams = draws.does ?? 0;
  const top = 214 - deep;
  return (
    <>
      <path d="M40 214V238H320V214" fill="none" stroke={INK} strokeWidth="5" />
      <rect x="46" y={top} width="268" height={deep + 16} fill={SYRUP} opacity={foams ? 0.75 : 1} />
      {foams > 0 &&
        [70, 112, 150, 196, 236, 282].map((x, n) => (
          <circle
            key={x}
            cx={x}
            cy={top - 4}
            r={(8 + (n % 3) * 5) * foams + 6}
            fill={SYRUP}
            stroke={INK}
            strokeWidth="2.5"
          />
        ))}
      {foams === 0 && (
        <path d={`M46 ${top}H314`} stroke={PALE} strokeWidth="5" strokeDasharray="3 9" />
      )}
    </>
  );
}

/** What is left of the first mass, hour by hour, down to the band where it is dry. */
export function Drying({ draws, curve, small }: Props) {
  if (small || curve.length < 2)
    return (
      <path
        d="M60 60C110 200 190 226 310 232"
        fill="none"
        stroke={SYRUP}
        strokeWidth="14"
        strokeLinecap="round"
      />
    );
  const last = curve.at(-1)?.minutes ?? 1;
  const x = (t: number) => 52 + (290 * t) / last;
  const y = (share: number) => 250 - 2.16 * share;
  const from = x(60 * (draws.first ?? 0));
  const to = x(60 * (draws.last ?? 0));
  return (
    <>
      <path d="M52 24V250H346" fill="none" stroke={INK} strokeWidth="3" />
      <rect x={from} y="24" width={Math.max(4, to - from)} height="225" fill="var(--tag)" />
      <path
        d={`M52 ${y(100 * (draws.heavy ?? 0))}H344`}
        stroke="var(--leaf)"
        strokeDasharray="7 5"
        strokeWidth="2"
      />
      <polyline
        points={curve.map((p) => `${x(p.minutes)},${y(p.value)}`).join(" ")}
        fill="none"
        stroke="var(--elder)"
        strokeWidth="5"
      />
      <text x="58" y="42" fontSize="16" fill="var(--slate)">
        all of it
      </text>
      <text x={Math.min(from + 6, 286)} y="42" fontSize="16" fill="var(--slate)">
        dry
      </text>
      <text x="344" y="274" fontSize="16" textAnchor="end" fill="var(--slate)">
        {Math.round(last / 60)} h
      </text>
    </>
  );
}
