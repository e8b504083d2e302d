import type { ReactElement } from "react";
import type { Key } from "@/bench/sums";

type Props = { draws: Record<string, number>; small: boolean };

const INK = "var(--line)";
const SYRUP = "#7a2434";
const PALE = "#e8d8b4";

/** Something of a picture between 0 and 1. */
const part = (value: number | undefined, of = 1): number =>
  Math.max(0, Math.min(1, (value ?? 0) / of));

function Pot({ draws }: Props) {
  const before = draws.before ?? 1;
  const tall = 210;
  const now = 0.86 * tall;
  const then = now * part(draws.after, before);
  return (
    <>
      <rect x="60" y={250 - tall} width="240" height={tall} fill="var(--paper)" />
      <rect x="60" y={250 - now} width="240" height={now} fill={PALE} />
      <rect x="60" y={250 - then} width="240" height={then} fill={SYRUP} />
      <path d={`M44 ${250 - now}H316`} stroke={INK} strokeDasharray="6 5" />
      <path d={`M44 ${250 - then}H316`} stroke="var(--elder)" strokeWidth="4" />
      <path d="M60 40V250H300V40" fill="none" stroke={INK} strokeWidth="4" />
      <path d="M44 70h16m240 0h16" stroke={INK} strokeWidth="14" />
      {[120, 180, 240].map((x) => (
        <path
          key={x}
          d={`M${x} 28c-8 -8 8 -12 0 -22`}
          stroke="#9fc0d0"
          strokeWidth="4"
          fill="none"
        />
      ))}
      {[130, 180, 230].map((x) => (
        <path key={x} d={`M${x} 258c10 8 12 22 0 28c-12 -6 -10 -18 0 -28z`} fill="var(--hip)" />
      ))}
    </>
  );
}

function Jug({ draws }: Props) {
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
        <rect x="60" y={250 - full} width="240" height={full} fill="#d9a441" />
        <rect x="60" y={250 - before} width="240" height={before} fill={PALE} />
      </g>
      <path d="M84 250L70 40H290L276 250Z" fill="none" stroke={INK} strokeWidth="4" />
      <path d={`M56 ${250 - full}H304`} stroke="var(--elder)" strokeWidth="3" />
    </>
  );
}

function Thermometer({ draws, small }: Props) {
  const low = 90;
  const high = 116;
  const at = (c: number) => 236 - 190 * part(c - low, high - low);
  const reads = draws.reads ?? low;
  const plain = draws.plain ?? low;
  return (
    <>
      <rect
        x="160"
        y="30"
        width="40"
        height="226"
        rx="20"
        fill="var(--paper)"
        stroke={INK}
        strokeWidth="4"
      />
      <rect x="172" y={at(reads)} width="16" height={262 - at(reads)} fill="var(--hip)" />
      <circle cx="180" cy="262" r="24" fill="var(--hip)" stroke={INK} strokeWidth="4" />
      {!small && (
        <>
          <path d={`M120 ${at(plain)}H240`} stroke={INK} strokeDasharray="6 5" strokeWidth="2" />
          <text x="112" y={at(plain) + 6} textAnchor="end" fontSize="18" fill="var(--slate)">
            water
          </text>
          <path d={`M206 ${at(reads)}H240`} stroke="var(--elder)" strokeWidth="4" />
          <text x="248" y={at(reads) + 6} fontSize="18" fontWeight="bold" fill="var(--elder)">
            the syrup
          </text>
        </>
      )}
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

function Glasses({ draws }: Props) {
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

function Plate({ draws }: Props) {
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

function Drink({ draws }: Props) {
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

const PICTURES: Record<Key, (props: Props) => ReactElement> = {
  sweeten: Jug,
  "boil-down": Pot,
  thermometer: Thermometer,
  blend: Glasses,
  "cold-plate": Plate,
  thin: Drink,
};

type Shown = { sum: Key; draws: Record<string, number>; small?: boolean };

/** A sum as one sees it on the table; its figures stand beside it in words. */
export function Picture({ sum, draws, small }: Shown) {
  const Drawn = PICTURES[sum];
  return (
    <svg
      viewBox="0 0 360 292"
      aria-hidden="true"
      className={small ? "h-18 w-22" : "w-full max-w-105"}
    >
      <Drawn draws={draws} small={small ?? false} />
    </svg>
  );
}
