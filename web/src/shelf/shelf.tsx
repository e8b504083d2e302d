import { useQuery } from "@tanstack/react-query";
import { useCallback, useRef, useState } from "react";
import { Link } from "react-router";
import { shelfQuery } from "@/api/queries";
import type { ShelfPlace } from "@/api/types";
import { count, litres, temperature, untilDate } from "@/lib/format";
import { useKey } from "@/lib/use-key";
import { useNow } from "@/lib/use-now";
import { lidOf, type Stack, stacks } from "@/shelf/stack";
import { Button } from "@/ui/button";
import { Container } from "@/ui/container";
import { FirstThing } from "@/ui/first-thing";
import { glassSize } from "@/ui/glass";
import { Empty, Waiting } from "@/ui/notice";
import { SearchField, useFind } from "@/ui/search-field";

const SCALE = 0.62;
const MOST_IN_STACK = 6;
/** Jars of a place that are shown at first, and how many more at a press. */
const IN_FRONT = 100;
const MORE = 240;

export function Shelf() {
  const [words] = useFind();
  const [most, setMost] = useState(IN_FRONT);
  const shelf = useQuery(shelfQuery(words, most)).data;
  const box = useRef<HTMLInputElement>(null);
  useKey(
    "/",
    useCallback(() => box.current?.focus(), []),
  );
  const now = useNow(60_000);
  if (!shelf) return <Waiting />;
  const places = shelf.places.filter((p) => p.jars.length > 0);
  return (
    <>
      <div className="grid items-start gap-4 wide:grid-cols-[1fr_22rem]">
        <div>
          <h1 className="text-4xl">
            {count(shelf.jars, "jar")}, {litres(1000 * shelf.litres)}
          </h1>
          <p className="mt-1 text-lg text-slate">what should go first stands in front</p>
        </div>
        <SearchField
          label="Find a jar by words or code"
          placeholder="find: damson, DM-26-01"
          keys="/"
          box={box}
        />
      </div>
      {places.map((p) => (
        <Place
          key={p.id}
          place={p}
          now={now}
          behind={words ? 0 : p.count - p.jars.length}
          onMore={p.jars.length >= most ? () => setMost(most + MORE) : undefined}
        />
      ))}
      {places.length === 0 && (
        <div className="mt-6">
          {words ? (
            <Empty>{`No jar matches "${words}".`}</Empty>
          ) : (
            <FirstThing to="/plan" what="Plan a batch" picture>
              The shelves are empty. The first jars come from a batch.
            </FirstThing>
          )}
        </div>
      )}
    </>
  );
}

type PlaceProps = {
  place: ShelfPlace;
  now: number;
  /** Jars that stand behind those that are shown, where that is known. */
  behind: number;
  onMore: (() => void) | undefined;
};

function Place({ place, now, behind, onMore }: PlaceProps) {
  const cold = place.kind === "refrigerator" || place.kind === "freezer";
  return (
    <section aria-label={place.name} className="mt-5">
      <h2 className="text-ink">
        {place.name}{" "}
        <span className="ml-3 font-normal font-text text-lg text-slate">
          {temperature(place.temp_c)}
          {place.light ? " · light" : " · dark"}
        </span>
      </h2>
      <ul className={`mt-2 flex flex-wrap items-end pt-3 ${cold ? "bg-cold" : ""}`}>
        {stacks(place.jars).map((s) => (
          <li key={s.key} className="grow">
            <StackLink stack={s} now={now} />
          </li>
        ))}
        <li aria-hidden="true" className="min-w-0 grow-[1000] basis-0">
          <Board />
          <span className="block h-[4.875rem]" />
        </li>
      </ul>
      {onMore && (
        <Button kind="quiet" onClick={onMore}>
          {behind > 0 ? `Show more: ${count(behind, "jar")} behind these` : "Show more"}
        </Button>
      )}
    </section>
  );
}

/** The board that a stack stands on; boards beside each other are one. */
function Board() {
  return <span aria-hidden="true" className="block h-2.5 border-line border-y-2 bg-wood" />;
}

function StackLink({ stack, now }: { stack: Stack; now: number }) {
  const first = stack.jars[0];
  if (!first) return null;
  const shape = { radiusMm: first.radius_mm, heightMm: first.height_mm };
  const { width } = glassSize(shape, SCALE);
  const drawn = Math.min(stack.jars.length, MOST_IN_STACK);
  const soon = first.best_by ? untilDate(first.best_by.typ, now) : "does not keep here";
  const urgent = first.best_by
    ? new Date(first.best_by.typ).getTime() < now + 14 * 86_400_000
    : true;
  return (
    <Link to={`/shelf/${first.id}`} className="group block">
      <span className="flex items-end px-3">
        {Array.from({ length: drawn }, (_, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: jars of a stack are alike
          <span key={i} style={{ marginLeft: i ? -width * 0.62 : 0 }}>
            <Container
              kind={first.kind}
              {...shape}
              scale={SCALE}
              level={(first.fill_ml / first.nominal_ml) * 0.92}
              colour={first.colour}
              lid={lidOf(first)}
            />
          </span>
        ))}
      </span>
      <Board />
      <span className="mx-2 mt-1.5 mb-3 block h-15 w-fit min-w-28 border-2 border-line bg-paper px-2 py-1 leading-tight group-hover:bg-tag">
        <span className="block font-bold text-lg">
          {first.label.replace(" juice", "").toLowerCase()}
          {first.part_filled ? ", part" : ""}
          {stack.jars.length > 1 && ` ×${stack.jars.length}`}
        </span>
        <span className={`block text-base ${urgent ? "font-bold text-hip" : "text-slate"}`}>
          {soon}
        </span>
      </span>
    </Link>
  );
}
