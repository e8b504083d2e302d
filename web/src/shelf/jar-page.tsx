import { useQuery } from "@tanstack/react-query";
import { Collapsible } from "radix-ui";
import { Link, useParams } from "react-router";
import { useSpoiled, useUsedUp } from "@/api/changes";
import { Refused } from "@/api/client";
import { jarQuery } from "@/api/queries";
import type { JarPageView, JarView } from "@/api/types";
import { useZone } from "@/api/use-zone";
import { Lineage } from "@/flow/lineage";
import {
  count,
  date,
  jarSize,
  litres,
  moment,
  plain,
  room,
  temperature,
  timeOfDay,
} from "@/lib/format";
import { useNow } from "@/lib/use-now";
import { LifeLine } from "@/shelf/life-line";
import { lidOf } from "@/shelf/stack";
import { Button } from "@/ui/button";
import { Container } from "@/ui/container";
import { Empty, Said, Waiting } from "@/ui/notice";
import { FindingRow } from "@/ui/verdict";

const EVIDENCE: Record<string, string> = {
  table: "government table",
  practice: "extension practice",
  own: "this household's own tested source",
};

const SEAL: Record<string, string> = {
  cooling: "cooling, seal not checked yet",
  sealed: "sealed",
  failed: "seal failed",
  unsealed: "not sealed: keep it cold",
};

export function JarPage() {
  const { jarId } = useParams();
  const asked = useQuery(jarQuery(Number(jarId)));
  const zone = useZone();
  const now = useNow(60_000);
  if (asked.error instanceof Refused && asked.error.problem.status === 404)
    return <Empty>There is no such jar on this household's shelves.</Empty>;
  if (asked.error) return <Said error={asked.error} />;
  if (!asked.data) return <Waiting />;
  const page = asked.data;
  return (
    <div className="grid gap-x-12 gap-y-6 wide:grid-cols-[20rem_1fr]">
      <div className="grid content-start gap-6">
        <Label jar={page.jar} now={now} zone={zone} />
        <UsedUp jar={page.jar} />
        <LooksWrong page={page} />
        <Moments page={page} now={now} zone={zone} />
      </div>
      <div className="grid min-w-0 content-start gap-6">
        <section>
          <h2>At its best</h2>
          <LifeLine jar={page.jar} now={now} />
        </section>
        <Process page={page} zone={zone} now={now} />
        <section>
          <h2>Where it comes from</h2>
          <Lineage batch={page.batch} />
        </section>
        {page.siblings.length > 0 && <Siblings jars={page.siblings} code={page.batch.code} />}
      </div>
    </div>
  );
}

/** The label as it would stick on the jar, beside the jar. */
function Label({ jar, now, zone }: { jar: JarView; now: number; zone: string }) {
  return (
    <section aria-label="Label" className="flex items-end gap-5 self-start">
      <Container
        kind={jar.kind}
        radiusMm={jar.radius_mm}
        heightMm={jar.height_mm}
        scale={1.15}
        level={(jar.fill_ml / jar.nominal_ml) * 0.92}
        colour={jar.colour}
        lid={lidOf(jar)}
      />
      <div className="min-w-0 flex-1 border-2 border-line bg-paper p-3">
        <h1 className="text-2xl">{jar.label}</h1>
        <p className="mt-1 font-bold text-xl">{jar.code}</p>
        <p className="text-lg">
          {litres(jar.fill_ml)} in a {jar.kind_name}
          {jar.closure === "cap" ? " under a plain cap" : ""}
        </p>
        <p className="text-lg">filled {moment(jar.filled_at, now, zone)}</p>
        <p className="text-lg">{jar.part_filled ? "part-filled, not processed" : SEAL[jar.seal]}</p>
        <p className="text-lg text-slate">{jar.place || "not on a shelf yet"}</p>
      </div>
    </section>
  );
}

/** An empty jar leaves its place; a vessel of the household is free for the next. */
function UsedUp({ jar }: { jar: JarView }) {
  const usedUp = useUsedUp(jar.id);
  if (!jar.place) return null;
  return (
    <div>
      <Button disabled={usedUp.isPending} onClick={() => usedUp.mutate()}>
        It is used up
      </Button>
      <Said error={usedUp.error} />
    </div>
  );
}

/** A jar that bulges, leaks or smells: what to do, and off the shelf with it. */
function LooksWrong({ page }: { page: JarPageView }) {
  const spoiled = useSpoiled(page.jar.id);
  if (page.findings.length > 0)
    return (
      <ul className="grid gap-3 border-2 border-hip p-3">
        {page.findings.map((f) => (
          <FindingRow key={f.id} finding={f} />
        ))}
      </ul>
    );
  return (
    <Collapsible.Root>
      <Collapsible.Trigger className="min-h-11 text-left text-lg underline decoration-dotted underline-offset-4">
        Does it look or smell wrong?
      </Collapsible.Trigger>
      <Collapsible.Content className="mt-1 grid gap-2">
        {page.questions.map((q) => (
          <Button key={q.word} kind="warn" onClick={() => spoiled.mutate([q.word])}>
            {q.ask}
          </Button>
        ))}
        <p className="text-base text-slate">Do not taste it to find out.</p>
        <Said error={spoiled.error} />
      </Collapsible.Content>
    </Collapsible.Root>
  );
}

function Process({ page, zone, now }: { page: JarPageView; zone: string; now: number }) {
  const { process } = page;
  return (
    <section>
      <h2>Process record</h2>
      {process && page.boiled_from ? (
        <dl className="mt-1 grid grid-cols-[auto_1fr] gap-x-4 text-lg">
          <dt className="text-slate">Boiled</dt>
          <dd className="font-bold">
            {process.minutes} min asked, {moment(page.boiled_from, now, zone)} to{" "}
            {timeOfDay(page.boiled_until, zone)}
            {page.boils_lost ? `, begun again ${count(page.boils_lost, "time")}` : ""}
          </dd>
          <dt className="text-slate">By</dt>
          <dd>
            {process.source}, {process.product.replaceAll("_", " ")} to {jarSize(process.jar_ml)},{" "}
            {plain(process.altitude_ft, 1)} ft, {EVIDENCE[process.evidence] ?? process.evidence}
          </dd>
          <dt className="text-slate">Filled</dt>
          <dd>
            at {temperature(process.fill_c)} or hotter, {room(process.headspace_mm)} of room
          </dd>
        </dl>
      ) : (
        <p className="mt-1 text-lg">Not processed: it keeps by cold alone.</p>
      )}
    </section>
  );
}

function Moments({ page, now, zone }: { page: JarPageView; now: number; zone: string }) {
  return (
    <section>
      <h2>What happened to it</h2>
      <ul className="mt-1 text-lg">
        {page.moments.map((m) => (
          <li key={m.at + m.kind}>
            <span className="text-slate">{moment(m.at, now, zone)}</span> {m.text}, {m.by}
          </li>
        ))}
      </ul>
    </section>
  );
}

function Siblings({ jars, code }: { jars: JarView[]; code: string }) {
  return (
    <section>
      <h2>The rest of {code}</h2>
      <ul className="mt-2 flex flex-wrap gap-2">
        {jars.map((jar) => (
          <li key={jar.id}>
            <Link
              to={`/shelf/${jar.id}`}
              className="flex min-h-11 items-center border-2 border-line bg-paper px-3 hover:bg-tag"
            >
              {jar.code.slice(-2)} · {jar.place || "not on a shelf"} ·{" "}
              {jar.best_by ? date(jar.best_by.typ) : "–"}
            </Link>
          </li>
        ))}
      </ul>
    </section>
  );
}
