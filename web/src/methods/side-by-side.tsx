import type { ReactNode } from "react";
import type { PlanView } from "@/api/types";
import { days, litres, minutes, range } from "@/lib/format";
import { beside, type Pair } from "@/methods/beside";
import { amount, done, vessels } from "@/methods/words";

type Props = { one: PlanView; other: PlanView };

/** Two methods beside each other for the same fruit: what differs stands out, the rest is pale. */
export function SideBySide({ one, other }: Props) {
  const inputs = beside(one.inputs, other.inputs, (i) => i.material + i.form, amount);
  const steps = beside(
    one.operations,
    other.operations,
    (o) => o.kind,
    (o) => o.title + done(o),
  );
  const results = RESULTS.map(
    ([name, of]): Pair<string> => ({
      key: name,
      one: of(one),
      other: of(other),
      same: of(one) === of(other),
    }),
  );
  return (
    <div className="grid gap-5">
      <Part name="What comes of it">
        {results.map((row) => (
          <Row key={row.key} row={row} name={row.key} show={(words) => words} />
        ))}
      </Part>
      <Part name="What goes in">
        {inputs.map((row) => (
          <Row
            key={row.key}
            row={row}
            show={(i) => (
              <>
                <b>{i.name}</b> {amount(i)}
              </>
            )}
          />
        ))}
      </Part>
      <Part name="Step by step">
        {steps.map((row) => (
          <Row
            key={row.key}
            row={row}
            show={(o) => (
              <>
                <b>{o.title}</b> <span className="whitespace-nowrap">{minutes(o.minutes.typ)}</span>
              </>
            )}
          />
        ))}
      </Part>
    </div>
  );
}

/** What two methods are weighed by, each as it is said. */
const RESULTS: [name: string, of: (plan: PlanView) => string][] = [
  ["Made", (p) => p.ends.map((e) => litres(1000 * e.litres.typ)).join(" and ")],
  ["Into", (p) => p.ends.map(vessels).join(" and ")],
  ["Sweet", (p) => p.ends.map((e) => (e.brix ? `${range(e.brix)} °Bx` : "–")).join(" and ")],
  ["Sharp", (p) => p.ends.map((e) => (e.ph ? `pH ${range(e.ph)}` : "–")).join(" and ")],
  ["Clear", (p) => p.ends.map((e) => e.clarity || "–").join(" and ")],
  ["Work", (p) => minutes(p.minutes.typ)],
  ["Waiting", (p) => minutes(60 * p.waits_h)],
  [
    "Canner",
    (p) => p.ends.map((e) => (e.process ? `${e.process.minutes} min` : "none")).join(" and "),
  ],
  ["Keeps", (p) => p.ends.map((e) => days(e.life.days_lo, e.life.days_hi)).join(" and ")],
];

function Part({ name, children }: { name: string; children: ReactNode }) {
  return (
    <section aria-label={name}>
      <h2>{name}</h2>
      <ul className="mt-1">{children}</ul>
    </section>
  );
}

type RowProps<T> = { row: Pair<T>; show: (item: T) => ReactNode; name?: string };

function Row<T>({ row, show, name }: RowProps<T>) {
  const look = row.same ? "text-slate" : "bg-tag";
  const side = (item: T | undefined) =>
    item === undefined ? <span className="text-slate">–</span> : show(item);
  return (
    <li
      className={`grid break-inside-avoid grid-cols-2 gap-x-4 border-slate/40 border-b py-1 leading-snug ${look}`}
    >
      <span className="px-1">
        {name && <span className="mr-2 text-slate">{name}</span>}
        {side(row.one)}
      </span>
      <span className="px-1">{side(row.other)}</span>
    </li>
  );
}
