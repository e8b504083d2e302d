import { useQuery } from "@tanstack/react-query";
import { Link, Navigate } from "react-router";
import { batchesQuery } from "@/api/queries";
import type { BatchLine } from "@/api/types";
import { useZone } from "@/api/use-zone";
import { Stove } from "@/cook/stove";
import { moment } from "@/lib/format";
import { useNow } from "@/lib/use-now";
import { FirstThing } from "@/ui/first-thing";
import { Waiting } from "@/ui/notice";

/** Which batch? With one under way there is nothing to ask. */
export function CookList() {
  const batches = useQuery(batchesQuery).data;
  if (!batches) return <Waiting />;
  const open = batches.filter((b) => !b.finished);
  if (open.length === 1) return <Navigate to={`/cook/${open[0]?.id}`} replace />;
  return (
    <>
      <h1 className="text-4xl">At the hob</h1>
      {open.length === 0 && (
        <div className="mt-4">
          <FirstThing to="/plan" what="Plan a batch" picture={batches.length === 0}>
            Nothing is on. Plan a batch and start it: its steps, timers and figures stand here.
          </FirstThing>
        </div>
      )}
      <Stove />
      {open.length > 0 && <h2 className="mt-8">Batches under way</h2>}
      <Lines batches={open} />
      {open.length < batches.length && (
        <Link
          to="/notes"
          className="mt-8 inline-flex min-h-11 items-center text-lg underline decoration-dotted underline-offset-4"
        >
          finished batches, under Notes
        </Link>
      )}
    </>
  );
}

function Lines({ batches }: { batches: BatchLine[] }) {
  const zone = useZone();
  const now = useNow(60_000);
  return (
    <ul className="mt-3 grid gap-3 wide:grid-cols-2">
      {batches.map((b) => (
        <li key={b.id}>
          <Link
            to={`/cook/${b.id}`}
            className="flex min-h-16 items-stretch border-2 border-line bg-paper hover:bg-tag"
          >
            <span
              aria-hidden="true"
              className="w-4 shrink-0 border-line border-r-2"
              style={{ background: b.colour }}
            />
            <span className="px-4 py-2">
              <span className="block font-bold font-display text-xl">{b.title}</span>
              <span className="block text-lg">{b.now}</span>
              <span className="block text-slate">
                {b.code}, begun {moment(b.started_at, now, zone)} by {b.started_by}
              </span>
            </span>
          </Link>
        </li>
      ))}
    </ul>
  );
}
