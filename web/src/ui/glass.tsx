type Shape = { radiusMm: number; heightMm: number; closure?: string };

type Props = Shape & {
  /** Millimetres to pixels. */
  scale: number;
  /** 0 to 1 of the inside height. */
  level: number;
  colour: string;
  lid?: string | undefined;
  ghost?: boolean;
};

/** The usual jar, where the kind of one is not listed any more. */
export const USUAL_JAR = { radiusMm: 38, heightMm: 115 };

/** Outer size of a drawn jar in pixels. */
export function glassSize(
  { radiusMm, heightMm }: Shape,
  scale: number,
): { width: number; height: number } {
  return { width: 2 * radiusMm * scale + 4, height: heightMm * scale + 14 };
}

/** A jar in its true proportions, filled to its level; a ghost is one to have ready. */
export function Glass({
  radiusMm,
  heightMm,
  scale,
  level,
  colour,
  lid = "var(--brass)",
  ghost,
}: Props) {
  const { width: w, height: h } = glassSize({ radiusMm, heightMm }, scale);
  const [top, r] = [11, Math.min(9, w / 5)];
  const neck = Math.min(6, w / 8);
  const body = `M${neck} ${top} C${neck} ${top + 7} 2 ${top + 6} 2 ${top + 15} V${h - r - 1} Q2 ${h - 1} ${2 + r} ${h - 1} H${w - r - 2} Q${w - 2} ${h - 1} ${w - 2} ${h - r - 1} V${top + 15} C${w - 2} ${top + 6} ${w - neck} ${top + 7} ${w - neck} ${top}Z`;
  const inside = h - top - 5;
  const filled = Math.max(0, Math.min(1, level)) * inside;
  if (ghost) {
    return (
      <svg width={w} height={h} aria-hidden="true" className="shrink-0 text-slate">
        <path d={body} fill="none" stroke="currentColor" strokeWidth="1.5" strokeDasharray="3 3" />
        <rect
          x={neck - 2}
          y="2"
          width={w - 2 * neck + 4}
          height="8"
          fill="none"
          stroke="currentColor"
          strokeWidth="1.5"
          strokeDasharray="3 3"
        />
      </svg>
    );
  }
  const clip = `M4 ${h - 3 - filled} H${w - 4} V${h - r - 2} Q${w - 4} ${h - 3} ${w - 3 - r} ${h - 3} H${3 + r} Q4 ${h - 3} 4 ${h - r - 2}Z`;
  return (
    <svg width={w} height={h} aria-hidden="true" className="shrink-0">
      <path d={body} fill="var(--paper)" stroke="var(--line)" strokeWidth="2" />
      {filled > 2 && <path d={clip} fill={colour} />}
      <rect
        x={neck - 2}
        y="2"
        width={w - 2 * neck + 4}
        height="9"
        rx="2"
        fill={lid}
        stroke="var(--line)"
        strokeWidth="2"
      />
    </svg>
  );
}
