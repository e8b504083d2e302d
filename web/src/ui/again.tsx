import type { EndView } from "@/api/types";
import { holds, litres, mass, plain } from "@/lib/format";
import { Tumbler } from "@/ui/tumbler";

type Made = NonNullable<EndView["again"]>;

const SAID: Record<string, string> = {
  "as picked": "as it was picked",
  lighter: "lighter",
  stronger: "stronger",
};

/** What is dry, back again: water to a spoon of it, to a sachet, and what drying has saved. */
export function Again({ again: a, colour }: { again: Made | null; colour: string }) {
  if (!a) return null;
  const rows: [string, string][] = [
    [a.spoon_g > 0 ? "powder" : "dry", mass(a.dry_g)],
    ["stands for, as it was", mass(a.wet_g)],
    ["lighter by", `${plain(a.saved_pct, 1)} %`],
    ["takes", `${litres(1000 * a.pack_l)}, not ${litres(1000 * a.litres)}`],
    ...(a.spoon_g > 0
      ? ([["a spoon stands for", mass(a.spoon_fruit_g)]] as [string, string][])
      : []),
    ["water activity", plain(a.water_activity, 0.01)],
    ["water left in it", `${plain(a.moisture_pct, 1)} %`],
  ];
  const [first, ...others] = a.spoons;
  return (
    <section aria-label="Back again" className="mt-3">
      <dl className="text-lg">
        {rows.map(([name, figure]) => (
          <div key={name} className="flex justify-between gap-3 border-slate/40 border-b py-1">
            <dt>{name}</dt>
            <dd className="font-bold">{figure}</dd>
          </div>
        ))}
      </dl>
      <div className="mt-3 flex items-center gap-3">
        <Tumbler colour={colour} height={64} />
        <div>
          {a.portion ? (
            <p className="text-lg">
              <b>1 portion to {litres(a.portion.water_g)}</b>, {SAID["as picked"]}: there are{" "}
              {plain(a.portions, 1)} of {mass(a.portion.dry_g)}
            </p>
          ) : first ? (
            <>
              <p className="text-lg">
                <b>1 level spoon to {litres(first.water_ml)}</b>, {SAID[first.strength]}
              </p>
              <p className="text-slate">
                {others.map((o) => `${litres(o.water_ml)} ${SAID[o.strength]}`).join(", ")}
              </p>
            </>
          ) : (
            <p className="text-lg">
              <b>{mass(100 * a.water_g_per_g)} of water to 100 g</b>, overnight in the cold: as it
              was picked
            </p>
          )}
          {a.pours.map((p) => (
            <p key={p.ml}>
              {holds(p.ml)}: <b>{mass(p.dry_g)}</b> and {litres(p.water_g)} of water
            </p>
          ))}
          <p className="text-slate">
            a sachet for a litre: {mass(a.sachet_g)}; all of it: {litres(1000 * a.litres)}
          </p>
        </div>
      </div>
    </section>
  );
}
