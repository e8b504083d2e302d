import { Link } from "react-router";
import type { Sum } from "@/api/types";
import { days, mass, plain, range, short, spoken } from "@/lib/format";
import { measureOf, shown } from "@/lib/units";

type Said = Sum["answer"];
type Props = {
  sum: Sum | undefined;
  refused: string | undefined;
  waiting: boolean;
  /** Where the answer can be taken, if the sum was opened from a step. */
  back: string | null;
};

/** What it comes to: the answer large, what else is known then, and what it must not be taken for. */
export function Answer({ sum, refused, waiting, back }: Props) {
  if (refused)
    return (
      <div>
        <p role="alert" className="font-bold text-hip text-xl">
          {refused}
        </p>
        {back && <Back to={back} words="Back to the step" />}
      </div>
    );
  if (!sum) return null;
  const { answer } = sum;
  const words = said(typical(answer));
  const span = said(answer);
  return (
    <section aria-label="What it comes to" aria-busy={waiting}>
      <h2 className="text-ink">{answer.label}</h2>
      <p
        aria-live="polite"
        className={`font-bold font-display ${words.length > 16 ? "text-3xl" : "text-4xl"}`}
      >
        {words}
      </p>
      {span !== words && <p className="text-lg">{span}</p>}
      {sum.note && <p className="mt-1 text-base text-slate">{sum.note}</p>}
      <Figures said={sum.then ?? []} />
      {back && <Back to={`${back}&told=${told(answer)}`} words="Take it to the step" />}
      {(sum.cautions ?? []).map((caution) => (
        <p key={caution} className="mt-4 border-brass border-l-6 pl-3 text-base">
          {caution}
        </p>
      ))}
    </section>
  );
}

function Back({ to, words }: { to: string; words: string }) {
  return (
    <Link
      to={to}
      className="mt-4 flex min-h-14 items-center justify-center border-2 border-line bg-paper px-4 font-bold font-display text-lg print:hidden"
    >
      {words}
    </Link>
  );
}

/** A figure without its range. */
const typical = (s: Said): Said =>
  s.value ? { ...s, value: { ...s.value, lo: s.value.typ, hi: s.value.typ } } : s;

/** The answer in a sentence of its own. */
const told = (answer: Said): string => encodeURIComponent(`${answer.label}: ${said(answer)}`);

function Figures({ said: figures }: { said: Said[] }) {
  return (
    <dl className="mt-4 grid gap-y-1 text-lg">
      {figures.map((s) => (
        <div key={s.key} className="flex justify-between gap-4 border-slate/40 border-b py-1">
          <dt className="text-slate">{s.label}</dt>
          <dd className="text-right font-bold">{said(s)}</dd>
        </div>
      ))}
    </dl>
  );
}

/** Ways that stand beside each other, each with the same figures. */
export function Beside({ sum }: { sum: Sum | undefined }) {
  const columns = sum?.beside ?? [];
  if (columns.length === 0) return null;
  const short_ = columns.every((c) => c.said.length === 1);
  return (
    <section
      aria-label="Side by side"
      className={`mt-6 grid gap-x-8 gap-y-5 ${short_ ? "grid-cols-3 wide:grid-cols-6" : "wide:grid-flow-col wide:auto-cols-fr"}`}
    >
      {columns.map((c) => (
        <div key={c.title} className="border-line border-t-3 pt-2">
          <h2 className="text-ink text-xl">{c.title}</h2>
          {c.note && <p className="min-h-12 text-base text-slate leading-snug">{c.note}</p>}
          {short_ ? (
            <p className="font-bold text-xl">{c.said[0] && said(c.said[0])}</p>
          ) : (
            <Figures said={c.said} />
          )}
        </div>
      ))}
    </section>
  );
}

/** A figure of a sum in the kitchen's units, with its range where it has one. */
export function said({ value, quantity, words }: Said): string {
  if (!value) return words ?? "";
  switch (quantity) {
    case "hours":
      return `${range(value, 1, value.hi < 10 ? 0.1 : 1)} h`;
    case "minutes":
      return `${range(value, 1, 1)} min`;
    case "mass_g":
      return value.hi > value.lo ? spanOf(value, mass) : mass(value.typ);
    case "brix":
      return spoken(value, "brix", "°Bx");
    case "acid_g_l":
      return `${range(value, 1, 0.1)} g/l`;
    case "money":
      return plain(value.typ, 0.01);
    case "days":
      return days(value.lo, value.hi);
    case "ph":
      return range(value, 1, 0.1);
    case "temp_c": {
      const measure = measureOf("temp_c");
      return `${plain(shown(value.typ, measure), 0.1)} ${measure.unit}`;
    }
    case "degrees": {
      const { unit, factor } = measureOf("temp_c");
      return `${plain(value.typ / factor, 0.1)} ${unit}`;
    }
    case "parts":
      return range(value, 1, 0.1).replace(/\.0\b/g, "");
    case "count":
      return short(value.typ);
    case "percent":
      return `${plain(value.typ, 1)} %`;
    default:
      return spoken(value, quantity);
  }
}

/** From the least to the most, one unit said once where both have it. */
function spanOf(value: NonNullable<Said["value"]>, say: (v: number) => string): string {
  const [lo, hi] = [say(value.lo), say(value.hi)];
  const unit = hi.split(" ").at(-1) ?? "";
  return lo === hi
    ? hi
    : `${lo.endsWith(` ${unit}`) ? lo.slice(0, -unit.length - 1) : lo} to ${hi}`;
}
