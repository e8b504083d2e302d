import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useParams } from "react-router";
import { Refused } from "@/api/client";
import { jarQuery, shelfQuery } from "@/api/queries";
import type { Estimate, JarPageView, JarView } from "@/api/types";
import { useZone } from "@/api/use-zone";
import { Lineage } from "@/flow/lineage";
import {
  altitudeOfFeet,
  count,
  date,
  jarSize,
  litres,
  mass,
  moment,
  plain,
  room,
  temperature,
  timeOfDay,
} from "@/lib/format";
import { useNow } from "@/lib/use-now";
import { SaidAmount, UNSAID, useSaid } from "@/lines/said-amount";
import { labelsOf } from "@/shelf/in-hand";
import { levelOf, lidOf } from "@/shelf/lid";
import { LifeLine } from "@/shelf/life-line";
import { type Sheet, Sheets } from "@/shelf/sheets";
import { useDo } from "@/shelf/use-do";
import { Warmth } from "@/shelf/warmth";
import { Again } from "@/ui/again";
import { Button } from "@/ui/button";
import { Container } from "@/ui/container";
import { Grams } from "@/ui/grams";
import { Empty, Said, Waiting } from "@/ui/notice";
import { FindingRow } from "@/ui/verdict";

const EVIDENCE: Record<string, string> = {
  table: "government table",
  practice: "extension practice",
  own: "this household's own tested source",
};

/** Where a jar is that stands on no place any more. */
const WHERE: Record<string, string> = {
  finished: "used up",
  given: "given away",
  went_in: "in another batch",
  thrown: "thrown away",
  never: "never filled",
};

const SEAL: Record<string, string> = {
  cooling: "cooling, seal not checked yet",
  sealed: "sealed",
  failed: "seal failed",
  unsealed: "not sealed: keep it cold",
  capped: "closed; its sugar keeps it",
  dry: "closed, dry",
  unknown: "closed before anybody here looked",
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
        {page.jar.note && (
          <p className="border-brass border-l-6 pl-3 font-bold text-lg">{page.jar.note}</p>
        )}
        <Stops page={page} />
        <Acts page={page} />
        <Again again={page.again} colour={page.jar.colour} />
        {page.thaws_h !== null && <Thaws hours={page.thaws_h} />}
        <Poured page={page} />
        <Moments page={page} now={now} zone={zone} />
      </div>
      <div className="grid min-w-0 content-start gap-6">
        <section>
          <h2>At its best</h2>
          <LifeLine jar={page.jar} now={now} />
          <Warmth days={page.warmth} cost={page.jar.best_by?.cost_days ?? 0} />
        </section>
        <Process page={page} zone={zone} now={now} />
        <section>
          <h2>Where it comes from</h2>
          {page.batch ? (
            <Lineage batch={page.batch} />
          ) : (
            <p className="mt-1 text-lg">
              It was there already: nobody here has seen how it was made.
              {page.said && <span className="block text-slate">written in as “{page.said}”</span>}
            </p>
          )}
        </section>
        {page.batch && page.siblings.length > 0 && (
          <Siblings jars={page.siblings} code={page.batch.code} />
        )}
      </div>
    </div>
  );
}

/** How what is frozen comes out of the freezer again. */
function Thaws({ hours }: { hours: Estimate }) {
  return (
    <section aria-label="Thawing" className="text-lg">
      <h2>Out of the freezer</h2>
      <p className="mt-1">
        <b>
          {plain(hours.lo, 1)} to {plain(hours.hi, 1)} h
        </b>{" "}
        in the refrigerator, in a dish that holds what runs out. Clear above and cloudy below is
        usual: stir it.
      </p>
      <p className="mt-1 text-slate">
        Use it once it has thawed. What was thawed raw does not go back; cooked first, it may.
      </p>
    </section>
  );
}

/** How a jar is closed; of an open one what keeps it. */
function closing(jar: JarView): string {
  if (jar.part_filled) return "part-filled, not processed";
  const said = SEAL[jar.dried ? "dry" : jar.seal] ?? "";
  return jar.opened_at ? said.replace(/^closed[,;] /, "") : said;
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
        level={levelOf(jar)}
        colour={jar.colour}
        lid={lidOf(jar)}
      />
      <div className="min-w-0 flex-1 border-2 border-line bg-paper p-3">
        <h1 className="text-2xl">{jar.label}</h1>
        <p className="mt-1 font-bold text-xl">{jar.code}</p>
        <p className="text-lg">
          {jar.loose_g === null ? litres(jar.fill_ml) : mass(jar.loose_g)} in a {jar.kind_name}
          {jar.closure === "cap" ? " under a plain cap" : ""}
        </p>
        <p className="text-lg">filled {jar.filled_words || moment(jar.filled_at, now, zone)}</p>
        <p className="text-lg">{closing(jar)}</p>
        <p className="text-lg text-slate">
          {jar.place || WHERE[jar.lives ?? ""] || "not on a shelf yet"}
          {jar.opened_at && jar.place ? `, open since ${moment(jar.opened_at, now, zone)}` : ""}
        </p>
      </div>
    </section>
  );
}

/** What can be done with this jar now, and the sheet of what is asked more of. */
function Acts({ page }: { page: JarPageView }) {
  const { jar, may } = page;
  const [sheet, setSheet] = useState<Sheet | null>(null);
  const places =
    useQuery({ ...shelfQuery("", 1), enabled: sheet === "carried" }).data?.places ?? [];
  const doing = useDo(() => setSheet(null));
  const can = (what: string) => may.includes(what);
  const send = (what: string, said = {}) => doing.mutate({ what, jars: [jar.id], ...said });
  return (
    <section aria-label="What to do with it" className="grid gap-2">
      {jar.held && (
        <p className="border-hip border-l-6 pl-3 text-lg">
          <b>Held:</b> another jar of its batch spoiled, or it was recalled. Look at this one: lid
          firm and flat, no leak, no bubbles, clear as it was.
        </p>
      )}
      <div className="flex flex-wrap gap-2">
        {jar.held && (
          <Button kind="go" onClick={() => send("looked_sound")}>
            It is sound
          </Button>
        )}
        {can("opened") && (
          <Button kind="go" disabled={doing.isPending} onClick={() => send("opened")}>
            Open it
          </Button>
        )}
        {(can("poured") || can("opened")) && jar.loose_g === null && (
          <Link to={`/shelf/${jar.id}/drink`} className={LINK}>
            A drink of it
          </Link>
        )}
        {can("went_in") && page.as_lines.length > 0 && (
          <Link to={intoBatch(page)} className={LINK}>
            Into another batch
          </Link>
        )}
        {can("used_up") && <Button onClick={() => send("used_up")}>It is used up</Button>}
        {can("given") && <Button onClick={() => setSheet("given")}>Give it away</Button>}
        {can("carried") && <Button onClick={() => setSheet("carried")}>Carry it to …</Button>}
        {can("relabelled") && <Button onClick={() => setSheet("relabelled")}>Another name</Button>}
        {!jar.place ? null : (
          <Link to={labelsOf([jar.id])} className={LINK}>
            Its label
          </Link>
        )}
      </div>
      {jar.lives === "opened" && <Pour jar={jar} onPour={(ml) => send("poured", { ml })} />}
      {can("tasted") && (
        <Tasted onSay={(verdict) => send("tasted", { verdict })} busy={doing.isPending} />
      )}
      {can("spoiled") && (
        <Button
          kind="quiet"
          className="justify-self-start text-hip"
          onClick={() => setSheet("spoiled")}
        >
          Does it look or smell wrong?
        </Button>
      )}
      {can("miscounted") && (
        <Button kind="quiet" className="justify-self-start" onClick={() => send("miscounted")}>
          Never filled: miscounted
        </Button>
      )}
      <Said error={sheet === null ? doing.error : null} />
      <Sheets
        sheet={sheet}
        onClose={() => setSheet(null)}
        which={{ jars: [jar.id] }}
        first={jar}
        many={1}
        places={places}
        doing={doing}
      />
    </section>
  );
}

/** A plan that begins with what is in a jar; the jar leaves its shelf when the batch begins. */
function intoBatch({ jar, as_lines }: JarPageView): string {
  const lines = as_lines.map((text, n) => ({ id: n + 1, text, source: `jar ${jar.code}` }));
  return `/plan?plan=${encodeURIComponent(JSON.stringify({ lines, jars: [jar.id] }))}`;
}

const LINK =
  "flex min-h-13 items-center border-2 border-line bg-paper px-4 font-bold font-display text-lg";

/** Some of an open jar, by the part that is left or as one says it. */
function Pour({ jar, onPour }: { jar: JarView; onPour: (ml: number) => void }) {
  return jar.loose_g === null ? (
    <PourOut jar={jar} onPour={onPour} />
  ) : (
    <Take jar={jar} onPour={onPour} />
  );
}

/** Some of what lies loose, by weight. */
function Take({ jar, onPour }: { jar: JarView; onPour: (ml: number) => void }) {
  const each = (jar.left_ml ?? 0) / Math.max(jar.loose_g ?? 0, 1e-6);
  return (
    <Grams
      label={`Taken, of ${mass(jar.loose_g)} left`}
      press="Taken"
      onGrams={(grams) => onPour(grams * each)}
    />
  );
}

function PourOut({ jar, onPour }: { jar: JarView; onPour: (ml: number) => void }) {
  const [said, setSaid] = useState(UNSAID);
  const ml = useSaid(said, "volume_ml", "little_ml");
  return (
    <form
      className="flex items-end gap-2"
      onSubmit={(e) => {
        e.preventDefault();
        if (ml !== null) onPour(ml);
      }}
    >
      <SaidAmount
        label={`Poured, of ${litres(jar.left_ml)} left`}
        quantity="volume_ml"
        unitOf="little_ml"
        said={said}
        onChange={setSaid}
      />
      <Button type="submit" disabled={ml === null}>
        Poured
      </Button>
    </form>
  );
}

/** How it tasted: that shifts how long this household expects its kind to keep. */
function Tasted({ onSay, busy }: { onSay: (verdict: string) => void; busy: boolean }) {
  return (
    <div>
      <p className="text-base text-slate">Tasted: it is</p>
      <div className="flex gap-2">
        {(["good", "fading", "gone"] as const).map((v) => (
          <Button key={v} size="small" disabled={busy} onClick={() => onSay(v)}>
            {v === "good" ? "still good" : v}
          </Button>
        ))}
      </div>
    </div>
  );
}

/** Stops that stand on it. */
function Stops({ page }: { page: JarPageView }) {
  if (page.findings.length === 0) return null;
  return (
    <ul className="grid gap-3 border-2 border-hip p-3">
      {page.findings.map((f) => (
        <FindingRow key={f.id} finding={f} />
      ))}
    </ul>
  );
}

/** Drinks that were poured of it. */
function Poured({ page }: { page: JarPageView }) {
  if (page.servings.length === 0) return null;
  return (
    <section>
      <h2>Drinks of it</h2>
      <ul className="mt-1 text-lg">
        {page.servings.map((s) => (
          <li key={s.at}>
            {s.name}, {litres(s.base_ml)}, {s.by}
          </li>
        ))}
      </ul>
    </section>
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
            {altitudeOfFeet(process.altitude_ft)}, {EVIDENCE[process.evidence] ?? process.evidence}
          </dd>
          <dt className="text-slate">Filled</dt>
          <dd>
            at {temperature(process.fill_c)} or hotter, {room(process.headspace_mm)} of room
          </dd>
        </dl>
      ) : (
        <p className="mt-1 text-lg">
          {page.batch
            ? `Not processed: it keeps by ${page.jar.dried ? "being dry" : "cold alone"}.`
            : "None: whoever made it may know."}
        </p>
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
