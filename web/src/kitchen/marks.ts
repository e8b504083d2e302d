import { measureOf, shown, typed } from "@/lib/units";

/** A vessel's own marks as they are typed: "250, 500, 750". */
export function marksText(marks: number[] | null): string {
  const measure = measureOf("little_ml");
  return (marks ?? []).map((ml) => Number(shown(ml, measure).toFixed(1))).join(", ");
}

/** What was typed as millilitres; text that is no list of figures goes as it is, to be refused. */
export function asMarks(text: unknown): number[] | string | null {
  const parts = String(text ?? "")
    .split(/[,;\s]+/)
    .filter(Boolean);
  const figures = parts.map(Number);
  if (figures.some((n) => !Number.isFinite(n))) return String(text);
  const measure = measureOf("little_ml");
  return figures.length ? figures.map((n) => typed(n, measure)) : null;
}
