import { useQuery } from "@tanstack/react-query";
import { useId, useState } from "react";
import { Link } from "react-router";
import { useLive } from "@/api/changes";
import { api, body } from "@/api/client";
import { foundChoicesQuery, foundQuery, shelfQuery } from "@/api/queries";
import type { FoundChoices, FoundLine, FoundRow, FoundSaid, ShelfPlace } from "@/api/types";
import { count } from "@/lib/format";
import { Misread } from "@/lines/misread";
import { Button } from "@/ui/button";
import { Said, Waiting } from "@/ui/notice";
import { Pick } from "@/ui/pick";
import { FindingRow } from "@/ui/verdict";

/** What a person has said of a line beside its words, by the line. */
type Corrected = Record<string, Omit<FoundSaid, "line">>;

const NOBODY_KNOWS = "-";

/** As many labels as are printed at once. */
const MOST_LABELS = 500;

/** The shelf that is already there: a line for each kind of jar, as one reads them off. */
export function Already() {
  const id = useId();
  const [text, setText] = useState("");
  const [corrected, setCorrected] = useState<Corrected>({});
  const lines = text
    .split("\n")
    .map((line) => line.trim())
    .filter(Boolean);
  const read = useQuery(foundQuery(lines.map((line) => ({ line, ...corrected[line] }))));
  const choices = useQuery(foundChoicesQuery).data;
  const places = useQuery(shelfQuery("", 1)).data?.places;
  const put = useLive((rows: FoundRow[]) => body(api.POST("/api/found", { body: { rows } })));
  if (!choices || !places) return <Waiting />;
  if (put.data) return <There ids={put.data.ids} />;
  const found = lines.length > 0 ? (read.data ?? []) : [];
  const rows = found.flatMap((f) => (f.row ? [f.row] : []));
  const all = rows.reduce((sum, row) => sum + row.count, 0);
  const whole = rows.length === found.length && found.length === lines.length;
  return (
    <form
      className="grid items-start gap-x-10 gap-y-4 wide:grid-cols-[25rem_1fr]"
      onSubmit={(e) => {
        e.preventDefault();
        put.mutate(rows);
      }}
    >
      <div className="grid gap-3">
        <h1 className="text-3xl">Jars from before</h1>
        <label htmlFor={id} className="text-lg">
          A line for each kind: how many, in what, of what, where and when. What you leave out is
          guessed at, and asked.
        </label>
        <textarea
          id={id}
          rows={9}
          value={text}
          placeholder={
            "12 pints plum juice, cellar, August 2025\n3 bottles rosehip syrup, fridge\n5 small jars quince jelly, 2024"
          }
          onChange={(e) => setText(e.target.value)}
          className="w-full border-2 border-line bg-paper p-3 text-lg placeholder:text-slate"
        />
        <p className="text-slate">
          Nobody here has seen how they were made: they are counted, found and dated with a wide
          band, and vouched for by nobody.
        </p>
      </div>
      <div className="order-last grid gap-3 wide:order-none wide:col-start-1 wide:row-start-2">
        <Said error={put.error ?? read.error} />
        <Button
          kind="go"
          size="large"
          type="submit"
          disabled={rows.length === 0 || !whole || read.isFetching || put.isPending}
        >
          {all ? `Put ${count(all, "jar")} on their places` : "Put them on their places"}
        </Button>
      </div>
      <ul
        className="grid gap-3 wide:col-start-2 wide:row-span-3 wide:row-start-1"
        aria-label="As they were understood"
        aria-busy={read.isFetching || read.isPlaceholderData}
      >
        {found.map((line, n) => (
          <Line
            // biome-ignore lint/suspicious/noArrayIndexKey: two lines may say the same
            key={`${n} ${line.said}`}
            line={line}
            choices={choices}
            places={places}
            onSay={(said) =>
              setCorrected({ ...corrected, [line.said]: { ...corrected[line.said], ...said } })
            }
            onChoose={(other) => setText(text.replace(line.said, other))}
          />
        ))}
      </ul>
    </form>
  );
}

type LineProps = {
  line: FoundLine;
  choices: FoundChoices;
  places: ShelfPlace[];
  onSay: (said: Omit<FoundSaid, "line">) => void;
  onChoose: (line: string) => void;
};

/** One line as it was understood, what was guessed at to be chosen, what stands against it. */
function Line({ line, choices, places, onSay, onChoose }: LineProps) {
  if (!line.row)
    return (
      <li className="border-hip border-l-6 bg-paper p-3 text-lg">
        <Misread
          text={line.said}
          wrong={{ message: line.problem, start: line.start, end: line.end, choices: [] }}
          onChoose={onChoose}
        />
      </li>
    );
  const { row } = line;
  const asks = (doubt: string) => line.doubts.includes(doubt);
  const named = (of: { key: string; name: string }[], key: string | undefined) =>
    of.find((c) => c.key === key)?.name ?? "";
  return (
    <li className="border-2 border-line bg-paper p-3">
      <p className="text-xl">
        <b>
          {row.count} × {row.label}
        </b>
        <span className="block text-lg text-slate">
          {named(choices.jars, row.jar_kind)},{" "}
          {places.find((p) => p.id === row.place_id)?.name.toLowerCase()},{" "}
          {line.filled || "nobody knows when: add a month or a year if you do"}
        </span>
      </p>
      {line.doubts.length > 0 && (
        <div className="mt-2 grid gap-3 wide:grid-cols-2">
          {asks("jar_kind") && (
            <Pick
              label="In what? This is guessed"
              value={row.jar_kind}
              items={choices.jars.map((c) => ({ value: c.key, label: c.name }))}
              onChange={(jar_kind) => onSay({ jar_kind })}
            />
          )}
          {asks("place") && (
            <Pick
              label="Where? This is guessed"
              value={String(row.place_id)}
              items={places.map((p) => ({ value: String(p.id), label: p.name }))}
              onChange={(place) => onSay({ place_id: Number(place) })}
            />
          )}
          {asks("material") && (
            <Pick
              label="Mostly of what?"
              value={row.material || NOBODY_KNOWS}
              items={[
                { value: NOBODY_KNOWS, label: "nobody knows" },
                ...choices.materials.map((c) => ({ value: c.key, label: c.name })),
              ]}
              onChange={(key) => onSay({ material: key === NOBODY_KNOWS ? "" : key })}
            />
          )}
        </div>
      )}
      <ul className="mt-2 grid gap-2">
        {line.findings
          .filter((f) => f.level === "stop")
          .map((f) => (
            <FindingRow key={f.id} finding={f} />
          ))}
      </ul>
    </li>
  );
}

/** They stand there now. */
function There({ ids }: { ids: number[] }) {
  return (
    <section className="grid max-w-xl gap-4" aria-label="They stand there now">
      <h1 className="text-3xl">{count(ids.length, "jar")} stand on their places</h1>
      <p className="text-lg">
        Each has a code of its own now. With a label it is found by the camera as any other.
      </p>
      <div className="flex flex-wrap gap-3">
        <Link
          className="flex min-h-14 items-center border-2 border-line bg-leaf px-6 font-bold font-display text-on-dark text-xl"
          to={`/shelf/labels?${ids
            .slice(0, MOST_LABELS)
            .map((id) => `jar=${id}`)
            .join("&")}`}
        >
          Print their labels
        </Link>
        <Link
          className="flex min-h-14 items-center border-2 border-line bg-paper px-6 font-bold font-display text-xl"
          to="/shelf"
        >
          See the shelf
        </Link>
      </div>
    </section>
  );
}
