import type { StackPageView } from "@/api/types";
import { count, date, mass, plain } from "@/lib/format";

type Props = { page: StackPageView; now: number };

/** Whether it lasts at this household's pace, and what to make to last till next. */
export function Enough({ page, now }: Props) {
  const { there, a_month, till, short, fruit_kg, fruit, again } = page.enough;
  return (
    <section className="mt-4">
      <h3 className="text-xl">Enough?</h3>
      {till ? (
        <p className="text-lg">
          {there} here, {pace(a_month)}: till <b>{date(till, now)}</b>.
          {again && short > 0 && ` ${count(short, "jar")} short of ${date(again, now)}.`}
        </p>
      ) : (
        <p className="text-lg">{there} here; none was opened yet, so there is no pace to tell.</p>
      )}
      {till && fruit_kg !== null && fruit && (
        <p className="text-lg text-slate">
          {mass(1000 * fruit_kg)} of {fruit.toLowerCase()} would last a year.
        </p>
      )}
    </section>
  );
}

/** How often one goes: in words that a household says. */
function pace(aMonth: number): string {
  if (aMonth >= 4) return `${plain(aMonth / 4.3, 0.1)} a week`;
  if (aMonth >= 1.5) return "one a fortnight";
  if (aMonth >= 0.8) return "one a month";
  return `one in ${plain(1 / aMonth, 1)} months`;
}
