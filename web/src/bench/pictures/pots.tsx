import { INK, PALE, type Props, part, SYRUP } from "@/bench/pictures/drawn";

export function Pot({ draws }: Props) {
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

export function Thermometer({ draws, small }: Props) {
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

/** A steamer: basket, kettle and the pan with its water. */
export function SteamPan({ draws }: Props) {
  const gone = part(draws.share);
  const left = 62 * (1 - 0.86 * gone);
  return (
    <>
      <path d="M96 62Q180 8 264 62Z" fill="var(--paper)" stroke={INK} strokeWidth="4" />
      <path d="M100 62H260V136H100Z" fill="var(--paper)" stroke={INK} strokeWidth="4" />
      <rect x="104" y="84" width="152" height="50" fill={SYRUP} />
      <path d="M92 136H268V176H92Z" fill="var(--paper)" stroke={INK} strokeWidth="4" />
      <rect x="96" y="154" width="168" height="20" fill="#b0704c" />
      <path d="M84 176H276V250H84Z" fill="var(--paper)" stroke={INK} strokeWidth="4" />
      <rect x="88" y={248 - left} width="184" height={left} fill="var(--water)" />
      <path d="M74 238H286" stroke="var(--hip)" strokeWidth="3" strokeDasharray="7 5" />
      {[140, 180, 220].map((x) => (
        <path key={x} d={`M${x} 256c10 8 12 22 0 28c-12 -6 -10 -18 0 -28z`} fill="var(--hip)" />
      ))}
    </>
  );
}
