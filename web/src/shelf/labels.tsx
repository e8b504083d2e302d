import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useSearchParams } from "react-router";
import { labelSheetsQuery, labelsQuery } from "@/api/queries";
import type { LabelSheet, LabelView } from "@/api/types";
import { count } from "@/lib/format";
import { Empty, Said, Waiting } from "@/ui/notice";
import { Pick } from "@/ui/pick";

/** Labels laid out on a sheet as they will be printed; the first free one is pressed. */
export function Labels() {
  const [address] = useSearchParams();
  const jars = address.getAll("jar").map(Number).filter(Boolean);
  const labels = useQuery(labelsQuery(jars));
  const sheets = useQuery(labelSheetsQuery).data;
  const [on, setOn] = useState("a4_21");
  const [start, setStart] = useState(1);
  const [each, setEach] = useState(1);
  if (jars.length === 0)
    return <Empty>Take jars in hand on the shelf, and print their labels from there.</Empty>;
  if (labels.error) return <Said error={labels.error} />;
  if (!labels.data || !sheets) return <Waiting />;
  const sheet = sheets.find((s) => s.key === on) ?? sheets[0];
  if (!sheet) return null;
  const printed = labels.data.flatMap((label) => Array.from({ length: each }, () => label));
  const places = sheet.columns * sheet.rows;
  const asked = printed.map((l) => `jar=${l.jar_id}`).join("&");
  const pages = Math.ceil((start - 1 + printed.length) / places);
  return (
    <div className="grid items-start gap-x-10 gap-y-6 wide:grid-cols-[20rem_1fr]">
      <div className="grid gap-4">
        <h1 className="text-3xl">{count(printed.length, "label")}</h1>
        <Pick
          label="On"
          value={sheet.key}
          items={sheets.map((s) => ({ value: s.key, label: s.name }))}
          onChange={(key) => {
            setOn(key);
            setStart(1);
          }}
        />
        <Pick
          label="Of each jar"
          value={String(each)}
          items={[1, 2].map((n) => ({
            value: String(n),
            label: n === 1 ? "one" : "two, lid and side",
          }))}
          onChange={(n) => setEach(Number(n))}
        />
        {places > 1 && (
          <p className="text-lg text-slate">
            A sheet that was begun: press its first free label.
            {start > 1 ? ` It begins at the ${start}th of ${places}.` : ""}
          </p>
        )}
        <a
          href={`/api/labels.pdf?${asked}&on=${sheet.key}&start=${start}`}
          target="_blank"
          rel="noreferrer"
          className="flex min-h-13 items-center justify-center border-2 border-line bg-leaf px-4 font-bold font-display text-lg text-on-dark"
        >
          Print {count(pages, sheet.columns * sheet.rows > 1 ? "sheet" : "label")}
        </a>
        <p className="text-base text-slate">
          The square leads to the jar's own page in this kitchen. Print at full size, not fitted to
          the page.
        </p>
        <Link to="/shelf" className="text-lg underline underline-offset-4">
          Back to the shelf
        </Link>
      </div>
      <div className="grid min-w-0 gap-6">
        <OneLarge label={printed[0]} sheet={sheet} />
        <Laid sheet={sheet} labels={printed} start={start} onStart={setStart} />
      </div>
    </div>
  );
}

/** The first label as large as it can be read. */
function OneLarge({ label, sheet }: { label: LabelView | undefined; sheet: LabelSheet }) {
  if (!label) return null;
  const wide = Math.min(34, sheet.width * 0.5);
  return (
    <article
      aria-label={`Label of ${label.code}`}
      className="grid grid-cols-[0.6rem_1fr_auto] gap-x-4 border-2 border-line bg-paper p-4"
      style={{ maxWidth: `${wide}rem`, minHeight: `${(wide * sheet.height) / sheet.width}rem` }}
    >
      <span style={{ background: label.colour }} />
      <div className="min-w-0">
        <h2 className="text-2xl text-ink">{label.name}</h2>
        <p className="font-bold text-lg">{label.code}</p>
        <p className="text-lg">{label.days}</p>
        {sheet.height >= 24 &&
          label.lines.map((line) => (
            <p key={line} className="text-base">
              {line}
            </p>
          ))}
      </div>
      <Square rows={label.square} />
    </article>
  );
}

/** A square to scan. */
function Square({ rows }: { rows: string[] }) {
  const path = rows
    .flatMap((row, y) => [...row].map((cell, x) => (cell === "1" ? `M${x} ${y}h1v1h-1z` : "")))
    .join("");
  return (
    <svg viewBox={`-1 -1 ${rows.length + 2} ${rows.length + 2}`} className="w-32" role="img">
      <title>a square that leads to this jar</title>
      <path d={path} fill="var(--ink)" />
    </svg>
  );
}

type LaidProps = {
  sheet: LabelSheet;
  labels: LabelView[];
  start: number;
  onStart: (place: number) => void;
};

/** The first sheet as it will come out; what lies before the first free label was used. */
function Laid({ sheet, labels, start, onStart }: LaidProps) {
  const places = sheet.columns * sheet.rows;
  if (places === 1) return null;
  const { page_w: w, page_h: h } = sheet;
  return (
    // biome-ignore lint/a11y/useSemanticElements: a drawn sheet with places to press
    <svg
      viewBox={`0 0 ${w} ${h}`}
      className="w-full max-w-md border-2 border-line bg-paper"
      aria-label="The first sheet"
      role="group"
    >
      {Array.from({ length: places }, (_, n) => {
        const label = labels[n - start + 1];
        const x = sheet.left + (n % sheet.columns) * sheet.across;
        const y = sheet.top + Math.floor(n / sheet.columns) * sheet.down;
        const used = n < start - 1;
        return (
          // biome-ignore lint/a11y/useSemanticElements: a place on a drawn sheet
          <g
            key={`${x} ${y}`}
            role="button"
            tabIndex={0}
            aria-label={`Begin at label ${n + 1}`}
            onClick={() => onStart(n + 1)}
            onKeyDown={(e) => e.key === "Enter" && onStart(n + 1)}
            className="cursor-pointer"
          >
            <rect
              x={x}
              y={y}
              width={sheet.width}
              height={sheet.height}
              fill={used ? "var(--tag)" : "var(--paper)"}
              stroke="var(--slate)"
              strokeWidth="0.4"
              strokeDasharray={label && !used ? "" : "2 2"}
            />
            {label && !used && (
              <>
                <rect
                  x={x + 2}
                  y={y + 2}
                  width="1.6"
                  height={sheet.height - 4}
                  fill={label.colour}
                />
                <text x={x + 5} y={y + 7} fontSize="5" fontWeight="700">
                  {label.name.slice(0, Math.floor(sheet.width / 3.4))}
                </text>
                <text x={x + 5} y={y + 13} fontSize="4.4">
                  {label.code}
                </text>
              </>
            )}
          </g>
        );
      })}
    </svg>
  );
}
