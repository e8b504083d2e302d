import { room } from "@/lib/format";

const [W, H] = [224, 116];
const [LEFT, RIGHT, RIM] = [34, 134, 34];

/** The neck of a jar with the room that is left under its lid, to scale where that can be seen. */
export function Headspace({ mm, colour }: { mm: number; colour: string }) {
  const gap = Math.max(14, Math.min(58, 2.6 * mm));
  const level = RIM + gap;
  const words = room(mm);
  return (
    <svg
      viewBox={`0 0 ${W} ${H}`}
      className="block w-full max-w-56"
      role="img"
      aria-label={`${words} of room under the lid`}
    >
      <path d={`M${LEFT} ${level}H${RIGHT}V${H}H${LEFT}Z`} fill={colour} />
      <path
        d={`M${LEFT} ${RIM}V${H}M${RIGHT} ${RIM}V${H}`}
        stroke="var(--line)"
        strokeWidth="2.5"
      />
      <rect
        x={LEFT - 7}
        y={RIM - 17}
        width={RIGHT - LEFT + 14}
        height="17"
        rx="3"
        fill="var(--brass)"
        stroke="var(--line)"
        strokeWidth="2.5"
      />
      <path
        d={`M${RIGHT + 10} ${RIM}h16M${RIGHT + 10} ${level}h16M${RIGHT + 18} ${RIM}V${level}`}
        fill="none"
        stroke="var(--ink)"
        strokeWidth="2"
      />
      <text x={RIGHT + 34} y={RIM + gap / 2 + 6} fontSize="18" fontWeight="700" fill="var(--ink)">
        {words}
      </text>
    </svg>
  );
}
