import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { type Change, useChange } from "@/api/changes";
import { stoveQuery } from "@/api/queries";
import type { StoveItem } from "@/api/types";
import { useZone } from "@/api/use-zone";
import { clock, timeOfDay } from "@/lib/format";
import { useNow } from "@/lib/use-now";
import { Button } from "@/ui/button";
import { Said } from "@/ui/notice";

/** Every step that is on, by station and in the order of the clock; then what could begin. */
export function Stove() {
  const stove = useQuery(stoveQuery).data;
  if (!stove || stove.on.length + stove.ready.length === 0) return null;
  return (
    <>
      {stove.on.length > 0 && <Board name="On now" items={stove.on} />}
      {stove.ready.length > 0 && <Board name="Could begin" items={stove.ready} />}
    </>
  );
}

function Board({ name, items }: { name: string; items: StoveItem[] }) {
  return (
    <section aria-label={name} className="mt-6">
      <h2>{name}</h2>
      <ul className="mt-2 grid gap-4 wide:grid-cols-2">
        {items.map((item) => (
          <li key={item.step_id} className="grid">
            <Place item={item} />
          </li>
        ))}
      </ul>
    </section>
  );
}

/** A station with what is on it: the time, what to look for, and the one press that comes next. */
function Place({ item }: { item: StoveItem }) {
  const change = useChange(item.batch_id);
  const now = useNow();
  const due = item.due_at ? new Date(item.due_at).getTime() : null;
  const early = item.holds_boil && due !== null && due > now;
  const to = `/cook/${item.batch_id}?step=${item.step_id}`;
  const press = early ? undefined : PRESS[item.press];
  return (
    <article className="grid grid-cols-[0.75rem_1fr] border-2 border-line bg-paper">
      <span
        aria-hidden="true"
        className="border-line border-r-2"
        style={{ background: item.colour }}
      />
      <div className="grid min-w-0 content-between gap-3 p-3 wide:p-4">
        <Link to={to} className="group grid grid-cols-[1fr_auto] gap-x-4">
          <span className="text-slate">{item.station}</span>
          <span className="row-span-2 text-right">
            <Left item={item} due={due} now={now} />
          </span>
          <span className="font-bold font-display text-2xl leading-tight group-hover:underline">
            {item.title}
          </span>
          <span className="col-span-2 text-lg text-slate">{item.batch}</span>
          <span className="col-span-2 mt-1 line-clamp-2 text-lg leading-snug">{item.words}</span>
        </Link>
        {press ? (
          <Button
            kind="go"
            size="large"
            disabled={change.isPending}
            onClick={() => change.mutate(press.change(item.step_id))}
          >
            {press.name}
          </Button>
        ) : (
          <Link
            to={to}
            className="flex min-h-13 items-center justify-center border-2 border-line px-4 font-bold font-display text-lg"
          >
            {early ? "Look at it" : "Go to it"}
          </Link>
        )}
        <Said error={change.error} />
      </div>
    </article>
  );
}

const PRESS: Record<string, { name: string; change: (step: number) => Change }> = {
  start: { name: "Start", change: (step) => ({ act: "start", step }) },
  "boil-reached": {
    name: "It boils: start the time",
    change: (step) => ({ act: "boil-reached", step }),
  },
  finish: { name: "Done", change: (step) => ({ act: "finish", step, said: {} }) },
};

/** The time left, or the hour from which jars that cool may be looked at. */
function Left({ item, due, now }: { item: StoveItem; due: number | null; now: number }) {
  const zone = useZone();
  if (due === null) return null;
  const left = Math.round((due - now) / 1000);
  const words =
    item.role === "cool" ? timeOfDay(item.due_at, zone) : left > 0 ? clock(left) : "now";
  return (
    <span className={`font-bold text-3xl tabular-nums ${left <= 0 ? "text-leaf" : "text-ink"}`}>
      {words}
    </span>
  );
}
