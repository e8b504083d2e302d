import type { FlowLot, FlowOperation } from "@/api/types";
import { type Band, type Group, layOut } from "@/flow/layout";
import { mix, ofFruit, wordsOn } from "@/lib/colour";
import { mass } from "@/lib/format";

export type Label = { big: string; small?: string | undefined };

type Props = {
  lots: FlowLot[];
  operations: FlowOperation[];
  colour: string;
  /** Words on a group of lots, by its key: fruit, juice, hot, jars, pomace, steam. */
  labels: Record<string, Label>;
  /** Lots that were measured are solid; the others are still only expected. */
  measured?: Set<string>;
  upright?: boolean;
  title: string;
};

/** What joins from the side has its words beside it. */
const BESIDE = new Set(["steam", "added"]);

const WIDE = { along: 660, across: 280, box: 122, gap: 40, margin: 60 };
const TALL = { along: 560, across: 330, box: 74, gap: 30, margin: 52 };

/** The ribbon as the window has room for it: lying on a wide page, standing on a phone. */
export function RibbonThatFits(props: Omit<Props, "upright">) {
  return (
    <>
      <div className="hidden wide:block">
        <Ribbon {...props} />
      </div>
      <div className="wide:hidden">
        <Ribbon {...props} upright />
      </div>
    </>
  );
}

/** One picture of a flow: thickness is mass, colour is the fruit, left to right or downwards. */
function Ribbon({ lots, operations, colour, labels, measured, upright = false, title }: Props) {
  const room = upright ? TALL : WIDE;
  const layout = layOut(
    lots.map((l) => ({ key: l.key, kind: l.kind, mass: l.mass_g.typ })),
    operations,
    room,
  );
  const [w, h] = upright ? [room.across, room.along] : [room.along, room.across];
  return (
    <svg viewBox={`0 0 ${w} ${h}`} className="block w-full" role="img" aria-label={title}>
      {layout.bands.map((band) => (
        <path key={band.key} d={bandPath(band, upright)} fill={bandColour(band, colour)} />
      ))}
      {layout.groups.map((group) => (
        <Piece
          key={group.key}
          group={group}
          colour={colour}
          label={labels[group.key]}
          measured={measured}
          upright={upright}
        />
      ))}
    </svg>
  );
}

function bandPath(band: Band, upright: boolean): string {
  const [a0, a1] = [band.source.along + band.source.length - 0.5, band.target.along + 0.5];
  const [s0, s1] = [band.sourceAcross, band.sourceAcross + band.thickness];
  const [t0, t1] = [band.targetAcross, band.targetAcross + band.thickness];
  const m = (a0 + a1) / 2;
  const p = (along: number, across: number) =>
    upright ? `${across} ${along}` : `${along} ${across}`;
  return `M${p(a0, s0)}C${p(m, s0)} ${p(m, t0)} ${p(a1, t0)}L${p(a1, t1)}C${p(m, t1)} ${p(m, s1)} ${p(a0, s1)}Z`;
}

function bandColour(band: Band, colour: string): string {
  if (band.source.kind === "steam") return "var(--water)";
  if (band.source.kind === "added") return "var(--brass)";
  return band.target.kind === "pomace" ? "var(--pomace)" : colour;
}

function groupColour(group: Group, colour: string): string {
  if (group.kind === "steam") return "var(--water)";
  if (group.kind === "added") return "var(--brass)";
  if (group.kind === "pomace") return "var(--pomace)";
  return group.kind === "fruit" ? ofFruit(colour) : colour;
}

type PieceProps = {
  group: Group;
  colour: string;
  label: Label | undefined;
  measured: Set<string> | undefined;
  upright: boolean;
};

function Piece({ group, colour, label, measured, upright }: PieceProps) {
  const fill = groupColour(group, colour);
  const box = (from: number, to: number) =>
    upright
      ? { x: group.across + from, y: group.along, width: to - from, height: group.length }
      : { x: group.along, y: group.across + from, width: group.length, height: to - from };
  const first = group.strands[0]?.key ?? "";
  const pale = Boolean(group.kind === "juice" && measured && !measured.has(first));
  return (
    <g>
      <title>{`${label?.big ?? group.key}, ${mass(group.mass)}`}</title>
      <rect {...box(0, group.thickness)} fill={fill} />
      {group.kind === "juice" &&
        group.strands.map((s) => (
          <rect
            key={s.key}
            {...box(s.from, s.to)}
            fill={measured && !measured.has(s.key) ? mix(colour, "#fffdf7", 0.42) : fill}
          />
        ))}
      {group.kind !== "steam" &&
        group.strands
          .slice(1)
          .map((s) => <Notches key={s.key} group={group} at={s.from} upright={upright} />)}
      {label && <Words group={group} label={label} fill={fill} pale={pale} upright={upright} />}
    </g>
  );
}

/** Where one load ends and the next begins: a notch at both edges, clear of the words. */
function Notches({ group, at, upright }: { group: Group; at: number; upright: boolean }) {
  const [near, far, across] = [group.along, group.along + group.length, group.across + at];
  const ends = [
    [near, near + 8],
    [far - 8, far],
  ] as const;
  return ends.map(([from, to]) => (
    <path
      key={from}
      d={upright ? `M${across} ${from}V${to}` : `M${from} ${across}H${to}`}
      stroke="var(--linen)"
      strokeWidth="1.5"
    />
  ));
}

function Words({
  group,
  label,
  fill,
  pale,
  upright,
}: {
  group: Group;
  label: Label;
  fill: string;
  pale: boolean;
  upright: boolean;
}) {
  const room = upright ? Math.min(group.thickness / 96, group.length / 46) : group.thickness / 46;
  const inside = room >= 1 && !BESIDE.has(group.kind);
  const onCloth =
    group.kind === "pomace" ? "#261f2b" : wordsOn(pale ? mix(fill, "#fffdf7", 0.42) : fill);
  const at = wordsAt(group, inside, upright);
  return (
    <text
      {...at}
      fill={inside ? onCloth : "var(--ink)"}
      stroke={inside ? (pale ? mix(fill, "#fffdf7", 0.42) : fill) : "var(--linen)"}
      strokeWidth="4"
      paintOrder="stroke"
      className="font-text"
    >
      <tspan className="font-bold" fontSize="17">
        {label.big}
      </tspan>
      {label.small && (
        <tspan
          {...(BESIDE.has(group.kind) && !upright ? { dx: 6 } : { x: at.x, dy: 18 })}
          fontSize="14.5"
        >
          {label.small}
        </tspan>
      )}
    </text>
  );
}

function wordsAt(group: Group, inside: boolean, upright: boolean): { x: number; y: number } {
  const [along, across] = [group.along, group.across];
  if (upright) {
    if (inside) return { x: across + 10, y: along + group.length / 2 - 2 };
    if (BESIDE.has(group.kind)) return { x: Math.max(1, across), y: along + 30 };
    return { x: across + group.thickness + 8, y: along + group.length / 2 };
  }
  if (inside) return { x: along + 10, y: across + group.thickness / 2 - 2 };
  if (BESIDE.has(group.kind)) return { x: along, y: across + group.thickness + 18 };
  return { x: along, y: across + group.thickness + 18 };
}
