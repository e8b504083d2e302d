/** Contents have their own colours; these keep words on them readable. */

function channels(hex: string): [number, number, number] {
  const n = Number.parseInt(hex.slice(1), 16);
  return [(n >> 16) & 255, (n >> 8) & 255, n & 255];
}

function luminance(hex: string): number {
  const [r, g, b] = channels(hex).map((c) => {
    const s = c / 255;
    return s <= 0.04045 ? s / 12.92 : ((s + 0.055) / 1.055) ** 2.4;
  }) as [number, number, number];
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
}

/** Paper or ink, whichever reads better on a colour. */
export function wordsOn(hex: string): string {
  return luminance(hex) > 0.22 ? "#261f2b" : "#fffdf7";
}

/** A colour mixed with another, share 0 to 1 of the second. */
export function mix(hex: string, other: string, share: number): string {
  const [a, b] = [channels(hex), channels(other)];
  const mixed = a.map((c, i) => Math.round(c + ((b[i] ?? c) - c) * share));
  return `#${mixed.map((c) => c.toString(16).padStart(2, "0")).join("")}`;
}

/** Whole fruit is darker than its juice, and juice pales as water comes in. */
export const ofFruit = (hex: string): string => mix(hex, "#261f2b", 0.28);
