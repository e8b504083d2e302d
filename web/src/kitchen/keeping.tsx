import { queryOptions, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { Link } from "react-router";
import { api, body } from "@/api/client";
import { sessionQuery } from "@/api/queries";
import type { KeepingView, KitchenView } from "@/api/types";
import { Part } from "@/kitchen/part";
import { moment } from "@/lib/format";
import { useNow } from "@/lib/use-now";
import { Button } from "@/ui/button";
import { FileLink } from "@/ui/file-link";
import { Said } from "@/ui/notice";
import { Tick } from "@/ui/tick";

const keepingQuery = queryOptions({
  queryKey: ["keeping"],
  queryFn: ({ signal }) => body(api.GET("/api/keeping", { signal })),
});

const SHEETS = ["jars", "came-in", "batches", "readings", "servings"];

/** What a household takes out of Elderberry: backups, and everything in one file. */
export function Keeping({ kitchen }: { kitchen: KitchenView }) {
  const keeper = useQuery(sessionQuery).data?.role === "keeper";
  const kept = useQuery(keepingQuery).data;
  return (
    <Part name="Your data is yours">
      {kept?.backups && <Backups kept={kept} zone={kitchen.time_zone} keeper={keeper} />}
      <p className="mt-4 text-lg">As CSV, for a spreadsheet:</p>
      <ul className="flex flex-wrap gap-x-5 text-lg">
        {SHEETS.map((sheet) => (
          <li key={sheet}>
            <FileLink href={`/api/keeping/${sheet}.csv`}>{sheet.replace("-", " ")}</FileLink>
          </li>
        ))}
      </ul>
      <p className="text-lg">
        <Link
          to="/kitchen/tables"
          className="inline-flex min-h-11 items-center underline underline-offset-4"
        >
          Take a table in
        </Link>
        <span className="block text-base text-slate">
          jars, fruit, batches, readings or drinks that a spreadsheet holds; looked through first
        </span>
      </p>
      {keeper ? (
        <p className="mt-2 text-lg">
          <FileLink href="/api/keeping/archive.zip">Everything in one file</FileLink>
          <span className="block text-base text-slate">
            tables and what they mean, as CSV and JSON; another Elderberry makes the same household
            of it, on its first page or by ./elderberry restore
          </span>
        </p>
      ) : (
        <p className="mt-3 text-slate">A keeper can take all of it along in one file.</p>
      )}
      {kept && <Calendar kept={kept} zone={kitchen.time_zone} />}
    </Part>
  );
}

/** What falls due, in a calendar: as a file, or fetched from an address of one's own. */
function Calendar({ kept, zone }: { kept: KeepingView; zone: string }) {
  const client = useQueryClient();
  const now = useNow(60_000);
  const said = { onSuccess: () => client.invalidateQueries({ queryKey: ["keeping"] }) };
  const make = useMutation({ mutationFn: () => body(api.POST("/api/keeping/feed")), ...said });
  const withdraw = useMutation({
    mutationFn: () => body(api.DELETE("/api/keeping/feed")),
    onSuccess: () => {
      make.reset();
      return said.onSuccess();
    },
  });
  const address = make.data && `${window.location.origin}${make.data.path}`;
  return (
    <section aria-label="In a calendar" className="mt-4">
      <h3 className="text-elder text-xl">In a calendar</h3>
      <p className="text-slate">
        seal checks, days of shaking, fruit that will not wait, jars to use
      </p>
      <p className="mt-1 text-lg">
        <FileLink href="/api/keeping/calendar.ics">As a file</FileLink>
      </p>
      {address ? (
        <p className="text-lg">
          Your own address, shown this once:
          <output className="mt-1 block select-all break-all border-2 border-elder bg-paper p-3 text-base">
            {address}
          </output>
        </p>
      ) : (
        kept.feed_since && (
          <p className="text-lg">
            Fetched from an address of your own since <b>{moment(kept.feed_since, now, zone)}</b>
          </p>
        )
      )}
      <div className="mt-2 flex flex-wrap gap-3">
        <Button size="small" disabled={make.isPending} onClick={() => make.mutate()}>
          {kept.feed_since ? "A new address instead" : "An address to fetch it from"}
        </Button>
        {kept.feed_since && (
          <Button
            size="small"
            kind="warn"
            disabled={withdraw.isPending}
            onClick={() => withdraw.mutate()}
          >
            Withdraw it
          </Button>
        )}
      </div>
      <Said error={make.error ?? withdraw.error} />
    </section>
  );
}

type Props = { kept: KeepingView; zone: string; keeper: boolean };

function Backups({ kept, zone, keeper }: Props) {
  const client = useQueryClient();
  const now = useNow(60_000);
  const then = { onSuccess: (view: KeepingView) => client.setQueryData(["keeping"], view) };
  const make = useMutation({
    mutationFn: () => body(api.POST("/api/keeping/backup")),
    ...then,
  });
  const nightly = useMutation({
    mutationFn: (on: boolean) => body(api.PUT("/api/keeping/nightly", { body: { nightly: on } })),
    ...then,
  });
  return (
    <>
      <p className="text-lg">
        {kept.newest ? (
          <>
            Last backup <b>{moment(kept.newest, now, zone)}</b>
          </>
        ) : (
          <b>There is no backup yet</b>
        )}
        <span className="block break-all text-base text-slate">in {kept.folder}</span>
      </p>
      {keeper && (
        <div className="mt-2 flex flex-wrap items-center gap-x-6 gap-y-2">
          <Button size="small" disabled={make.isPending} onClick={() => make.mutate()}>
            {make.isPending ? "Being made" : "Make one now"}
          </Button>
          <Tick
            label="Every night"
            note="old ones are thinned by their age"
            on={kept.nightly}
            onChange={(on) => nightly.mutate(on)}
          />
        </div>
      )}
      <Said error={make.error ?? nightly.error} />
    </>
  );
}
