import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { Link } from "react-router";
import { tablesQuery } from "@/api/queries";
import { type Looked, type Progress, sendTable } from "@/api/table";
import { useAddress } from "@/lib/address";
import { count } from "@/lib/format";
import { Button } from "@/ui/button";
import { Choice } from "@/ui/choice";
import { Said, Waiting } from "@/ui/notice";

const NAMES: Record<string, string> = {
  jars: "jars",
  "came-in": "what came in",
  batches: "batches",
  readings: "readings",
  servings: "drinks",
};
const WHERE: Record<string, string> = {
  jars: "/shelf",
  "came-in": "/plan",
  batches: "/notes",
  readings: "/notes",
  servings: "/shelf",
};

/** A table that comes in: chosen, looked through row by row, and taken in whole or not at all. */
export function Tables() {
  const [address, change] = useAddress();
  const tables = useQuery(tablesQuery).data;
  const what = tables?.find((t) => t.what === address.get("what")) ?? tables?.[0];
  if (!tables || !what) return <Waiting />;
  return (
    <div className="grid max-w-5xl gap-5">
      <div>
        <h1 className="text-3xl">Take a table in</h1>
        <p className="mt-1 text-lg">
          A spreadsheet saved as CSV. Every row is looked at first; then all of them are taken, or
          none.
        </p>
      </div>
      <Choice
        label="It holds"
        value={what.what}
        onChange={(next) => change({ what: next })}
        options={tables.map((t) => ({ value: t.what, label: NAMES[t.what] ?? t.what }))}
      />
      <p className="text-lg">
        Its first line names the columns:{" "}
        {what.columns.map((c, n) => (
          <span key={c.name}>
            {n > 0 ? ", " : ""}
            <span className={c.needed ? "font-bold" : ""}>
              {c.name}
              {c.unit ? ` [${c.unit}]` : ""}
            </span>
          </span>
        ))}
        . <span className="text-slate">Those in bold are needed, the others may be missing.</span>
      </p>
      <TakeIn key={what.what} what={what.what} />
    </div>
  );
}

function TakeIn({ what }: { what: string }) {
  const client = useQueryClient();
  const box = useRef<HTMLInputElement>(null);
  const [file, setFile] = useState<File | null>(null);
  const [far, setFar] = useState<Progress | null>(null);
  const send = useMutation({
    mutationFn: ({ held, keep }: { held: File; keep: boolean }) =>
      sendTable(what, held, keep, setFar),
    retry: false,
    onSettled: () => setFar(null),
    onSuccess: (found) => {
      if (found.written) void client.invalidateQueries();
    },
  });
  const found = send.data;
  return (
    <section aria-label="The file" className="grid gap-4">
      <input
        ref={box}
        type="file"
        accept=".csv,.tsv,.txt,text/csv"
        aria-label="A table as CSV"
        hidden
        onChange={(e) => {
          const chosen = e.target.files?.[0];
          e.target.value = "";
          if (!chosen) return;
          setFile(chosen);
          send.mutate({ held: chosen, keep: false });
        }}
      />
      <div className="flex flex-wrap items-center gap-4">
        <Button
          kind={found && !found.written ? "plain" : "go"}
          disabled={send.isPending}
          onClick={() => box.current?.click()}
        >
          {file ? "Another file" : "Choose the file"}
        </Button>
        {file && <span className="text-lg">{file.name}</span>}
      </div>
      {far && <Far far={far} />}
      <Said error={send.error} />
      {found?.written && (
        <p role="status" className="text-xl">
          <b>{count(found.new, "row")} taken in.</b>{" "}
          <Link to={WHERE[what] ?? "/"} className="underline underline-offset-4">
            See them
          </Link>
        </p>
      )}
      {found && !found.written && (
        <>
          <Found found={found} />
          {found.new > 0 && found.wrong.length === 0 && file && (
            <Button
              kind="go"
              size="large"
              className="justify-self-start"
              disabled={send.isPending}
              onClick={() => send.mutate({ held: file, keep: true })}
            >
              Take {count(found.new, "row")} in
            </Button>
          )}
        </>
      )}
    </section>
  );
}

/** How far it is. */
function Far({ far }: { far: Progress }) {
  return (
    <div className="max-w-xl">
      <progress
        className="block h-5 w-full border-2 border-line accent-elder"
        aria-label={`Rows ${far.doing}`}
        max={Math.max(1, far.of)}
        value={far.done}
      />
      <p className="text-lg">
        {far.done} of {far.of} {far.doing}
      </p>
    </div>
  );
}

/** What was found: how many are new, what is wrong and where, and how some were understood. */
function Found({ found }: { found: Looked }) {
  const wrong = found.wrong.length + found.more_wrong;
  return (
    <div className="grid gap-4">
      <p role="status" className="text-2xl">
        <b>{count(found.new, "new row")}</b>
        {found.there > 0 && `, ${found.there} here already`}
        {wrong > 0 && (
          <>
            , <b className="text-hip">{wrong} wrong</b>
          </>
        )}
      </p>
      {wrong > 0 && (
        <>
          <p className="text-lg">
            Nothing is taken in until these are put right in the file. Nothing of it was recorded.
          </p>
          <ul aria-label="What is wrong" className="border-hip border-l-6 bg-paper p-3 text-lg">
            {found.wrong.map((w) => (
              <li key={`${w.line} ${w.column} ${w.words}`}>
                Line {w.line}, <b>{w.column}</b>: {w.words}
              </li>
            ))}
            {found.more_wrong > 0 && <li>and {found.more_wrong} more</li>}
          </ul>
        </>
      )}
      {found.sample.length > 0 && <Sample found={found} />}
      {found.passed_over.length > 0 && (
        <p className="text-slate">Passed over: {found.passed_over.join(", ")}</p>
      )}
    </div>
  );
}

function Sample({ found }: { found: Looked }) {
  return (
    <div className="overflow-x-auto">
      <table className="w-full border-2 border-line bg-paper text-left text-base">
        <caption className="pb-1 text-left text-slate">The first of them</caption>
        <thead>
          <tr>
            {found.columns.map((name) => (
              <th key={name} className="border-line border-b-2 px-2 py-1">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {found.sample.map((row, n) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: two rows may hold the same
            <tr key={n}>
              {row.map((cell, column) => (
                <td key={found.columns[column]} className="border-line border-b px-2 py-1">
                  {cell}
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}
