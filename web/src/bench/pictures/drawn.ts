import type { Sum } from "@/api/types";

/** What a picture of a sum is drawn with. */
export type Props = {
  draws: Record<string, number>;
  curve: NonNullable<Sum["curve"]>;
  small: boolean;
};

export const INK = "var(--line)";
export const SYRUP = "#7a2434";
export const PALE = "#e8d8b4";
export const GOLD = "#d9a441";

/** Something of a picture between 0 and 1. */
export const part = (value: number | undefined, of = 1): number =>
  Math.max(0, Math.min(1, (value ?? 0) / of));
