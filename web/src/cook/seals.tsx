import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { kitchenQuery } from "@/api/queries";
import type { BatchView, JarView, StepView } from "@/api/types";
import { useZone } from "@/api/use-zone";
import type { Act } from "@/cook/act";
import { moment, temperature } from "@/lib/format";
import { useKey } from "@/lib/use-key";
import { useNow } from "@/lib/use-now";
import { Button } from "@/ui/button";
import { Dialog } from "@/ui/dialog";
import { Glass } from "@/ui/glass";
import { Pick } from "@/ui/pick";

type Props = { batch: BatchView; step: StepView; act: Act; busy: boolean };

const STATE: Record<string, string> = {
  sealed: "seal held",
  unsealed: "failed: to the cold",
  cooling: "",
  failed: "failed",
};

/** Jar by jar: it held, or it failed and goes one of three ways. */
export function Seals({ batch, step, act, busy }: Props) {
  const places = useQuery(kitchenQuery).data?.places ?? [];
  const shelves = places.filter((p) => p.kind === "cellar" || p.kind === "shelf");
  const [place, setPlace] = useState("");
  const [failed, setFailed] = useState<JarView | null>(null);
  const jars = batch.jars.filter((j) => step.jar_ids.includes(j.id));
  const again = batch.jars.filter((j) => j.seal === "cooling" && !step.jar_ids.includes(j.id));
  const left = jars.filter((j) => j.seal === "cooling").length;
  const finish = () => {
    const to = Number(place || shelves[0]?.id);
    act({ act: "finish", step: step.id, said: { place_id: to, others_held: true } });
  };
  useKey("d", finish, !busy);
  const zone = useZone();
  const now = useNow(20_000);
  if (step.opens_at && new Date(step.opens_at).getTime() > now)
    return (
      <p className="mt-4 border-2 border-line bg-paper p-4 text-xl">
        Seals are only sure once the jars have cooled: from {moment(step.opens_at, now, zone)}.
      </p>
    );
  const close = () => setFailed(null);
  return (
    <>
      <p className="mt-4 text-lg">
        Look at every jar. Press the ones that did not hold; the rest is one press.
      </p>
      <ul className="mt-3 grid grid-cols-[repeat(auto-fill,minmax(6.5rem,1fr))] gap-2">
        {jars.map((jar) => (
          <li key={jar.id} className="grid">
            <button
              type="button"
              aria-label={`${jar.code} failed`}
              disabled={busy || jar.seal !== "cooling"}
              onClick={() => setFailed(jar)}
              className="grid justify-items-center gap-1 border-2 border-line bg-paper p-2 hover:bg-tag disabled:border-dashed disabled:bg-transparent"
            >
              <Glass
                radiusMm={jar.radius_mm}
                heightMm={jar.height_mm}
                scale={0.34}
                level={0.92}
                colour={jar.colour}
                lid={jar.seal === "cooling" ? "var(--brass)" : "var(--slate)"}
              />
              <span className="font-bold text-lg leading-none tabular-nums">
                {jar.code.split("-").at(-1)}
              </span>
              {jar.seal !== "cooling" && (
                <span className="text-base text-hip leading-tight">{STATE[jar.seal]}</span>
              )}
            </button>
          </li>
        ))}
      </ul>
      {again.length > 0 && (
        <p className="mt-3 text-lg">
          To be processed again with a new lid, after this check:{" "}
          {again.map((j) => j.code).join(", ")}.
        </p>
      )}
      <div className="mt-5 grid items-end gap-3 wide:grid-cols-2">
        <Pick
          label="Sealed jars go to"
          value={place || String(shelves[0]?.id ?? "")}
          items={shelves.map((p) => ({
            value: String(p.id),
            label: p.name,
            note: temperature(p.temp_c),
          }))}
          onChange={setPlace}
        />
        <Button kind="go" size="large" keys="d" disabled={busy} onClick={finish}>
          {left === 0
            ? "Done"
            : left < jars.length
              ? `The other ${left} held`
              : left === 1
                ? "It held"
                : `All ${left} held`}
        </Button>
      </div>
      <Dialog
        open={failed !== null}
        onClose={close}
        title={`${failed?.code ?? ""}: the seal failed`}
        lead="A jar that bulges, leaks, spurts or smells wrong: do not taste it, throw it away."
      >
        <div className="grid gap-3">
          {(
            [
              ["reprocess", "Process it again", "within 24 h, with a new lid and the full time"],
              ["chill", "Into the refrigerator", "use it within days"],
              ["freeze", "Into the freezer", "pour it into something with room first"],
            ] as const
          ).map(([wayOn, name, note]) => (
            <Button
              key={wayOn}
              size="large"
              className="py-2 text-left"
              onClick={() =>
                failed &&
                act({ act: "seal", step: step.id, jar: failed.id, held: false, wayOn }, close)
              }
            >
              {name}
              <span className="block font-normal font-text text-base text-slate">{note}</span>
            </Button>
          ))}
        </div>
      </Dialog>
    </>
  );
}
