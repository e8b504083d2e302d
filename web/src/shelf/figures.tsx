import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { figuresQuery } from "@/api/queries";
import type { FiguresView } from "@/api/types";
import { count, litres, plain } from "@/lib/format";
import { NumberField, parse } from "@/ui/field";
import { Empty, Waiting } from "@/ui/notice";

const BECAME = [
  ["kept", "var(--tag)"],
  ["eaten", "var(--leaf)"],
  ["given", "var(--brass)"],
  ["spoiled", "var(--hip)"],
] as const;
const PRICES = [
  { key: "lid", label: "A new lid", usual: "0.25" },
  { key: "kwh", label: "A kilowatt hour", usual: "0.30" },
  { key: "hour", label: "An hour of yours", usual: "0" },
  { key: "bought", label: "A litre like it, bought", usual: "4.50" },
] as const;

/** What became of the jars of each year and fruit, seals by their lids, and what a litre cost. */
export function Figures() {
  const [said, setSaid] = useState<Record<string, string>>(
    Object.fromEntries(PRICES.map((p) => [p.key, p.usual])),
  );
  const minor = (key: string) => Math.max(0, 100 * (parse(said[key] ?? "") || 0));
  const prices = {
    lid: minor("lid"),
    kwh: minor("kwh"),
    hour: minor("hour"),
    bought: minor("bought"),
  };
  const view = useQuery(figuresQuery(prices)).data;
  if (!view) return <Waiting />;
  if (view.years.length === 0)
    return <Empty>Once jars are filled, what became of them stands here, year by year.</Empty>;
  return (
    <div className="grid max-w-5xl gap-8">
      <section>
        <h1 className="text-3xl">What became of them</h1>
        <Legend />
        {[...new Set(view.years.map((y) => y.year))].map((year) => (
          <Year key={year} year={year} view={view} />
        ))}
      </section>
      <Seals view={view} />
      <section>
        <h2 className="text-2xl">What a litre cost</h2>
        <div className="mt-2 grid max-w-3xl grid-cols-2 gap-3 wide:grid-cols-4">
          {PRICES.map((p) => (
            <NumberField
              key={p.key}
              label={p.label}
              unit=""
              value={said[p.key] ?? ""}
              onChange={(text) => setSaid({ ...said, [p.key]: text })}
            />
          ))}
        </div>
        {view.costs.map((c) => (
          <Cost key={c.year} cost={c} />
        ))}
      </section>
    </div>
  );
}

function Legend() {
  return (
    <ul className="mt-1 flex flex-wrap gap-5 text-lg">
      {BECAME.map(([name, colour]) => (
        <li key={name} className="flex items-center gap-2">
          <span className="inline-block size-4 border border-line" style={{ background: colour }} />
          {name}
        </li>
      ))}
    </ul>
  );
}

function Year({ year, view }: { year: number; view: FiguresView }) {
  const rows = view.years.filter((y) => y.year === year);
  const sum = (r: (typeof rows)[number]) => r.kept + r.eaten + r.given + r.spoiled;
  const most = Math.max(...view.years.map(sum));
  return (
    <section className="mt-4" aria-label={String(year)}>
      <h2 className="text-xl text-ink">
        {year}, {litres(1000 * rows.reduce((n, r) => n + r.litres, 0))}
      </h2>
      <ul className="mt-1 grid gap-1">
        {rows.map((row) => (
          <li key={row.fruit} className="grid grid-cols-[8rem_1fr_5rem] items-center gap-3 text-lg">
            <span className="truncate">{row.fruit}</span>
            <span className="flex h-5" style={{ width: `${(100 * sum(row)) / most}%` }}>
              {BECAME.map(([name, colour]) =>
                row[name] > 0 ? (
                  <span
                    key={name}
                    title={`${row[name]} ${name}`}
                    className="border border-line"
                    style={{ background: colour, flex: row[name] }}
                  />
                ) : null,
              )}
            </span>
            <span className="text-right text-slate">{count(sum(row), "jar")}</span>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Seals({ view }: { view: FiguresView }) {
  if (view.seals.length === 0) return null;
  return (
    <section>
      <h2 className="text-2xl">Seals that failed</h2>
      <ul className="mt-1 max-w-2xl text-lg">
        {view.seals.map((s) => (
          <li key={s.jar + s.lid} className="flex justify-between gap-4 border-line border-b py-1">
            <span>
              {s.jar}, {s.lid}
            </span>
            <span>
              <b className={s.failed ? "text-hip" : ""}>{s.failed}</b> of {s.looked_at},{" "}
              {plain((100 * s.failed) / s.looked_at, 1)} %
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

const PARTS = [
  ["fruit", "var(--elder)"],
  ["lids", "var(--brass)"],
  ["heat", "var(--hip)"],
  ["hours", "var(--slate)"],
] as const;

function Cost({ cost }: { cost: FiguresView["costs"][number] }) {
  const { worth } = cost;
  return (
    <div className="mt-4">
      <p className="text-xl">
        <b>
          {cost.year}: {money(worth.together)} a litre
        </b>{" "}
        <span className="text-slate">of {litres(1000 * cost.litres)}</span>
        {worth.saved !== null && (
          <span className={worth.saved >= 0 ? "text-leaf" : "text-hip"}>
            {worth.saved >= 0
              ? `, ${money(worth.saved)} less than bought`
              : `, ${money(-worth.saved)} more than bought`}
          </span>
        )}
      </p>
      <ul className="mt-1 flex flex-wrap gap-x-6 text-lg">
        {PARTS.map(([name, colour]) => (
          <li key={name} className="flex items-center gap-2">
            <span
              className="inline-block size-4 border border-line"
              style={{ background: colour }}
            />
            {name} {money(worth[name])}
          </li>
        ))}
      </ul>
      <p className="text-base text-slate">
        fruit as far as its price was said; heat and hours as the steps were planned
      </p>
    </div>
  );
}

const money = (minor: number): string => (minor / 100).toFixed(2);
