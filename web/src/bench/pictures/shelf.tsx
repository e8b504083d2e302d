import { GOLD, INK, PALE, type Props, part, SYRUP } from "@/bench/pictures/drawn";

export function Plate({ draws }: Props) {
  // A drop runs out the wider the thinner it is, over five powers of ten.
  const thick = part(Math.log10(Math.max(1, draws.cold ?? 1)), 5);
  const wide = 130 - 88 * thick;
  const high = 10 + 34 * thick;
  return (
    <>
      <ellipse
        cx="180"
        cy="216"
        rx="172"
        ry="38"
        fill="var(--paper)"
        stroke={INK}
        strokeWidth="4"
      />
      <ellipse cx="180" cy="208" rx="138" ry="26" fill="none" stroke="var(--tag)" strokeWidth="3" />
      <path
        d={`M${180 - wide} 210C${180 - wide} ${210 - high * 2} ${180 + wide} ${210 - high * 2} ${180 + wide} 210C${180 + wide} 228 ${180 - wide} 228 ${180 - wide} 210Z`}
        fill={SYRUP}
        stroke={INK}
        strokeWidth="3"
      />
    </>
  );
}

/** A jar of syrup; what cannot stay dissolved lies as crystals on its floor. */
export function Crystals({ draws }: Props) {
  const over = part((draws.share ?? 0) - 92, 60);
  const many = Math.round(2 + 16 * over);
  const cubes = over > 0 ? many : 0;
  return (
    <>
      <path d="M110 252V96q0 -22 22 -22h96q22 0 22 22v156Z" fill={GOLD} />
      {Array.from({ length: cubes }, (_, i) => {
        const x = 122 + (i % 6) * 20 + (Math.floor(i / 6) % 2) * 9;
        const y = 230 - Math.floor(i / 6) * 18;
        return (
          <rect
            // biome-ignore lint/suspicious/noArrayIndexKey: cubes are all alike
            key={i}
            x={x}
            y={y}
            width="16"
            height="16"
            transform={`rotate(${(i * 37) % 40} ${x + 8} ${y + 8})`}
            fill="var(--paper)"
            stroke={INK}
            strokeWidth="2"
          />
        );
      })}
      <path
        d="M110 252V96q0 -22 22 -22h96q22 0 22 22v156Z"
        fill="none"
        stroke={INK}
        strokeWidth="4"
      />
      <rect x="122" y="50" width="116" height="24" fill="#9a7420" stroke={INK} strokeWidth="4" />
    </>
  );
}

/** The coldest point of a jar over its minutes, under the line where the bath boils. */
export function InJar({ draws, curve, small }: Props) {
  if (small || curve.length < 2) return <Jar />;
  const last = curve.at(-1)?.minutes ?? 1;
  const [low, high] = [20, 102];
  const x = (t: number) => 52 + (290 * t) / last;
  const y = (c: number) => 250 - 216 * part(c - low, high - low);
  const boils = y(draws.boils ?? 100);
  const off = x(draws.minutes ?? 0);
  return (
    <>
      <path d="M52 24V250H346" fill="none" stroke={INK} strokeWidth="3" />
      <rect x={off} y="24" width={Math.max(0, 344 - off)} height="225" fill="var(--tag)" />
      <path d={`M52 ${boils}H344`} stroke="var(--hip)" strokeDasharray="7 5" strokeWidth="2" />
      <polyline
        points={curve.map((p) => `${x(p.minutes)},${y(p.value)}`).join(" ")}
        fill="none"
        stroke="var(--elder)"
        strokeWidth="5"
      />
      <text x="58" y={boils - 8} fontSize="16" fill="var(--hip)">
        the bath
      </text>
      <text x={Math.min(off + 6, 282)} y="240" fontSize="16" fill="var(--slate)">
        in the air
      </text>
      <text x="344" y="274" fontSize="16" textAnchor="end" fill="var(--slate)">
        {last} min
      </text>
    </>
  );
}

function Jar() {
  return (
    <>
      <path
        d="M120 252V92q0 -20 20 -20h80q20 0 20 20v160Z"
        fill={SYRUP}
        stroke={INK}
        strokeWidth="4"
      />
      <rect x="130" y="48" width="100" height="24" fill="#9a7420" stroke={INK} strokeWidth="4" />
      <circle cx="180" cy="170" r="16" fill="none" stroke="var(--paper)" strokeWidth="5" />
    </>
  );
}

/** A jar before a clock. */
export function Clock({ draws }: Props) {
  const turn = 2 * Math.PI * part(draws.minutes ?? 15, 60);
  const [x, y] = [210 + 80 * Math.sin(turn), 150 - 80 * Math.cos(turn)];
  const large = turn > Math.PI ? 1 : 0;
  return (
    <>
      <circle cx="210" cy="150" r="102" fill="var(--paper)" stroke={INK} strokeWidth="4" />
      <path d={`M210 150V70A80 80 0 ${large} 1 ${x} ${y}Z`} fill="var(--tag)" />
      {Array.from({ length: 12 }, (_, i) => {
        const at = (Math.PI * i) / 6;
        const [s, c] = [Math.sin(at), Math.cos(at)];
        return (
          <path
            key={at}
            d={`M${210 + 86 * s} ${150 - 86 * c}L${210 + 96 * s} ${150 - 96 * c}`}
            stroke={INK}
            strokeWidth="4"
          />
        );
      })}
      <path d={`M210 150L${x} ${y}`} stroke="var(--elder)" strokeWidth="7" strokeLinecap="round" />
      <path
        d="M28 252V160q0 -14 14 -14h60q14 0 14 14v92Z"
        fill={SYRUP}
        stroke={INK}
        strokeWidth="4"
      />
      <rect x="36" y="128" width="72" height="18" fill="#9a7420" stroke={INK} strokeWidth="4" />
    </>
  );
}

/** A heap on the scale, and the cup it was measured in. */
export function Scale({ draws }: Props) {
  const heap = 26 + 60 * part(Math.log10(Math.max(1, draws.grams ?? 100)), 4);
  return (
    <>
      <path d={`M64 172Q130 ${172 - 2 * heap} 196 172Z`} fill={PALE} stroke={INK} strokeWidth="3" />
      <path d="M48 172H212" stroke={INK} strokeWidth="7" />
      <path d="M96 180L76 252H184L164 180Z" fill="var(--paper)" stroke={INK} strokeWidth="4" />
      <circle cx="130" cy="220" r="20" fill="none" stroke={INK} strokeWidth="3" />
      <path d="M130 220l10 -13" stroke="var(--hip)" strokeWidth="4" />
      <path d="M240 176H326L316 252H250Z" fill="var(--paper)" stroke={INK} strokeWidth="4" />
      <path d="M324 190q28 2 18 30t-24 14" fill="none" stroke={INK} strokeWidth="6" />
      <path d="M244 200H322" stroke="var(--elder)" strokeWidth="3" />
    </>
  );
}
