import { useQuery } from "@tanstack/react-query";
import { useCallback, useRef, useState } from "react";
import { Link } from "react-router";
import { shelfQuery } from "@/api/queries";
import { useAddress } from "@/lib/address";
import { count, litres } from "@/lib/format";
import { useKey } from "@/lib/use-key";
import { useNow } from "@/lib/use-now";
import { InHand } from "@/shelf/in-hand";
import { Place } from "@/shelf/place";
import { Scan } from "@/shelf/scan";
import { Button } from "@/ui/button";
import { FirstThing } from "@/ui/first-thing";
import { Empty, Waiting } from "@/ui/notice";
import { SearchField, useFind } from "@/ui/search-field";

/** How many more stacks of a place are shown at a press. */
const MORE = 120;

/** The jars on their places, and beside them the stack in hand. */
export function Shelf() {
  const [address, changeAddress] = useAddress();
  const find = useFind();
  const held = Number(address.get("stack")) || null;
  const [most, setMost] = useState<number>();
  const [scanning, setScanning] = useState(false);
  const { data: shelf, isPlaceholderData } = useQuery(shelfQuery(find, most));
  const box = useRef<HTMLInputElement>(null);
  const now = useNow(60_000);
  const hold = useCallback(
    (id: number | null) => changeAddress({ stack: id ? String(id) : null }),
    [changeAddress],
  );
  useKey(
    "/",
    useCallback(() => box.current?.focus(), []),
  );
  useKey(
    "Escape",
    useCallback(() => hold(null), [hold]),
  );
  if (!shelf) return <Waiting />;
  const shown = shelf.places.filter((p) => p.stacks.length > 0 || (!find && p.warm));
  const stacks = shelf.places.flatMap((p) => p.stacks);
  const inHand = stacks.some((s) => s.id === held) ? held : null;
  return (
    <div className={inHand ? "grid items-start gap-x-9 wide:grid-cols-[1fr_18.5rem]" : ""}>
      <div className="min-w-0">
        <div className="grid items-start gap-x-6 gap-y-3 wide:grid-cols-[1fr_24rem]">
          <div>
            <h1 className="text-4xl">
              {count(shelf.jars, "jar")}, {litres(1000 * shelf.litres)}
            </h1>
            <p className="mt-1 text-lg text-slate">
              {shelf.found === null ? (
                "what should go first stands in front"
              ) : (
                <>
                  <b className="text-ink">{count(shelf.found, "jar")}</b>: {shelf.understood}
                </>
              )}
            </p>
          </div>
          <div>
            <div className="flex gap-2">
              <div className="flex-1">
                <SearchField
                  label="Find a jar by words or code"
                  placeholder="damson, over a year, 4 weeks left"
                  keys="/"
                  box={box}
                />
              </div>
              <Button size="small" onClick={() => setScanning(true)}>
                Scan
              </Button>
            </div>
            <nav aria-label="More of the shelf" className="mt-1 flex gap-5 text-lg">
              <Link to="/shelf/figures" className="min-h-9 underline underline-offset-4">
                what it came to
              </Link>
              <Link to="/shelf/already" className="min-h-9 underline underline-offset-4">
                jars from before
              </Link>
              <Link to="/shelf/recall" className="min-h-9 underline underline-offset-4">
                recall
              </Link>
            </nav>
          </div>
        </div>
        <section
          aria-label={find ? `Jars found by ${find}` : "Jars on their places"}
          aria-busy={isPlaceholderData}
        >
          {shown.map((p) => (
            <Place
              key={p.id}
              place={p}
              now={now}
              held={inHand}
              onHold={(id) => hold(id === inHand ? null : id)}
              onMore={p.more ? () => setMost(p.stacks.length + MORE) : undefined}
            />
          ))}
        </section>
        {shown.length === 0 && (
          <div className="mt-6">
            {find ? (
              <Empty>{`No jar matches "${find}".`}</Empty>
            ) : (
              <FirstThing to="/plan" what="Plan a batch" picture>
                The shelves are empty. The first jars come from a batch, or they stand there
                already:{" "}
                <Link to="/shelf/already" className="underline underline-offset-4">
                  write them in as they stand
                </Link>
                .
              </FirstThing>
            )}
          </div>
        )}
      </div>
      {inHand && (
        <InHand
          key={inHand}
          id={inHand}
          places={shelf.places}
          now={now}
          onClose={() => hold(null)}
        />
      )}
      <Scan open={scanning} onClose={() => setScanning(false)} />
    </div>
  );
}
