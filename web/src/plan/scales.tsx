import { type PointerEvent, useRef, useState } from "react";
import { useMark } from "@/api/changes";
import type { EndView, MarkAsk, Marked, PlanView, Scale } from "@/api/types";
import { plain, range } from "@/lib/format";
import { type Asked, type Asking, type Line, under, withLine } from "@/plan/asked";
import { Button } from "@/ui/button";
import { parse } from "@/ui/field";
import { Said } from "@/ui/notice";
import { Bar, BrassTick } from "@/ui/scale";

type Props = Asking & {
  end: EndView;
  title: string;
  /** What the household's last batch of it came out as. */
  last: PlanView["last_time"];
};

/** The scales of what is filled: a mark that is dragged or typed is served by a line. */
export function Scales({ asked, change, end, title, sent, places, last }: Props) {
  const mark = useMark();
  const set = (scale: string, value: number) => {
    mark.mutate(
      { plan: sent, scale: scale as MarkAsk["scale"], value, end: end.key },
      {
        onSuccess: (found) => {
          if (found.refused) return;
          change(withMark(asked, found, places));
        },
      },
    );
  };
  const [refused, asking] = mark.data?.refused ? [mark.data, mark.variables] : [];
  const shown = end.scales.filter((s) => s.value || s.words);
  return (
    <section aria-label="Scales">
      <div className="flex flex-wrap items-baseline justify-between gap-x-4">
        <h2>{title}</h2>
        <p className="text-base text-slate">drag a mark, or type: the rest follows</p>
      </div>
      {refused && asking && (
        <div role="alert" className="mt-2 flex flex-wrap items-center gap-3">
          <p className="font-bold text-hip">{refused.refused}</p>
          {refused.nearest !== null && refused.nearest !== undefined && (
            <Button
              size="small"
              onClick={() => refused.nearest && set(asking.scale, refused.nearest)}
            >
              Take {plain(refused.nearest, asking.scale === "ph" ? 0.01 : 0.1)}
            </Button>
          )}
        </div>
      )}
      <div className="mt-2 grid gap-x-6 gap-y-1 wide:grid-cols-2">
        {shown.map((s) => (
          <OneScale
            key={s.key}
            scale={s}
            onMark={(value) => set(s.key, value)}
            busy={mark.isPending}
          />
        ))}
      </div>
      {last && <AsLastTime last={last} onMark={(value) => set("sweet", value)} />}
      <Said error={mark.error} />
    </section>
  );
}

type LastProps = { last: NonNullable<PlanView["last_time"]>; onMark: (value: number) => void };

/** The strength of the household's last batch as a mark, or a bit more or less of it. */
function AsLastTime({ last, onMark }: LastProps) {
  const { brix, sweeter, less_sweet } = last;
  if (brix === null || sweeter === null || less_sweet === null) return null;
  const choices = [
    ["less sweet", less_sweet],
    ["as it was", brix],
    ["sweeter", sweeter],
  ] as const;
  return (
    <p className="mt-2 flex flex-wrap items-baseline gap-x-4 text-slate">
      <span>
        last time ({last.code}) it was <b className="text-ink">{plain(brix)} °Bx</b>:
      </span>
      {choices.map(([words, value]) => (
        <button
          key={words}
          type="button"
          onClick={() => onMark(Number(value.toFixed(1)))}
          className="min-h-9 text-ink underline decoration-dotted underline-offset-4"
        >
          {words}
        </button>
      ))}
    </p>
  );
}

/** What is asked once a mark is served: a line more, another amount of one, or one that goes. */
function withMark(asked: Asked, marked: Marked, places: number[]): Partial<Asked> {
  const { line = "", replaces, key = "" } = marked;
  const there = places[replaces ?? -1] ?? -1;
  if (!line) {
    const lines = asked.lines.filter((_, n) => n !== there);
    return { lines, without: key ? [...asked.without, key] : asked.without };
  }
  const put = (l: Line) => under(key, l, line);
  if (there < 0) return { lines: withLine(asked, put({ id: 0, text: line })) };
  return { lines: asked.lines.map((l, n) => (n === there ? put(l) : l)) };
}

const W = 290;

type OneProps = { scale: Scale; onMark: (value: number) => void; busy: boolean };

function OneScale({ scale, onMark, busy }: OneProps) {
  const bar = useRef<HTMLDivElement>(null);
  const [held, setHeld] = useState<number | null>(null);
  const { at, of } = along(scale);
  const value = held ?? scale.value?.typ;
  const figure = figureOf(scale, value);
  const place = (e: PointerEvent) => {
    const box = bar.current?.getBoundingClientRect();
    if (!box) return null;
    const share = Math.max(0, Math.min(1, (e.clientX - box.left) / box.width));
    return rounded(scale, of((share * W - 6) / (W - 12)));
  };
  const drop = () => {
    if (held !== null) onMark(held);
    setHeld(null);
  };
  const step = scale.grows ? 1.25 : (scale.hi - scale.lo) / 100;
  const nudge = (by: 1 | -1) => {
    if (scale.value)
      onMark(
        rounded(scale, scale.grows ? scale.value.typ * step ** by : scale.value.typ + by * step),
      );
  };
  return (
    <div>
      <div className="flex items-baseline justify-between gap-2">
        <span className="font-bold">{scale.name}</span>
        <Typed scale={scale} figure={figure} onMark={onMark} />
      </div>
      {scale.value && value !== undefined && (
        <div
          ref={bar}
          className="cursor-ew-resize touch-none outline-offset-2"
          role="slider"
          tabIndex={0}
          aria-label={scale.name}
          aria-valuemin={scale.lo}
          aria-valuemax={scale.hi}
          aria-valuenow={Number(value.toFixed(2))}
          aria-valuetext={`${figure}${scale.unit ? ` ${scale.unit}` : ""}`}
          aria-busy={busy}
          onPointerDown={(e) => {
            e.currentTarget.setPointerCapture(e.pointerId);
            setHeld(place(e));
          }}
          onPointerMove={(e) => held !== null && setHeld(place(e))}
          onPointerUp={drop}
          onPointerCancel={() => setHeld(null)}
          onKeyDown={(e) => {
            if (e.key === "ArrowRight" || e.key === "ArrowUp") nudge(1);
            if (e.key === "ArrowLeft" || e.key === "ArrowDown") nudge(-1);
          }}
        >
          <svg viewBox={`0 0 ${W} 30`} className="block w-full" aria-hidden="true">
            <line x1="6" x2={W - 6} y1="19" y2="19" stroke="var(--ink)" strokeWidth="1.5" />
            <Bar
              range={scale.value}
              x={at}
              y={13}
              height={12}
              least={3}
              fill="var(--tag)"
              stroke="var(--line)"
            />
            <BrassTick at={at(scale.value.typ)} from={11} to={27} width={4} />
            {scale.limit !== null && scale.limit !== undefined && (
              <path
                d={`M${at(scale.limit)} 7v22`}
                stroke="var(--hip)"
                strokeWidth="2.5"
                strokeDasharray="3 2"
              />
            )}
            {held !== null && <path d={`M${at(held) - 7} 0h14l-7 10z`} fill="var(--elder)" />}
          </svg>
        </div>
      )}
    </div>
  );
}

/** Where a value lies on its scale, and what value lies at a share of it. */
function along(scale: Scale) {
  const [lo, hi] = scale.grows ? [Math.log(scale.lo), Math.log(scale.hi)] : [scale.lo, scale.hi];
  const share = (v: number) =>
    ((scale.grows ? Math.log(Math.max(v, scale.lo)) : v) - lo) / (hi - lo);
  return {
    at: (v: number) => 6 + (W - 12) * Math.max(0, Math.min(1, share(v))),
    of: (part: number) => {
      const v = lo + (hi - lo) * Math.max(0, Math.min(1, part));
      return scale.grows ? Math.exp(v) : v;
    },
  };
}

const rounded = (scale: Scale, value: number): number => {
  const digits = scale.key === "ph" ? 2 : scale.grows ? 0 : 1;
  return Number(value.toFixed(digits));
};

const figureOf = (scale: Scale, value: number | undefined): string =>
  value === undefined ? "" : scale.key === "ph" ? value.toFixed(2) : plain(value);

type TypedProps = { scale: Scale; figure: string; onMark: (value: number) => void };

/** The figure itself, to be typed over; a scale that pours is told in words.
 *
 * What is being typed stays though a plan comes meanwhile; once it was said, the next figure takes
 * its place. */
function Typed({ scale, figure, onMark }: TypedProps) {
  const [typed, setTyped] = useState<{ text: string; saidOver?: string } | null>(null);
  if (typed?.saidOver !== undefined && typed.saidOver !== figure) setTyped(null);
  const text = typed?.text ?? figure;
  const set = () => {
    if (!typed || typed.saidOver !== undefined) return;
    const value = parse(text);
    const isMark = value !== null && !Number.isNaN(value) && text !== figure;
    setTyped(isMark ? { text, saidOver: figure } : null);
    if (isMark) onMark(value);
  };
  if (scale.key === "thick")
    return <span className="font-bold">{scale.value ? `${scale.words}, cold` : scale.words}</span>;
  return (
    <span className="flex items-baseline gap-1">
      {scale.words && <span className="text-slate">{scale.words}</span>}
      <input
        aria-label={`${scale.name}, mark`}
        inputMode="decimal"
        autoComplete="off"
        value={text}
        title={scale.value ? range(scale.value, 1, scale.key === "ph" ? 0.01 : 0.1) : undefined}
        onChange={(e) => setTyped({ text: e.target.value.replace(",", ".") })}
        onBlur={set}
        onKeyDown={(e) => e.key === "Enter" && set()}
        className="w-14 border-slate/60 border-b bg-transparent text-right font-bold"
      />
      <span className="min-w-7">{scale.unit}</span>
    </span>
  );
}
