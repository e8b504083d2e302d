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

/** How far two colours stand apart, 1 to 21, as the accessibility guidelines reckon it. */
export function contrast(one: string, other: string): number {
  const [a, b] = [luminance(one), luminance(other)];
  return (Math.max(a, b) + 0.05) / (Math.min(a, b) + 0.05);
}

/** White and nearly black: only such a pair can be read on every colour between. */
const [DARK, BRIGHT] = ["#0d0812", "#ffffff"];

/** The one that reads better on a colour. */
export const wordsOn = (hex: string): string =>
  contrast(hex, DARK) > contrast(hex, BRIGHT) ? DARK : BRIGHT;

/** A colour mixed with another, share 0 to 1 of the second. */
export function mix(hex: string, other: string, share: number): string {
  const [a, b] = [channels(hex), channels(other)];
  const mixed = a.map((c, i) => Math.round(c + ((b[i] ?? c) - c) * share));
  return `#${mixed.map((c) => c.toString(16).padStart(2, "0")).join("")}`;
}

/** Whole fruit is darker than its juice, and juice pales as water comes in. */
export const ofFruit = (hex: string): string => mix(hex, "#261f2b", 0.28);
