import type { Group } from "@/flow/layout";
import { BESIDE, type Label } from "@/flow/words";

/** About how wide a letter of the bold and the plain size is on average. */
export const [BOLD_LETTER, LETTER] = [8.2, 8.4];

/** What is said beside the large word of a label, or under it, a line each. */
export const rest = ({ small, known }: Label): string[] =>
  [small, known].flatMap((words) => words || []);

/** About how long the words of a label are beside each other: all of them, or those that are said. */
export const oneLine = (label: Label, said = rest(label)): number =>
  label.big.length * BOLD_LETTER + 5 + said.join(", ").length * LETTER;

/**
 * Rows for the words of what joins from the side, counted upwards from the lowest, so that none
 * runs into another, whatever column it joins at.
 */
export function rowsOfSides(
  groups: Group[],
  labelOf: (group: Group) => Label | undefined,
): Map<string, number> {
  const ends: number[] = [];
  const rows = new Map<string, number>();
  const sides = groups.filter((g) => BESIDE.has(g.kind)).sort((a, b) => b.along - a.along);
  for (const g of sides) {
    const label = labelOf(g);
    if (!label) continue;
    const right = g.along + oneLine(label) + 8;
    const row = ends.findIndex((left) => right <= left);
    const at = row < 0 ? ends.length : row;
    ends[at] = g.along;
    rows.set(g.key, at);
  }
  return rows;
}

const [ROW, OVER] = [15, 6];

/**
 * How high the words of what joins from the side stand: in a standing ribbon each over its own
 * piece, in a lying one all over the tallest of them.
 */
export function heightsOfSides(
  groups: Group[],
  labelOf: (group: Group) => Label | undefined,
  upright: boolean,
): Map<string, number> {
  if (upright)
    return new Map(groups.filter((g) => BESIDE.has(g.kind)).map((g) => [g.key, g.along - OVER]));
  const rows = rowsOfSides(groups, labelOf);
  const top = Math.min(...groups.filter((g) => rows.has(g.key)).map((g) => g.across));
  return new Map([...rows].map(([key, row]) => [key, top - OVER - ROW * row]));
}

/** On a phone a piece from this thickness on holds its own words [px of the picture]. */
export const HOLDS_WORDS = 62;

/** Narrow pieces of a standing ribbon whose words would run into the piece beside them. */
export function crowdedOut(
  groups: Group[],
  labelOf: (group: Group) => Label | undefined,
): Set<string> {
  const out = new Set<string>();
  for (const g of groups) {
    const label = labelOf(g);
    if (!label || BESIDE.has(g.kind) || g.thickness >= HOLDS_WORDS) continue;
    const from = g.across + g.thickness;
    const longest = Math.max(
      label.big.length * BOLD_LETTER,
      ...rest(label).map((line) => line.length * LETTER),
    );
    const hit = groups.some(
      (o) =>
        o !== g &&
        o.across >= from - 1 &&
        o.across < from + 8 + longest &&
        o.along < g.along + g.length &&
        g.along < o.along + o.length,
    );
    if (hit) out.add(g.key);
  }
  return out;
}
