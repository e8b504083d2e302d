import { useQuery } from "@tanstack/react-query";
import { type ReactNode, useState } from "react";
import { Link, useParams } from "react-router";
import { useChange } from "@/api/changes";
import { Refused } from "@/api/client";
import { noteQuery } from "@/api/queries";
import type { NotePageView } from "@/api/types";
import { useZone } from "@/api/use-zone";
import { Beside } from "@/cook/beside";
import { Lineage } from "@/flow/lineage";
import { count, litres, litresRange, minutes, moment, plain } from "@/lib/format";
import { Measured } from "@/notes/measured";
import { TraceCurve } from "@/probe/curve";
import { TakeTrace } from "@/probe/take";
import { Button } from "@/ui/button";
import { Empty, Said, Waiting } from "@/ui/notice";
import { Pick } from "@/ui/pick";

/** A batch as a page: how it went, what came of it, where that is now. */
export function NotePage() {
  const { batchId } = useParams();
  const asked = useQuery(noteQuery(Number(batchId)));
  if (asked.error instanceof Refused && asked.error.problem.status === 404)
    return <Empty>There is no such batch in this household.</Empty>;
  if (asked.error) return <Said error={asked.error} />;
  if (!asked.data) return <Waiting />;
  return <Page page={asked.data} />;
}

function Page({ page }: { page: NotePageView }) {
  return (
    <article className="grid gap-x-12 gap-y-7 wide:grid-cols-[minmax(0,1fr)_19rem]">
      <Heading page={page} />
      <section className="wide:col-span-2">
        <h2>How it went</h2>
        <Lineage batch={page.flow} />
      </section>
      <div className="grid min-w-0 content-start gap-7">
        <Deviations page={page} />
        <Measured figures={page.figures} />
        <Steps page={page} />
        <Probes page={page} />
      </div>
      <div className="grid content-start gap-7">
        <CameOfIt page={page} />
        <WentIn page={page} />
        <Jars page={page} />
      </div>
      <div className="wide:col-span-2 print:hidden">
        <Beside batch={page} />
      </div>
      <p className="text-slate wide:col-span-2">{page.safety}</p>
    </article>
  );
}

function Heading({ page }: { page: NotePageView }) {
  const zone = useZone();
  const now = Date.now();
  return (
    <header className="flex flex-wrap items-start justify-between gap-4 wide:col-span-2">
      <div>
        <h1 className="text-3xl wide:text-4xl">{page.title}</h1>
        <p className="mt-1 text-lg text-slate">
          {page.code} · {page.method} · {moment(page.started_at, now, zone)} ·{" "}
          {page.people.join(", ")}
        </p>
        {!page.finished && (
          <p className="mt-1 text-lg">
            It is still on:{" "}
            <Link className="underline underline-offset-4" to={`/cook/${page.id}`}>
              go to it
            </Link>
          </p>
        )}
      </div>
      <div className="flex gap-3 print:hidden">
        <Button size="small" onClick={() => window.print()}>
          Print
        </Button>
        <a
          href={`/api/notes/${page.id}/sheet.pdf`}
          className="inline-flex min-h-11 items-center border-2 border-line bg-paper px-3 font-bold font-display"
        >
          As a PDF
        </a>
      </div>
    </header>
  );
}

function Deviations({ page }: { page: NotePageView }) {
  const zone = useZone();
  if (page.deviations.length === 0)
    return (
      <section>
        <h2>Otherwise than planned</h2>
        <p className="mt-1 text-lg">Nothing: it went as it was planned.</p>
      </section>
    );
  return (
    <section>
      <h2>Otherwise than planned</h2>
      <ul className="mt-1">
        {page.deviations.map((d) => (
          <li
            key={`${d.at}-${d.words}`}
            className="grid grid-cols-[7.5rem_1fr] gap-x-4 border-slate/40 border-b py-2 text-lg"
          >
            <span className="text-slate">{moment(d.at, Date.parse(page.started_at), zone)}</span>
            <span>
              <span className="block font-bold first-letter:uppercase">{d.words}</span>
              <span className="text-slate">
                {d.step}
                {d.by ? `, ${d.by}` : ""}
              </span>
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What each step was to take and what it took, as two bars of one scale. */
function Steps({ page }: { page: NotePageView }) {
  const timed = page.steps.filter((s) => s.took_min !== null && s.took_min < 600);
  if (timed.length === 0) return null;
  const longest = Math.max(...timed.map((s) => Math.max(s.planned_min, s.took_min ?? 0)));
  const share = (m: number) => `${Math.max(0.5, (100 * m) / longest)}%`;
  return (
    <section aria-label="How long it took">
      <h2>How long it took</h2>
      <p className="text-slate">planned above, by the clock below</p>
      <ul className="mt-1">
        {timed.map((s) => (
          <li
            key={`${s.title}-${s.finished_at}`}
            className="grid grid-cols-[1fr_auto] gap-x-4 py-1.5 text-lg wide:grid-cols-[13rem_1fr_7rem]"
          >
            <span>{s.title}</span>
            <span className="col-span-2 grid content-center gap-0.5 wide:order-none wide:col-span-1">
              <span
                className="h-2 border border-line bg-tag"
                style={{ width: share(s.planned_min) }}
              />
              <span className="h-2 bg-elder" style={{ width: share(s.took_min ?? 0) }} />
            </span>
            <span className="text-right tabular-nums max-wide:col-start-2 max-wide:row-start-1">
              {minutes(s.took_min ?? 0)}
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What probes saw, and the file of one that was read out afterwards. */
function Probes({ page }: { page: NotePageView }) {
  const change = useChange(page.id);
  const [chosen, setChosen] = useState("");
  const timed = page.steps.filter((s) => s.took_min !== null);
  const step = timed.find((s) => String(s.id) === chosen) ?? timed.find((s) => s.bath) ?? timed[0];
  if (!step) return null;
  return (
    <section aria-label="What probes saw" className="grid gap-4">
      {page.traces.map(({ step: name, trace }) => (
        <div key={`${name} ${trace.since} ${trace.probe}`}>
          <h3 className="text-elder text-xl">{name}</h3>
          <TraceCurve trace={trace} />
        </div>
      ))}
      <div className="flex flex-wrap items-end gap-4 print:hidden">
        <div className="w-72">
          <Pick
            label="A probe was in it at"
            value={String(step.id)}
            items={timed.map((s) => ({ value: String(s.id), label: s.title }))}
            onChange={setChosen}
          />
        </div>
        <TakeTrace
          step={step}
          act={(what, then) => change.mutate(what, { onSuccess: () => then?.() })}
          error={change.error}
          busy={change.isPending}
        />
      </div>
    </section>
  );
}

function CameOfIt({ page }: { page: NotePageView }) {
  const each = page.hands_h_per_litre;
  const filled = page.litres > 0 || page.flow.became === null;
  const rows: [string, ReactNode][] = filled ? [["in jars", litres(1000 * page.litres)]] : [];
  if (page.litres_planned) rows.push(["was planned", litresRange(page.litres_planned)]);
  if (page.litres_per_kg !== null) rows.push(["of a kilo", `${plain(page.litres_per_kg, 0.01)} l`]);
  rows.push(["your hands", `about ${plain(page.hands_h, 0.1)} h`]);
  if (each !== null) rows.push(["a litre", minutes(60 * each)]);
  if (page.cost_minor !== null)
    rows.push(["what came in cost", plain(page.cost_minor / 100, 0.01)]);
  if (page.cost_per_litre_minor !== null)
    rows.push(["a litre cost", plain(page.cost_per_litre_minor / 100, 0.01)]);
  return (
    <section className="border-leaf border-t-6 pt-3">
      <h2>What came of it</h2>
      <dl className="mt-1 grid grid-cols-[1fr_auto] gap-x-4 gap-y-1 text-lg">
        {rows.map(([name, value]) => (
          <div key={name} className="contents">
            <dt className="text-slate">{name}</dt>
            <dd className="text-right font-bold">{value}</dd>
          </div>
        ))}
      </dl>
      {page.process && (
        <p className="mt-3 border-2 border-line bg-paper p-2">
          Processed <b>{page.process.minutes} min</b>: {page.process.source}
        </p>
      )}
    </section>
  );
}

function WentIn({ page }: { page: NotePageView }) {
  return (
    <section className="border-line border-t-6 pt-3">
      <h2>What went in</h2>
      <ul className="mt-1 text-lg">
        {page.came_in.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
    </section>
  );
}

function Jars({ page }: { page: NotePageView }) {
  return (
    <section className="border-line border-t-6 pt-3">
      <h2>Its jars</h2>
      {page.flow.became === "glasses" && <p className="mt-1 text-lg">None: it was poured.</p>}
      {page.flow.became === "nothing" && <p className="mt-1 text-lg">None: it was given up.</p>}
      <ul className="mt-1 grid gap-2 text-lg">
        {page.jars.map((j) => (
          <li key={`${j.place}-${j.jars}`}>
            <b>{j.jars}</b>, {j.place.toLowerCase()}
            <span className="block text-slate">{codes(j.codes)}</span>
          </li>
        ))}
      </ul>
      {page.gone > 0 && (
        <p className="mt-2 text-lg text-slate">{count(page.gone, "jar")} eaten, given or gone</p>
      )}
      {page.jars.length > 0 && (
        <Link
          to={`/shelf?find=${encodeURIComponent(page.code)}`}
          className="mt-2 inline-flex min-h-11 items-center underline underline-offset-4 print:hidden"
        >
          on the shelf
        </Link>
      )}
    </section>
  );
}

/** "DM-26-01-01 to -07" where there are several. */
function codes(all: string[]): string {
  const [first, last] = [all[0] ?? "", all.at(-1) ?? ""];
  return all.length > 1 ? `${first} to -${last.split("-").at(-1)}` : first;
}
