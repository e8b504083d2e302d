import { useQuery } from "@tanstack/react-query";
import { Link } from "react-router";
import { useLive } from "@/api/changes";
import { api, body } from "@/api/client";
import { recallKnownQuery, recallQuery } from "@/api/queries";
import type { RecallBy, RecallView } from "@/api/types";
import { useAddress } from "@/lib/address";
import { count } from "@/lib/format";
import { Button } from "@/ui/button";
import { Choice } from "@/ui/choice";
import { Said, Waiting } from "@/ui/notice";
import { Pick } from "@/ui/pick";

const BY: { value: RecallBy; label: string }[] = [
  { value: "source", label: "where fruit came from" },
  { value: "packet", label: "packet of lids" },
  { value: "batch", label: "batch" },
  { value: "instrument", label: "instrument" },
];

/** From a tree, a packet of lids, a batch or an instrument to every jar, and who has it. */
export function Recall() {
  const [address, change] = useAddress();
  const by = (BY.find((b) => b.value === address.get("by")) ?? BY[0])?.value ?? "source";
  const what = address.get("what") ?? "";
  const known = useQuery(recallKnownQuery).data;
  const found = useQuery(recallQuery(by, what));
  if (!known) return <Waiting />;
  const items = known[by].map((value) => ({ value, label: value.replaceAll("_", " ") }));
  return (
    <div className="max-w-4xl">
      <h1 className="text-3xl">Recall</h1>
      <p className="mt-1 text-lg text-slate">every jar that something went into, and who has it</p>
      <div className="mt-4 grid gap-4 wide:grid-cols-2">
        <Choice
          label="By"
          value={by}
          onChange={(next) => change({ by: next, what: null })}
          options={BY}
        />
        {items.length > 0 ? (
          <Pick
            label="Which"
            value={what}
            items={items}
            onChange={(next) => change({ by, what: next })}
          />
        ) : (
          <p className="self-end text-lg text-slate">
            {by === "packet"
              ? "No packet was written down yet: say what is printed on it under Kitchen, at the jars."
              : "Nothing is written down yet."}
          </p>
        )}
      </div>
      {what && found.data && <Found by={by} what={what} view={found.data} />}
      <Said error={found.error} />
    </div>
  );
}

type FoundProps = { by: RecallBy; what: string; view: RecallView };

function Found({ by, what, view }: FoundProps) {
  const hold = useLive((_: null) => body(api.POST("/api/recall", { body: { by, what } })));
  const free = view.jars.filter((j) => j.here && !j.jar.held).length;
  return (
    <section className="mt-6" aria-label="What was found">
      <p className="text-2xl">
        <b>{count(view.here, "jar")} here</b>
        {view.gone > 0 ? `, ${view.gone} gone` : ""}
        {view.given.length > 0 && (
          <>
            ; tell <b className="text-hip">{view.given.join(", ")}</b>
          </>
        )}
      </p>
      {free > 0 && (
        <Button
          kind="warn"
          className="mt-3"
          disabled={hold.isPending}
          onClick={() => hold.mutate(null)}
        >
          Hold {free === 1 ? "it" : `all ${free}`} until looked at
        </Button>
      )}
      <Said error={hold.error} />
      <ul className="mt-4 grid gap-x-8 wide:grid-cols-2">
        {view.jars.map(({ jar, where, here }) => (
          <li key={jar.id} className="border-line border-b">
            <Link
              to={`/shelf/${jar.id}`}
              className="flex min-h-11 items-baseline justify-between gap-3 text-lg hover:bg-tag"
            >
              <span>
                <b>{jar.code}</b> {jar.label}
              </span>
              <span className={here ? "" : "text-slate"}>
                {jar.held ? "held, " : ""}
                {where}
              </span>
            </Link>
          </li>
        ))}
      </ul>
      {view.more > 0 && <p className="mt-2 text-lg text-slate">and {view.more} more</p>}
    </section>
  );
}
