import { keepPreviousData, queryOptions, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams, useSearchParams } from "react-router";
import { api, body, Refused } from "@/api/client";
import type { Sum } from "@/api/types";
import { Picture } from "@/bench/pictures";
import { asked, chosenIn, type Field, figuresIn, type Question, SUMS, sumOf } from "@/bench/sums";
import { mass, plain, range, spoken } from "@/lib/format";
import { measureOf, shown, typed } from "@/lib/units";
import { Choice } from "@/ui/choice";
import { NumberField, parse } from "@/ui/field";
import { Pick } from "@/ui/pick";

const sumQuery = (key: Question["key"], query: Record<string, string | number>) =>
  queryOptions({
    queryKey: ["bench", key, query],
    queryFn: ({ signal }) =>
      body(
        api.GET(`/api/bench/${key}` as "/api/bench/sweeten", {
          signal,
          params: { query: query as never },
        }),
      ),
    placeholderData: keepPreviousData,
    staleTime: 600_000,
    retry: false,
  });

/** A sum in hand, drawn large, and the others on the plank. Its figures live in the address. */
export function Bench() {
  const question = sumOf(useParams().sum);
  return (
    <>
      <h1 className="text-4xl">{question.title}</h1>
      <p className="mt-1 text-lg text-slate">{question.lead}</p>
      <InHand key={question.key} question={question} />
      <Plank open={question.key} />
    </>
  );
}

function InHand({ question }: { question: Question }) {
  const [address, setAddress] = useSearchParams();
  const put = (key: string, value: string, without: string[] = []) =>
    setAddress(
      (before) => {
        const after = new URLSearchParams(before);
        after.set(key, value);
        for (const gone of without) after.delete(gone);
        return after;
      },
      { replace: true },
    );
  const chosen = chosenIn(question, address);
  const figures = figuresIn(question, address);
  const fields = question.fields(chosen);
  const found = useQuery(sumQuery(question.key, asked(question, address)));
  const moved = fields.find((f) => f.key === question.moves) ?? (fields[0] as Field);
  const refused = found.error instanceof Refused ? found.error : undefined;
  return (
    <div className="mt-4 grid items-start gap-x-10 gap-y-6 wide:grid-cols-[24rem_1fr_20rem]">
      <div>
        <Picture sum={question.key} draws={found.data?.draws ?? {}} />
        <Handle
          field={moved}
          value={figures[moved.key] ?? moved.usual}
          onChange={(value) => put(moved.key, String(value))}
        />
      </div>
      <div className="order-last grid gap-4 wide:order-none">
        {question.choices.map((c) => {
          const value = chosen[c.key] ?? c.usual;
          const change = (next: string) => put(c.key, next, c.key === "stop" ? ["target"] : []);
          return c.options.length > MOST_BESIDE ? (
            <Pick key={c.key} label={c.label} value={value} items={c.options} onChange={change} />
          ) : (
            <Choice
              key={c.key}
              label={c.label}
              value={value}
              options={c.options}
              onChange={change}
            />
          );
        })}
        <div className="grid grid-cols-2 gap-3">
          {fields.map((f) => (
            <Figure
              key={`${f.key}-${f.quantity}`}
              field={f}
              value={figures[f.key] ?? f.usual}
              error={refused?.at(`/${f.key}`)}
              onChange={(value) => put(f.key, String(value))}
            />
          ))}
        </div>
      </div>
      <Answer sum={found.data} refused={refused?.message} waiting={found.isPlaceholderData} />
    </div>
  );
}

/** The figure that the picture shows moving, by hand or by the arrow keys. */
function Handle({
  field,
  value,
  onChange,
}: {
  field: Field;
  value: number;
  onChange: (value: number) => void;
}) {
  return (
    <label className="mt-2 block print:hidden">
      <span className="sr-only">{field.label.trim()}, dragged</span>
      <input
        type="range"
        min={field.from}
        max={field.to}
        step={(field.to - field.from) / 200}
        value={value}
        onChange={(e) => onChange(Number(Number(e.target.value).toFixed(2)))}
        className="handle h-11 w-full"
      />
    </label>
  );
}

function Figure({
  field,
  value,
  error,
  onChange,
}: {
  field: Field;
  value: number;
  error: string | undefined;
  onChange: (value: number) => void;
}) {
  const measure = measureOf(field.quantity, field.unit);
  const [text, setText] = useState<string | null>(null);
  const figure = String(Number(shown(value, measure).toPrecision(4)));
  return (
    // What is typed stays as it is typed until the field is left: the address follows in its time.
    // biome-ignore lint/a11y/noStaticElementInteractions: it only hears that the field is left
    <div onBlur={() => setText(null)}>
      <NumberField
        label={field.label.trim()}
        unit={measure.unit}
        value={text ?? figure}
        error={error}
        onChange={(next) => {
          const read = parse(next);
          setText(next);
          if (read !== null && !Number.isNaN(read))
            onChange(Number(typed(read, measure).toPrecision(8)));
        }}
      />
    </div>
  );
}

type AnswerProps = { sum: Sum | undefined; refused: string | undefined; waiting: boolean };

function Answer({ sum, refused, waiting }: AnswerProps) {
  if (refused)
    return (
      <p role="alert" className="font-bold text-hip text-xl">
        {refused}
      </p>
    );
  if (!sum) return null;
  const { answer } = sum;
  return (
    <section aria-label="What it comes to" aria-busy={waiting}>
      <h2 className="text-ink">{answer.label}</h2>
      <p aria-live="polite" className="font-bold font-display text-4xl">
        {said(answer)}
      </p>
      {sum.note && <p className="mt-1 text-base text-slate">{sum.note}</p>}
      <dl className="mt-4 grid gap-y-1 text-lg">
        {(sum.then ?? []).map((s) => (
          <div key={s.key} className="flex justify-between gap-4 border-slate/40 border-b py-1">
            <dt className="text-slate">{s.label}</dt>
            <dd className="text-right font-bold">{said(s)}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}

/** A figure of a sum in the kitchen's units, with its range where it has one. */
function said({ value, quantity, words }: Sum["answer"]): string {
  if (!value) return words ?? "";
  switch (quantity) {
    case "minutes":
      return `${range(value, 1, 1)} min`;
    case "mass_g":
      return mass(value.typ);
    case "brix":
      return spoken(value, "brix", "°Bx");
    case "temp_c": {
      const measure = measureOf("temp_c");
      return `${plain(shown(value.typ, measure), 0.1)} ${measure.unit}`;
    }
    case "degrees": {
      const { unit, factor } = measureOf("temp_c");
      return `${plain(value.typ / factor, 0.1)} ${unit}`;
    }
    case "parts":
      return plain(value.typ, 0.1);
    case "percent":
      return `${plain(value.typ, 1)} %`;
    default:
      return spoken(value, quantity);
  }
}

/** Options that still stand beside each other on a phone. */
const MOST_BESIDE = 4;

const AT_REST: Record<string, number> = {
  before: 10,
  after: 6,
  reads: 104,
  plain: 98,
  first: 0.5,
  second: 0.8,
  cold: 500,
  base: 0.3,
};

/** What lies on the plank; the one in hand is underlined. */
function Plank({ open }: { open: Question["key"] }) {
  return (
    <nav aria-label="Sums" className="mt-6 wide:mt-1 print:hidden">
      <ul className="flex flex-wrap items-end">
        {SUMS.map((s) => (
          <li key={s.key} className="min-w-28 flex-1">
            <Link
              to={`/bench/${s.key}`}
              aria-current={s.key === open ? "page" : undefined}
              className="group block text-center"
            >
              <span className="flex justify-center">
                <Picture sum={s.key} draws={AT_REST} small />
              </span>
              <span aria-hidden="true" className="block h-2.5 border-line border-y-2 bg-wood" />
              <span
                className={`mt-1 inline-block min-h-9 text-lg group-hover:underline ${s.key === open ? "border-elder border-b-4 font-bold text-elder" : ""}`}
              >
                {s.name}
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </nav>
  );
}
