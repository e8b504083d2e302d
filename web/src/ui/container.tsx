import type { ComponentProps } from "react";
import { Glass } from "@/ui/glass";

/** What stands open, and what has a press-on lid; anything else is a jar. */
const OPEN = new Set(["jug", "bowl", "pot", "glass"]);
const MOST_PX = 96;

type Props = ComponentProps<typeof Glass> & {
  /** The kind of container: "pint", or a vessel of the household, "jug-2000". */
  kind: string;
};

/** A container of any kind in its proportions, filled to its level. */
export function Container({ kind, ...jar }: Props) {
  const what = kind.split("-")[0] ?? "";
  if (what === kind) return <Glass {...jar} />;
  const { radiusMm, heightMm, level, colour, ghost, lid = "var(--tag)" } = jar;
  const scale = Math.min(jar.scale, MOST_PX / heightMm);
  const [w, h] = [2 * radiusMm * scale + 4, heightMm * scale + 4];
  const top = OPEN.has(what) ? 2 : 9;
  const filled = Math.max(0, Math.min(1, level)) * (h - top - 4);
  const line = {
    fill: "none",
    stroke: ghost ? "currentColor" : "var(--line)",
    strokeWidth: ghost ? 1.5 : 2,
    ...(ghost ? { strokeDasharray: "3 3" } : {}),
  };
  return (
    <svg
      width={w + (what === "jug" ? 12 : 0)}
      height={h}
      aria-hidden="true"
      className="shrink-0 text-slate"
    >
      {!ghost && <path d={`M2 ${top}H${w - 2}V${h - 2}H2Z`} fill="var(--paper)" />}
      {filled > 2 && <path d={`M3 ${h - 3 - filled}H${w - 3}V${h - 3}H3Z`} fill={colour} />}
      <path d={`M2 ${top}V${h - 2}H${w - 2}V${top}`} {...line} />
      {top > 2 && (
        <rect x="1" y="2" width={w - 2} height="7" rx="2" {...line} fill={ghost ? "none" : lid} />
      )}
      {what === "jug" && <path d={`M${w - 2} ${top + 8}q12 2 9 ${h * 0.4}q-2 8 -9 8`} {...line} />}
    </svg>
  );
}
