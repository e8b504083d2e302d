import { type KeyboardEvent, useState } from "react";
import type { ShelfPlace, StackView } from "@/api/types";
import { count, date, litres, plain, temperature, untilDate } from "@/lib/format";
import { levelOf, lidOf, shortName } from "@/shelf/lid";
import { LogSheet } from "@/shelf/log-sheet";
import { Button } from "@/ui/button";
import { Container } from "@/ui/container";
import { glassSize } from "@/ui/glass";

const SCALE = 0.6;
const MOST_DRAWN = 5;
/** A place fuller than this says so. */
const NEARLY_FULL = 0.9;

type Props = {
  place: ShelfPlace;
  now: number;
  held: number | null;
  onHold: (id: number) => void;
  onMore: (() => void) | undefined;
};

/** A place with its stacks on their board, and how warm it is there. */
export function Place({ place, now, held, onHold, onMore }: Props) {
  const [logging, setLogging] = useState(false);
  const cold = place.kind === "refrigerator" || place.kind === "freezer";
  const full = place.room_l ? place.litres / place.room_l : 0;
  return (
    <section aria-label={place.name} className="mt-5">
      <h2 className="flex flex-wrap items-baseline gap-x-3 text-ink">
        {place.name}
        <button
          type="button"
          onClick={() => setLogging(true)}
          className={`min-h-9 font-normal font-text text-lg underline decoration-dotted underline-offset-4 ${place.warm ? "font-bold text-hip" : "text-slate"}`}
        >
          {temperature(place.temp_c)}
        </button>
        <span className="font-normal font-text text-lg text-slate">
          {place.light ? "in the light" : "dark"}
          {full > NEARLY_FULL && place.room_l
            ? ` · ${full >= 1 ? "full" : "nearly full"}: ${litres(1000 * place.litres)} of ${litres(1000 * place.room_l)}`
            : ""}
        </span>
      </h2>
      {place.warm && (
        <p className="mt-1 border-hip border-l-6 pl-3 text-lg">
          <b>
            {temperature(place.warm.temp_c)} since {date(place.warm.since, now)}
          </b>
          , {temperature(place.warm.usual_c)} is usual. {count(place.count, "jar")} here{" "}
          {place.count === 1 ? "ages" : "age"} {plain(place.warm.faster, 0.1)} times as fast: carry
          what should keep to a cooler place.
        </p>
      )}
      <ul className={`mt-2 flex flex-wrap items-end pt-3 ${cold ? "bg-cold" : ""}`}>
        {place.stacks.map((s) => (
          <li key={s.id} className="grow">
            <StackButton stack={s} now={now} inHand={s.id === held} onPress={() => onHold(s.id)} />
          </li>
        ))}
        <li aria-hidden="true" className="min-w-0 grow-[1000] basis-0">
          <Board />
          <span className="block h-[4.875rem]" />
        </li>
      </ul>
      {onMore && (
        <Button kind="quiet" onClick={onMore}>
          Show more of what stands behind
        </Button>
      )}
      <LogSheet place={place} open={logging} onClose={() => setLogging(false)} />
    </section>
  );
}

/** The board that a stack stands on; boards beside each other are one. */
function Board() {
  return <span aria-hidden="true" className="block h-2.5 border-line border-y-2 bg-wood" />;
}

type StackProps = { stack: StackView; now: number; inHand: boolean; onPress: () => void };

function StackButton({ stack, now, inHand, onPress }: StackProps) {
  const { first, jars } = stack;
  const shape = { radiusMm: first.radius_mm, heightMm: first.height_mm };
  const { width } = glassSize(shape, SCALE);
  const drawn = Math.min(jars, MOST_DRAWN);
  const urgent =
    first.held || !first.best_by || new Date(first.best_by.typ).getTime() < now + 14 * 86_400_000;
  return (
    <button
      type="button"
      aria-pressed={inHand}
      data-stack
      onClick={onPress}
      onKeyDown={along}
      className="group block w-full text-left"
    >
      <span className="flex items-end px-3">
        {Array.from({ length: drawn }, (_, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: jars of a stack are alike
          <span key={i} style={{ marginLeft: i ? -width * 0.62 : 0 }}>
            <Container
              kind={first.kind}
              {...shape}
              scale={SCALE}
              level={levelOf(first)}
              colour={first.colour}
              lid={lidOf(first)}
            />
          </span>
        ))}
      </span>
      <Board />
      <span
        className={`mx-2 mt-1.5 mb-3 block h-15 w-fit min-w-28 border-2 px-2 py-1 leading-tight group-hover:bg-tag ${inHand ? "border-elder bg-tag outline-2 outline-elder" : "border-line bg-paper"}`}
      >
        <span className="block font-bold text-lg">
          {shortName(first.label)}
          {first.part_filled ? ", part" : ""}
          {jars > 1 && ` ×${jars}`}
        </span>
        <span
          className={`block text-base ${urgent ? "font-bold text-hip" : inHand ? "" : "text-slate group-hover:text-ink"}`}
        >
          {saysOf(stack, now)}
        </span>
      </span>
    </button>
  );
}

/** What stands under a name: that it is held, open, or until when it is at its best. */
function saysOf({ first }: StackView, now: number): string {
  if (first.held) return "held: look at it";
  if (!first.best_by) return "does not keep here";
  const until = untilDate(first.best_by.typ, now);
  return first.lives === "opened" ? `open, ${until}` : until;
}

/** Arrows go along the shelves, wherever the next stack stands. */
function along(event: KeyboardEvent<HTMLButtonElement>) {
  const step = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 }[event.key];
  if (!step) return;
  const all = [...document.querySelectorAll<HTMLButtonElement>("[data-stack]")];
  const next = all[all.indexOf(event.currentTarget) + step];
  if (next) {
    event.preventDefault();
    next.focus();
  }
}
