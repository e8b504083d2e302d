import { useQuery } from "@tanstack/react-query";
import { useCallback, useState } from "react";
import { Link, useNavigate } from "react-router";
import { stackQuery } from "@/api/queries";
import type { ShelfPlace, StackPageView } from "@/api/types";
import { count } from "@/lib/format";
import { useKey } from "@/lib/use-key";
import { Enough } from "@/shelf/enough";
import { LifeLine } from "@/shelf/life-line";
import { type Sheet, Sheets } from "@/shelf/sheets";
import { useDo } from "@/shelf/use-do";
import { Warmth } from "@/shelf/warmth";
import { Said } from "@/ui/notice";

type Props = { id: number; places: ShelfPlace[]; now: number; onClose: () => void };

/** The stack in hand: what can be done with it, how it has kept, and whether it lasts. */
export function InHand({ id, places, now, onClose }: Props) {
  const page = useQuery(stackQuery(id)).data;
  return (
    <aside
      aria-label="In hand"
      className="fixed inset-x-0 bottom-0 z-30 max-h-[70dvh] overflow-y-auto border-line border-t-4 bg-paper p-4 pb-24 wide:sticky wide:top-4 wide:inset-auto wide:z-auto wide:max-h-none wide:border-0 wide:bg-transparent wide:p-0"
    >
      {page && <Held key={page.id} page={page} places={places} now={now} onClose={onClose} />}
    </aside>
  );
}

type HeldProps = Omit<Props, "id"> & { page: StackPageView };

function Held({ page, places, now, onClose }: HeldProps) {
  const first = page.first;
  const [many, setMany] = useState(1);
  const [sheet, setSheet] = useState<Sheet | null>(null);
  const navigate = useNavigate();
  const doing = useDo(([id]) => {
    setSheet(null);
    if (sheet === null && id !== undefined) void navigate(`/shelf/${id}`);
  });
  const open = useCallback(
    () => doing.mutate({ what: "opened", stack: page.id, count: 1 }),
    [doing.mutate, page.id],
  );
  const n = Math.min(many, page.count);
  const toLabels = useCallback(
    () => navigate(labelsOf(page.jars.slice(0, n))),
    [navigate, page.jars, n],
  );
  const may = (what: string) => page.may.includes(what);
  useKey("o", open, may("opened"));
  useKey(
    "m",
    useCallback(() => setSheet("carried"), []),
  );
  useKey(
    "g",
    useCallback(() => setSheet("given"), []),
  );
  useKey(
    "x",
    useCallback(() => setSheet("spoiled"), []),
  );
  useKey("l", toLabels);
  const rows: Row[] = [
    ...(first.held
      ? [{ name: "looked at: sound", press: () => setSheet("looked_sound"), keys: "s" }]
      : []),
    ...(may("opened") ? [{ name: "open one", press: open, keys: "o" }] : []),
    ...((may("opened") || may("poured")) && first.loose_g === null
      ? [
          {
            name: "drink it: a glass, a jug, guests",
            press: () => navigate(`/shelf/${first.id}/drink`),
            keys: "t",
          },
        ]
      : []),
    ...(may("given")
      ? [{ name: `give ${n > 1 ? n : "one"} away`, press: () => setSheet("given"), keys: "g" }]
      : []),
    { name: `carry ${n > 1 ? n : "it"} to …`, press: () => setSheet("carried"), keys: "m" },
    { name: `labels, ${Math.min(n, page.jars.length)}`, press: toLabels, keys: "l" },
    { name: "another name", press: () => setSheet("relabelled"), keys: "" },
    ...(may("used_up") ? [{ name: "used up", press: () => setSheet("used_up"), keys: "" }] : []),
  ];
  return (
    <>
      <div className="flex items-start justify-between gap-3">
        <h2 className="text-2xl">
          {page.label}
          {page.count > 1 && ` ×${page.count}`}
        </h2>
        <button
          type="button"
          onClick={onClose}
          className="min-h-11 shrink-0 text-slate underline underline-offset-4"
        >
          put back
        </button>
      </div>
      <p className="text-lg text-slate">
        {first.kind_name},{" "}
        {page.batches.map((b, i) => (
          <span key={b.id}>
            {i > 0 && ", "}
            <Link to={`/notes/${b.id}`} className="whitespace-nowrap underline underline-offset-4">
              {b.code}
            </Link>
          </span>
        ))}
      </p>
      {page.count > 1 && <HowMany many={n} of={page.count} onChange={setMany} />}
      <ul className="mt-2">
        {rows.map((row) => (
          <li key={row.name}>
            <Action {...row} />
          </li>
        ))}
        <li>
          <Action
            name="something is wrong with one"
            press={() => setSheet("spoiled")}
            keys="x"
            bad
          />
        </li>
      </ul>
      <Said error={sheet === null ? doing.error : null} />
      <p className="mt-2">
        <Link to={`/shelf/${first.id}`} className="text-lg underline underline-offset-4">
          {first.code}, which goes first
        </Link>
      </p>
      {page.enough.there > 0 && <Enough page={page} now={now} />}
      <section className="mt-4">
        <h3 className="text-xl">How it has kept</h3>
        <Warmth days={page.warmth} cost={first.best_by?.cost_days ?? 0} />
        <LifeLine jar={first} now={now} small />
      </section>
      <Sheets
        sheet={sheet}
        onClose={() => setSheet(null)}
        which={{ stack: page.id, count: n }}
        first={first}
        many={n}
        places={places}
        doing={doing}
      />
    </>
  );
}

/** Where labels of jars are laid out. */
export const labelsOf = (jars: number[]): string =>
  `/shelf/labels?${jars.map((id) => `jar=${id}`).join("&")}`;

type Row = { name: string; press: () => void; keys: string; bad?: boolean };

/** A thing to do, with its key at the end of the line. */
function Action({ name, press, keys, bad }: Row) {
  return (
    <button
      type="button"
      onClick={press}
      aria-keyshortcuts={keys || undefined}
      className={`flex min-h-11 w-full items-center justify-between border-line border-b py-1 text-left text-lg hover:bg-tag ${bad ? "text-hip" : ""}`}
    >
      {name}
      <b aria-hidden="true" className="hidden pl-3 wide:inline">
        {keys}
      </b>
    </button>
  );
}

type ManyProps = { many: number; of: number; onChange: (n: number) => void };

/** How many of a stack are meant. */
function HowMany({ many, of, onChange }: ManyProps) {
  const step = "min-h-11 min-w-11 border-2 border-line bg-paper font-bold text-xl";
  return (
    <fieldset className="mt-2 flex items-center gap-2">
      <legend className="sr-only">How many of them</legend>
      <button
        type="button"
        aria-label="one fewer"
        disabled={many <= 1}
        onClick={() => onChange(many - 1)}
        className={`${step} disabled:text-slate`}
      >
        −
      </button>
      <input
        aria-label="How many of them"
        inputMode="numeric"
        value={many}
        onChange={(e) => onChange(Math.max(1, Math.min(of, Number(e.target.value) || 1)))}
        className="min-h-11 w-16 border-2 border-line bg-paper text-center font-bold text-xl"
      />
      <button
        type="button"
        aria-label="one more"
        disabled={many >= of}
        onClick={() => onChange(many + 1)}
        className={`${step} disabled:text-slate`}
      >
        +
      </button>
      <button
        type="button"
        onClick={() => onChange(of)}
        className="min-h-11 px-2 underline underline-offset-4"
      >
        all {count(of, "jar").split(" ")[0]}
      </button>
    </fieldset>
  );
}
