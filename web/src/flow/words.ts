import type { Estimate, FlowLot } from "@/api/types";
import type { Band, Group } from "@/flow/layout";
import { ofFruit } from "@/lib/colour";
import { litres, mass, plain, range, spoken } from "@/lib/format";

/** Words on a lot: how much, what more there is to say, and how all that is known. */
export type Label = { big: string; small?: string | undefined; known?: string | undefined };

/** What joins from the side has its words beside it. */
export const BESIDE = new Set(["steam", "water", "added"]);

const SIDE_COLOUR: Record<string, string> = { steam: "var(--water)", water: "var(--water)" };

/** The colour of a group of lots: of what is in them; steam, water and leavings have their own. */
export function groupColour(group: Pick<Group, "kind">, colour: string): string {
  const side = SIDE_COLOUR[group.kind];
  if (side) return side;
  if (group.kind === "pomace" || group.kind === "loss") return "var(--pomace)";
  return group.kind === "fruit" || group.kind === "mash" ? ofFruit(colour) : colour;
}

/** What flows has the colour of where it goes, unless it joins from the side. */
export function bandColour(band: Band, of: (group: Group) => string): string {
  const joins = BESIDE.has(band.source.kind);
  return SIDE_COLOUR[band.source.kind] ?? of(joins ? band.source : band.target);
}

/** All lots of a name together. */
export function together(lots: FlowLot[]): { mass: number; volume: Estimate } {
  const sum = (pick: (e: Estimate) => number) =>
    lots.reduce((total, l) => total + pick(l.volume_ml), 0);
  return {
    mass: lots.reduce((total, l) => total + l.mass_g.typ, 0),
    volume: { lo: sum((e) => e.lo), typ: sum((e) => e.typ), hi: sum((e) => e.hi) },
  };
}

/** The words that stand on a lot when nobody says otherwise. */
export function usualLabel(lots: FlowLot[]): Label | undefined {
  const first = lots[0];
  if (!first) return undefined;
  const all = together(lots);
  if (BESIDE.has(first.kind))
    return {
      big: first.kind === "added" ? first.name.toLowerCase() : first.kind,
      small: mass(all.mass),
    };
  if (first.kind === "juice")
    return { big: litres(all.volume.typ), small: first.brix ? `${plain(first.brix.typ)} °Bx` : "" };
  const named: Record<string, string> = { pomace: "pomace", loss: "lost", mash: "mash" };
  return { big: mass(all.mass), small: named[first.kind] ?? "" };
}

/** Everything that is known of a lot, in one line. */
export function detail(lots: FlowLot[]): string {
  const first = lots[0];
  if (!first) return "";
  const all = together(lots);
  const parts = [
    lots.length > 1 ? `${first.name.replace(/, load \d+$/, "")}, ${lots.length} lots` : first.name,
    mass(all.mass),
    first.kind === "juice" || first.kind === "water" ? spoken(all.volume, "volume_ml") : "",
    first.brix ? `${range(first.brix)} °Bx` : "",
    first.ph ? `pH ${range(first.ph, 1, 0.1)}` : "",
    first.clarity ?? "",
    first.mass_g.evidence === "read" ? "inferred, not measured" : "",
  ];
  return parts.filter(Boolean).join(" · ");
}
