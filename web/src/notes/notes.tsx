import { useInfiniteQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { notesQuery } from "@/api/queries";
import type { NoteLine } from "@/api/types";
import { useZone } from "@/api/use-zone";
import { cameOf } from "@/flow/lineage";
import { written } from "@/lib/calendar";
import { count, litres } from "@/lib/format";
import { Button } from "@/ui/button";
import { FirstThing } from "@/ui/first-thing";
import { Empty, Waiting } from "@/ui/notice";
import { SearchField, useFind } from "@/ui/search-field";

/** Every finished batch, by season; found by any word that was written down. */
export function Notes() {
  const words = useFind();
  const asked = useInfiniteQuery(notesQuery(words));
  if (!asked.data) return <Waiting />;
  const seasons = joined(asked.data.pages.flatMap((p) => p.seasons));
  return (
    <>
      <div className="grid items-start gap-4 wide:grid-cols-[1fr_22rem]">
        <div>
          <h1 className="text-4xl">Notes</h1>
          <p className="mt-1 text-lg text-slate">every finished batch has its page</p>
        </div>
        <SearchField label="Find a batch by a word" placeholder="find: quince, boil lost, Wenna" />
      </div>
      {seasons.map((season) => (
        <section key={season.name} aria-label={season.name} className="mt-6">
          <h2 className="text-2xl">
            {season.name}
            <span className="ml-3 font-normal font-text text-lg text-slate">
              {count(season.batches.length, "batch", "batches")}
            </span>
            <Link
              to={`/notes/season/${season.name}`}
              className="ml-4 font-normal font-text text-lg underline underline-offset-4"
            >
              on one page
            </Link>
          </h2>
          <div className="stitch mt-2" />
          <ul className="grid gap-x-10 wide:grid-cols-2">
            {season.batches.map((batch) => (
              <li key={batch.id}>
                <Line batch={batch} />
              </li>
            ))}
          </ul>
        </section>
      ))}
      {seasons.length === 0 && (
        <div className="mt-6">
          {words ? (
            <Empty>{`No finished batch has "${words}" in it.`}</Empty>
          ) : (
            <FirstThing to="/plan" what="Plan a batch" picture>
              Nothing is finished yet. A batch gets its page here once its jars are on their shelf.
            </FirstThing>
          )}
        </div>
      )}
      {asked.hasNextPage && (
        <Button
          kind="quiet"
          className="mt-4"
          disabled={asked.isFetching}
          onClick={() => void asked.fetchNextPage()}
        >
          Earlier ones
        </Button>
      )}
    </>
  );
}

type Of = { name: string; batches: NoteLine[] };

/** Seasons of several pages, a season that goes on over a page told once. */
function joined(seasons: Of[]): Of[] {
  const by = new Map<string, NoteLine[]>();
  for (const s of seasons) by.set(s.name, [...(by.get(s.name) ?? []), ...s.batches]);
  return [...by].map(([name, batches]) => ({ name, batches }));
}

function Line({ batch }: { batch: NoteLine }) {
  const zone = useZone();
  const day = written(batch.started_at, "day", zone);
  return (
    <Link
      to={`/notes/${batch.id}`}
      className="group grid min-h-16 grid-cols-[0.6rem_4rem_1fr_auto] items-center gap-x-3 border-slate/40 border-b py-2"
    >
      <span
        aria-hidden="true"
        className="h-full border border-line"
        style={{ background: batch.colour }}
      />
      <span className="text-lg text-slate tabular-nums">{day}</span>
      <span className="min-w-0">
        <span className="block font-bold text-xl leading-snug group-hover:underline">
          {batch.title}
        </span>
        <span className="block truncate text-slate">
          {batch.code} · {batch.method}
        </span>
      </span>
      <span className="text-right">
        {batch.became === "jars" && (
          <span className="block font-bold text-lg">{litres(1000 * batch.litres)}</span>
        )}
        <span className="block text-slate">{cameOf(batch)}</span>
      </span>
    </Link>
  );
}
