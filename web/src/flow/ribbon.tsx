import { useState } from "react";
import type { FlowLot, FlowOperation } from "@/api/types";
import { type Band, type Group, groupOf, layOut } from "@/flow/layout";
import { Piece, Words } from "@/flow/piece";
import { crowdedOut, heightsOfSides } from "@/flow/side-labels";
import { bandColour, detail, groupColour, type Label, usualLabel } from "@/flow/words";

export type { Label };

type Props = {
  lots: FlowLot[];
  operations: FlowOperation[];
  /** Words on a group of lots, by its name, where they are not the usual ones. */
  labels?: Record<string, Label>;
  /** Lots that were measured are solid; the others are still only expected. */
  measured?: Set<string>;
  /** Pressing a lot, where something can be done with it. */
  onLot?: ((name: string) => void) | undefined;
  title: string;
};

/** What is white on linen has an edge. */
const EDGE = { stroke: "var(--line)", strokeWidth: 1 };
const PLAIN = "#efe4c4";

const WIDE = { along: 660, across: 232, box: 104, slim: 16, step: 30, gap: 26, margin: 72 };
const TALL = { along: 0, across: 330, box: 74, slim: 16, step: 40, gap: 26, margin: 60 };

/** On a phone what joins from the side has more room for its words where there is much of it. */
function tall(lots: FlowLot[]) {
  const sides = lots.filter((l) => l.kind === "added").length;
  return sides > 2 ? { ...TALL, margin: 118 } : TALL;
}

/** The ribbon as the window has room for it: lying on a wide page, standing on a phone. */
export function RibbonThatFits(props: Props) {
  return (
    <>
      <div className="hidden wide:block print:block">
        <Ribbon {...props} upright={false} />
      </div>
      <div className="wide:hidden print:hidden">
        <Ribbon {...props} upright />
      </div>
    </>
  );
}

/** One picture of a flow: thickness is mass, colour is the fruit, left to right or downwards. */
function Ribbon(props: Props & { upright: boolean }) {
  const { lots, operations, labels = {}, measured, onLot, upright, title } = props;
  const [shown, setShown] = useState<string | null>(null);
  const layout = layOut(
    lots.map((l) => ({ key: l.key, kind: l.kind, mass: l.mass_g.typ })),
    operations,
    upright ? tall(lots) : WIDE,
  );
  const [w, h] = upright ? [layout.across, layout.along] : [layout.along, layout.across];
  const of = (group: Group) => lots.filter((l) => groupOf(l.key) === group.key);
  const colourOf = (group: Group) => groupColour(group, of(group)[0]?.colour ?? PLAIN);
  const labelOf = (group: Group) => labels[group.key] ?? usualLabel(of(group));
  const sides = heightsOfSides(layout.groups, labelOf, upright);
  const over = Math.max(0, ...[...sides.values()].map((y) => 14 - y));
  const crowded = upright ? crowdedOut(layout.groups, labelOf) : new Set<string>();
  const asked = layout.groups.find((g) => g.key === shown);
  return (
    <figure aria-label={title} onPointerLeave={() => setShown(null)}>
      <svg viewBox={`0 ${-over} ${w} ${h + over}`} className="block w-full overflow-visible">
        <title>{title}</title>
        {layout.bands.map((band) => (
          <path
            key={band.key}
            d={bandPath(band, upright)}
            fill={bandColour(band, colourOf)}
            {...(band.source.kind === "added" ? EDGE : {})}
          />
        ))}
        {layout.groups.map((group) => (
          <Piece
            key={group.key}
            group={group}
            fill={colourOf(group)}
            words={detail(of(group))}
            measured={measured}
            upright={upright}
            shown={group.key === shown}
            onShow={() => setShown(group.key)}
            onPress={onLot}
          />
        ))}
        {layout.groups.map((group) => {
          const label = labelOf(group);
          if (!label || group.slim || crowded.has(group.key)) return null;
          return (
            <Words
              key={group.key}
              group={group}
              label={label}
              fill={colourOf(group)}
              measured={measured}
              upright={upright}
              most={w}
              above={sides.get(group.key) ?? 0}
            />
          );
        })}
      </svg>
      <figcaption className="min-h-7 text-base text-slate print:hidden">
        {asked ? detail(of(asked)) : onLot ? "Press a lot or a step to change the flow." : ""}
      </figcaption>
    </figure>
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
