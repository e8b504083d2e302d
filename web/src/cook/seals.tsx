import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { kitchenQuery } from "@/api/queries";
import type { BatchView, JarView, StepView } from "@/api/types";
import { useZone } from "@/api/use-zone";
import type { Act } from "@/cook/act";
import { count, moment, temperature } from "@/lib/format";
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
  const finish = () =>
    act({ act: "finish", step: step.id, said: { place_id: Number(place || shelves[0]?.id) } });
  useKey("d", finish, left === 0 && !busy);
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
      <ul className="mt-4 grid gap-3 wide:grid-cols-2">
        {jars.map((jar) => (
          <li
            key={jar.id}
            className="grid grid-cols-[auto_1fr] items-center gap-3 border-2 border-line bg-paper p-2"
          >
            <Glass
              radiusMm={jar.radius_mm}
              heightMm={jar.height_mm}
              scale={0.42}
              level={0.92}
              colour={jar.colour}
              lid={jar.seal === "sealed" ? "var(--leaf)" : "var(--brass)"}
            />
            <div className="grid gap-1">
              <p className="font-bold text-lg leading-tight">{jar.code}</p>
              {jar.seal === "cooling" ? (
                <div className="grid grid-cols-2 gap-2">
                  <Button
                    kind="go"
                    size="small"
                    disabled={busy}
                    aria-label={`${jar.code} held`}
                    onClick={() => act({ act: "seal", step: step.id, jar: jar.id, held: true })}
                  >
                    Held
                  </Button>
                  <Button
                    kind="warn"
                    size="small"
                    disabled={busy}
                    aria-label={`${jar.code} failed`}
                    onClick={() => setFailed(jar)}
                  >
                    Failed
                  </Button>
                </div>
              ) : (
                <p className={jar.seal === "sealed" ? "font-bold text-leaf" : "text-brass"}>
                  {STATE[jar.seal]}
                </p>
              )}
            </div>
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
        <Button kind="go" size="large" keys="d" disabled={left > 0 || busy} onClick={finish}>
          {left > 0 ? `${count(left, "jar")} to look at` : "Done"}
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
