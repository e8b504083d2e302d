import type { Values } from "@/kitchen/edit-sheet";

/** The figures of a row that are sent again when one of them changes. */
export function figures(row: object, fresh: Values): Values {
  const known = row as Values;
  return Object.fromEntries(Object.keys(fresh).map((key) => [key, known[key] ?? null]));
}
