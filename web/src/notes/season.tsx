import { useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import { kitchenQuery, seasonQuery } from "@/api/queries";
import type { SeasonPage } from "@/api/types";
import { useZone } from "@/api/use-zone";
import { written } from "@/lib/calendar";
import { count, litres, mass, plain } from "@/lib/format";
import { DEFER } from "@/lib/words";
import { Button } from "@/ui/button";
import { FileLink } from "@/ui/file-link";
import { Empty, Said, Waiting } from "@/ui/notice";

/** A year on one page: what came in, what it gave, what went otherwise. */
export function SeasonOnAPage() {
  const { year = "" } = useParams();
  const asked = useQuery(seasonQuery(Number(year)));
  const kitchen = useQuery(kitchenQuery).data;
  if (asked.error) return <Said error={asked.error} />;
  if (!asked.data) return <Waiting />;
  const page = asked.data;
  if (page.batches.length === 0 && page.jars === 0)
    return <Empty>Nothing was made in {page.year}.</Empty>;
  return (
    <article className="grid gap-x-12 gap-y-6 wide:grid-cols-[1fr_20rem]">
      <header className="flex flex-wrap items-start justify-between gap-4 wide:col-span-2">
        <div>
          <h1 className="text-4xl">The season of {page.year}</h1>
          <p className="mt-1 text-xl">
            {kitchen?.name}: <b>{count(page.batches.length + page.more, "batch", "batches")}</b>,{" "}
            <b>{count(page.jars, "jar")}</b>, <b>{litres(1000 * page.litres)}</b>
            {page.hours >= 1 && `, about ${plain(page.hours, 1)} h of hands`}
          </p>
        </div>
        <div className="flex flex-wrap items-center gap-4 print:hidden">
          <Button size="small" onClick={() => window.print()}>
            Print
          </Button>
          <FileLink
            href={`/api/notes/seasons/${page.year}/sheet.pdf`}
            name={`season-${page.year}.pdf`}
          >
            As a PDF
          </FileLink>
          {page.years
            .filter((y) => y !== page.year)
            .slice(0, 4)
            .map((y) => (
              <Link
                key={y}
                to={`/notes/season/${y}`}
                className="min-h-11 content-center underline underline-offset-4"
              >
                {y}
              </Link>
            ))}
        </div>
      </header>
      <div className="grid min-w-0 content-start gap-6">
        <Fruits page={page} />
        <Ways page={page} />
      </div>
      <div className="grid content-start gap-6">
        <Wrong page={page} />
        <Batches page={page} />
      </div>
      <p className="hidden print:block wide:col-span-2">{DEFER}</p>
    </article>
  );
}

const BECAME = [
  ["kept", "var(--tag)"],
  ["eaten", "var(--leaf)"],
  ["given", "var(--brass)"],
  ["spoiled", "var(--hip)"],
] as const;

/** Each fruit as a bar of its jars: what is kept, eaten, given and spoiled. */
function Fruits({ page }: { page: SeasonPage }) {
  const all = (f: SeasonPage["fruits"][number]) => f.kept + f.eaten + f.given + f.spoiled;
  const most = Math.max(1, ...page.fruits.map(all));
  return (
    <section aria-label="What became of the fruit">
      <h2>What became of the fruit</h2>
      <ul className="mt-1 flex flex-wrap gap-x-5 text-base">
        {BECAME.map(([name, colour]) => (
          <li key={name} className="flex items-center gap-2">
            <span
              className="inline-block size-4 border border-line print-colour"
              style={{ background: colour }}
            />
            {name}
          </li>
        ))}
      </ul>
      <ul className="mt-2">
        {page.fruits.map((f) => (
          <li
            key={f.fruit}
            className="grid grid-cols-[0.6rem_9rem_1fr] gap-x-3 border-slate/40 border-b py-1.5 text-lg"
          >
            <span
              aria-hidden="true"
              className="border border-line print-colour"
              style={{ background: f.colour || "var(--paper)" }}
            />
            <span className="leading-tight">
              <b>{f.fruit}</b>
              <span className="block text-base text-slate">
                {f.kg > 0 && `${mass(1000 * f.kg)}, `}
                {litres(1000 * f.litres)}
              </span>
            </span>
            <span className="flex h-7 items-stretch self-center">
              {BECAME.map(([name, colour]) => {
                const jars = f[name];
                return (
                  jars > 0 && (
                    <span
                      key={name}
                      role="img"
                      aria-label={`${jars} ${name}`}
                      className={`grid place-items-center border border-line font-bold text-base print-colour ${name === "kept" ? "text-ink" : "text-on-dark"}`}
                      style={{ background: colour, width: `${(100 * jars) / most}%` }}
                    >
                      {jars}
                    </span>
                  )
                );
              })}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What a kilo gave, as a band from the least to the most. */
function Ways({ page }: { page: SeasonPage }) {
  if (page.ways.length === 0) return null;
  const most = Math.max(...page.ways.map((w) => w.hi));
  const at = (l: number) => `${(100 * l) / most}%`;
  return (
    <section aria-label="What a kilo gave">
      <h2>What a kilo gave</h2>
      <ul className="mt-1">
        {page.ways.map((w) => (
          <li
            key={`${w.fruit} ${w.way}`}
            className="grid grid-cols-[10rem_1fr_6rem] items-center gap-x-3 py-1 text-lg"
          >
            <span className="leading-tight">
              {w.fruit}
              <span className="block text-base text-slate">{w.way.toLowerCase()}</span>
            </span>
            <span className="relative h-4 border-line border-b-2" aria-hidden="true">
              <span
                className="absolute inset-y-1 bg-tag print-colour"
                style={{ left: at(w.lo), right: `calc(100% - ${at(w.hi)})` }}
              />
              <span
                className="absolute inset-y-0 w-1 bg-elder print-colour"
                style={{ left: at(w.middle) }}
              />
            </span>
            <span className="text-right tabular-nums">{plain(w.middle, 0.01)} l</span>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Wrong({ page }: { page: SeasonPage }) {
  return (
    <section aria-label="Otherwise than planned" className="border-line border-t-6 pt-3">
      <h2>Otherwise than planned</h2>
      {page.wrong.length === 0 ? (
        <p className="mt-1 text-lg">Nothing that was written down.</p>
      ) : (
        <ul className="mt-1 text-lg">
          {page.wrong.map((w) => (
            <li key={w.words}>
              <b>{w.times} ×</b> {w.words}
            </li>
          ))}
        </ul>
      )}
    </section>
  );
}

function Batches({ page }: { page: SeasonPage }) {
  const zone = useZone();
  return (
    <section aria-label="Its batches" className="border-line border-t-6 pt-3">
      <h2>Its batches</h2>
      <ul className="mt-1 text-lg">
        {page.batches.map((b) => (
          <li key={b.id} className="grid grid-cols-[4.4rem_1fr] gap-x-2 py-0.5">
            <span className="text-slate tabular-nums">{written(b.started_at, "day", zone)}</span>
            <Link to={`/notes/${b.id}`} className="leading-snug hover:underline">
              {b.title}
            </Link>
          </li>
        ))}
        {page.more > 0 && <li className="text-slate">and {page.more} more</li>}
      </ul>
    </section>
  );
}
