import { GOLD, INK, PALE, type Props, part, SYRUP } from "@/bench/pictures/drawn";

export function Jug({ draws }: Props) {
  const after = Math.max(draws.after ?? 1, draws.before ?? 1);
  const before = 190 * part(draws.before, after);
  const full = 190 * part(draws.after, after);
  return (
    <>
      <path d="M84 250L70 40H290L276 250Z" fill="var(--paper)" />
      <clipPath id="jug">
        <path d="M84 250L70 40H290L276 250Z" />
      </clipPath>
      <g clipPath="url(#jug)">
        <rect x="60" y={250 - full} width="240" height={full} fill={GOLD} />
        <rect x="60" y={250 - before} width="240" height={before} fill={PALE} />
      </g>
      <path d="M84 250L70 40H290L276 250Z" fill="none" stroke={INK} strokeWidth="4" />
      <path d={`M56 ${250 - full}H304`} stroke="var(--elder)" strokeWidth="3" />
    </>
  );
}

function Glass({ x, level, colour }: { x: number; level: number; colour: string }) {
  const height = 150 * level;
  return (
    <g transform={`translate(${x} 0)`}>
      <path d="M8 250L0 90H90L82 250Z" fill="var(--paper)" />
      <clipPath id={`glass-${x}`}>
        <path d="M8 250L0 90H90L82 250Z" />
      </clipPath>
      <rect
        clipPath={`url(#glass-${x})`}
        x="0"
        y={250 - height}
        width="90"
        height={height}
        fill={colour}
      />
      <path d="M8 250L0 90H90L82 250Z" fill="none" stroke={INK} strokeWidth="4" />
    </g>
  );
}

export function Glasses({ draws }: Props) {
  return (
    <>
      <Glass x={20} level={part(draws.first)} colour={SYRUP} />
      <Glass x={135} level={part(draws.second)} colour={PALE} />
      <Glass x={250} level={0.9} colour="#b0704c" />
      <text x="117" y="190" fontSize="34" fill={INK}>
        +
      </text>
      <text x="232" y="190" fontSize="34" fill={INK}>
        =
      </text>
    </>
  );
}

export function Drink({ draws }: Props) {
  const base = 200 * part(draws.base);
  return (
    <>
      <path d="M110 250L90 50H270L250 250Z" fill="var(--paper)" />
      <clipPath id="drink">
        <path d="M110 250L90 50H270L250 250Z" />
      </clipPath>
      <g clipPath="url(#drink)">
        <rect x="80" y="62" width="200" height="188" fill="#d99aa0" />
        <rect x="80" y={250 - base} width="200" height={base} fill={SYRUP} />
      </g>
      <path d="M110 250L90 50H270L250 250Z" fill="none" stroke={INK} strokeWidth="4" />
    </>
  );
}

/** Citrus on the board: its peel, and the bottle that it fills. */
export function Citrus({ draws }: Props) {
  const strong = part(draws.strength, 120);
  const full = 150 * part(draws.share);
  return (
    <>
      <circle cx="100" cy="190" r="62" fill="#a9b74a" stroke={INK} strokeWidth="4" />
      <path
        d="M62 150q26 -26 62 -12"
        fill="none"
        stroke="var(--paper)"
        strokeWidth="9"
        strokeLinecap="round"
      />
      <path
        d="M150 228c26 22 44 6 36 -12s-34 -8 -24 12 40 22 52 2"
        fill="none"
        stroke="#a9b74a"
        strokeWidth="10"
        strokeLinecap="round"
      />
      <path d="M240 252V124l16 -24V60h44v40l16 24v128Z" fill="var(--paper)" />
      <clipPath id="citrus">
        <path d="M240 252V124l16 -24V60h44v40l16 24v128Z" />
      </clipPath>
      <rect
        clipPath="url(#citrus)"
        x="236"
        y={252 - full}
        width="84"
        height={full}
        fill="#cdbb45"
        opacity={0.35 + 0.65 * strong}
      />
      <path d="M240 252V124l16 -24V60h44v40l16 24v128Z" fill="none" stroke={INK} strokeWidth="4" />
      <path d="M252 60h52" stroke={INK} strokeWidth="10" />
    </>
  );
}

/** How sharp it is, on a scale from two to five, before and after. */
export function Sharp({ draws, small }: Props) {
  const at = (ph: number) => 40 + 280 * part(ph - 2, 3);
  const before = at(draws.before ?? 3.6);
  const after = at(draws.after ?? 3);
  return (
    <>
      <path d="M150 176V96l14 -22V36h32v38l14 22v80Z" fill="#e2d069" stroke={INK} strokeWidth="4" />
      <path d="M158 36h44" stroke={INK} strokeWidth="9" />
      {["#b3321f", "#c0662f", "#c99636", "#b3ad4d", "#7f9a52", "#4c7f5a"].map((hue, i) => (
        <rect key={hue} x={40 + i * 46.7} y="212" width="46.7" height="26" fill={hue} />
      ))}
      <rect x="40" y="212" width="280" height="26" fill="none" stroke={INK} strokeWidth="3" />
      <path d={`M${before} 206v38`} stroke={INK} strokeWidth="3" strokeDasharray="5 4" />
      <path d={`M${after} 198v54`} stroke="var(--elder)" strokeWidth="6" />
      {!small &&
        [2, 3, 4, 5].map((ph) => (
          <text key={ph} x={at(ph)} y="270" textAnchor="middle" fontSize="18" fill="var(--slate)">
            {ph}
          </text>
        ))}
    </>
  );
}

/** Your own jar beside a bought bottle, each as high as its litre costs. */
export function Bottles({ draws }: Props) {
  const own = 170 * part(draws.first ?? 0.5);
  return (
    <>
      <rect x="70" y={252 - own} width="90" height={own} fill={SYRUP} />
      <path
        d="M70 252V96q0 -16 16 -16h58q16 0 16 16v156Z"
        fill="none"
        stroke={INK}
        strokeWidth="4"
      />
      <rect x="78" y="58" width="74" height="22" fill="#9a7420" stroke={INK} strokeWidth="4" />
      <path d="M214 252V124l18 -26V58h40v40l18 26v128Z" fill={GOLD} stroke={INK} strokeWidth="4" />
      <rect
        x="222"
        y="158"
        width="60"
        height="54"
        fill="var(--paper)"
        stroke={INK}
        strokeWidth="3"
      />
      <path d="M232 174h40M232 188h28" stroke={INK} strokeWidth="3" />
    </>
  );
}
