import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { kitchenQuery, todayQuery } from "@/api/queries";
import type { TodayItem } from "@/api/types";
import { useZone } from "@/api/use-zone";
import { TakeIn } from "@/intake/take-in";
import { written } from "@/lib/calendar";
import { count, date, litres, moment } from "@/lib/format";
import { useNow } from "@/lib/use-now";
import { FirstThing } from "@/ui/first-thing";
import { Waiting } from "@/ui/notice";

const GROUPS = [
  { kind: "now", name: "Needs hands now" },
  { kind: "warm", name: "Warmer than it should be" },
  { kind: "fruit", name: "Fruit that will not wait" },
  { kind: "next", name: "Ready to go on" },
  { kind: "later", name: "Later" },
  { kind: "use", name: "Use first" },
] as const;

export function Today() {
  const today = useQuery(todayQuery).data;
  const kitchen = useQuery(kitchenQuery).data;
  const zone = useZone();
  const now = useNow(20_000);
  if (!today) return <Waiting />;
  const day = written(now, "whole", zone);
  return (
    <>
      <h1 className="text-4xl">{day}</h1>
      <p className="mt-1 text-lg text-slate">
        {count(today.jars, "jar")} on the shelves, {litres(1000 * today.litres)}
      </p>
      {today.items.length === 0 && (
        <div className="mt-6">
          <FirstThing to="/plan" what="Plan a batch" picture={today.jars === 0}>
            Nothing needs hands. Fruit has come in, or will?
          </FirstThing>
        </div>
      )}
      {kitchen && (
        <div className="mt-3">
          <TakeIn kitchen={kitchen} />
        </div>
      )}
      <div className="mt-4 grid gap-x-12 gap-y-6 wide:grid-cols-2">
        {GROUPS.map((g) => (
          <Group
            key={g.kind}
            name={g.name}
            items={today.items.filter((i) => i.kind === g.kind)}
            now={now}
            zone={zone}
          />
        ))}
      </div>
    </>
  );
}

function Group({
  name,
  items,
  now,
  zone,
}: {
  name: string;
  items: TodayItem[];
  now: number;
  zone: string;
}) {
  if (items.length === 0) return null;
  return (
    <section>
      <h2>{name}</h2>
      <div className="stitch mt-2" />
      <ul>
        {items.map((item) => (
          <li key={`${item.step_id}-${item.jar_id}-${item.lot_id}-${item.text}`}>
            <Row item={item} now={now} zone={zone} />
          </li>
        ))}
      </ul>
    </section>
  );
}

function Row({ item, now, zone }: { item: TodayItem; now: number; zone: string }) {
  const to = item.jar_id
    ? `/shelf/${item.jar_id}`
    : item.lot_id
      ? `/plan?lot=${item.lot_id}`
      : item.batch_id
        ? `/cook/${item.batch_id}?step=${item.step_id}`
        : "/shelf";
  return (
    <Link to={to} className="group grid grid-cols-[1fr_auto] gap-x-4 border-slate/40 border-b py-3">
      <span className="font-bold text-xl leading-snug group-hover:underline">{item.text}</span>
      <span className="whitespace-nowrap text-right font-bold text-lg">
        {hour(item, now, zone)}
      </span>
      <span className="col-span-2 text-lg text-slate">{item.detail}</span>
    </Link>
  );
}

/** When it falls due, as one would say it; a seal check with the end of its window. */
function hour(item: TodayItem, now: number, zone: string): string {
  if (!item.at) return "";
  if (item.kind === "use" || item.kind === "fruit") return `by ${date(item.at, now)}`;
  const from = moment(item.at, now, zone);
  if (!item.until) return from.replace("today ", "");
  const until = moment(item.until, now, zone);
  return new Date(item.at).getTime() <= now
    ? `until ${until.replace("today ", "")}`
    : `from ${from.replace("today ", "")}`;
}
