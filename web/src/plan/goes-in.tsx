import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { lotsQuery } from "@/api/queries";
import type { InputView, IntakeView, KitchenView, PlanView } from "@/api/types";
import { TakeIn } from "@/intake/take-in";
import { date, mass } from "@/lib/format";
import type { Reader } from "@/lines/use-lines";
import { type Asked, type Asking, type Line, under, withLine } from "@/plan/asked";
import { LineField } from "@/plan/line-field";
import { LineRow } from "@/plan/line-row";
import { Swaps } from "@/plan/swaps";
import { Button } from "@/ui/button";
import { Dialog } from "@/ui/dialog";

type Props = Asking & {
  kitchen: KitchenView;
  plan: PlanView | undefined;
  of: Reader;
  /** What is wrong with a line, where the plan says so. */
  wrong: (place: number) => string | undefined;
};

/** What goes in, as lines typed the way one says them. */
export function GoesIn(props: Props) {
  const { asked, change, sent, places, kitchen, plan, of, wrong } = props;
  const [open, setOpen] = useState<number | null>(null);
  const lots = useQuery(lotsQuery).data ?? [];
  const put = (place: number, line: Line) =>
    change({ lines: asked.lines.map((l, n) => (n === place ? line : l)) });
  const drop = (place: number) => {
    setOpen(null);
    change({ lines: asked.lines.filter((_, n) => n !== place) });
  };
  const add = (line: Omit<Line, "id">) => change({ lines: withLine(asked, line) });
  const shown = asked.lines.map((_, n) => plan?.inputs[places.indexOf(n)]);
  const fromMethod = plan?.inputs.filter((i) => !shown.includes(i)) ?? [];
  return (
    <section aria-label="What goes in">
      <h2>What goes in</h2>
      <ul className="mt-1">
        {asked.lines.map((line, n) => (
          <LineRow
            key={line.id}
            line={line}
            read={of(line.text)}
            input={shown[n]}
            lot={lots.find((l) => l.id === line.lot)}
            open={open === n}
            wrong={wrong(n)}
            ends={plan?.ends ?? []}
            swaps={
              line.lot === undefined && (
                <Swaps
                  sent={sent}
                  place={places.indexOf(n)}
                  onChoose={(text, key) => put(n, under(key, line, text))}
                />
              )
            }
            onOpen={(yes) => setOpen(yes ? n : null)}
            onChange={(next) => put(n, next)}
            onDrop={asked.lines.length > 1 ? () => drop(n) : undefined}
          />
        ))}
        {fromMethod.map((input) => (
          <FromMethod
            key={input.key}
            input={input}
            onTake={() => {
              setOpen(asked.lines.length);
              add({ text: input.said, key: input.key });
            }}
            onLeave={() => change({ without: [...asked.without, input.key] })}
          />
        ))}
      </ul>
      <LineField onAdd={(text) => add({ text })} />
      <div className="flex items-center justify-between gap-x-3 [&_button]:!text-base [&_button]:whitespace-nowrap">
        <WhatWaits lots={lots} onTake={(lot) => add(lineOf(lot))} />
        <TakeIn kitchen={kitchen} onTaken={(lot) => change({ lines: withLot(asked, lot) })} />
      </div>
    </section>
  );
}

const lineOf = (lot: IntakeView): Omit<Line, "id"> => ({ text: "the rest", lot: lot.id });

/** What has just come in is what is planned with, where nothing else was said yet. */
function withLot(asked: Asked, lot: IntakeView): Line[] {
  const untouched = asked.lines.length === 1 && asked.lines[0]?.lot === undefined;
  return untouched ? [{ ...lineOf(lot), id: 1 }] : withLine(asked, lineOf(lot));
}

type FromMethodProps = { input: InputView; onTake: () => void; onLeave: () => void };

/** What the method puts in by itself: it can be said otherwise, or left out. */
function FromMethod({ input, onTake, onLeave }: FromMethodProps) {
  return (
    <li className="grid grid-cols-[1fr_auto] gap-x-2 border-slate/50 border-b py-1">
      <button type="button" onClick={onTake} className="min-h-9 text-left text-lg leading-tight">
        {input.said || input.name.toLowerCase()}
        <span className="block text-base text-slate">{input.joins} · from the method</span>
      </button>
      <span className="flex items-center gap-1 text-slate">
        {mass(input.mass_g.typ)}
        <button
          type="button"
          aria-label={`Leave out ${input.name.toLowerCase()}`}
          onClick={onLeave}
          className="size-8 text-lg hover:text-hip"
        >
          ×
        </button>
      </span>
    </li>
  );
}

/** What came in and waits, the most pressing first; two of a fruit are told apart by their day. */
function WhatWaits({ lots, onTake }: { lots: IntakeView[]; onTake: (lot: IntakeView) => void }) {
  const [open, setOpen] = useState(false);
  if (lots.length === 0) return null;
  return (
    <>
      <Button size="small" kind="quiet" className="!px-0" onClick={() => setOpen(true)}>
        What waits
      </Button>
      <Dialog open={open} onClose={() => setOpen(false)} title="What waits">
        <ul className="grid gap-2">
          {lots.map((lot) => (
            <li key={lot.id}>
              <button
                type="button"
                onClick={() => {
                  setOpen(false);
                  onTake(lot);
                }}
                className="grid min-h-14 w-full grid-cols-[auto_1fr_auto] items-center gap-3 border-2 border-line bg-paper px-3 text-left"
              >
                <svg width="16" height="16" aria-hidden="true">
                  <circle cx="8" cy="8" r="7" fill={lot.colour} stroke="currentColor" />
                </svg>
                <span className="min-w-0">
                  <span className="block font-bold text-lg leading-tight">{lot.name}</span>
                  <span className="block text-base text-slate">
                    {[lot.source, `came ${date(lot.came_at)}`].filter(Boolean).join(", ")}
                  </span>
                </span>
                <span className="text-right">
                  <span className="block font-bold">{mass(lot.left_kg * 1000)}</span>
                  <span className="block text-base text-slate">by {date(lot.work_by)}</span>
                </span>
              </button>
            </li>
          ))}
        </ul>
      </Dialog>
    </>
  );
}
