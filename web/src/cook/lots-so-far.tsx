import type { BatchView, Estimate, LotView } from "@/api/types";
import { Becomes } from "@/flow/becomes";
import { jarsOf, litres, litresRange, plain, range, spoken } from "@/lib/format";
import { measureOf, shown } from "@/lib/units";

/** Predicted and measured side by side, lot by lot. */
export function LotsSoFar({ batch }: { batch: BatchView }) {
  const read = new Set(
    batch.steps.flatMap((s) => (s.asks.length > 0 || s.readings.length > 0 ? s.gives : [])),
  );
  const drawn = batch.inputs.some((i) => i.form !== "" && i.form !== "as_sold");
  const lots = batch.lots.filter(
    (l) => l.kind === "juice" && (read.has(l.key) || l.volume_ml !== null || l.brix !== null),
  );
  const canned = batch.ends.some((e) => e.keep === "shelf");
  const lids = canned && batch.jars_ready.some((j) => !j.own);
  const poured = batch.ends.every((e) => e.keep === "now");
  const dry = batch.ends.filter((e) => e.dry_g !== null);
  return (
    <section aria-label="Juice so far" className="border-leaf border-t-6 pt-3">
      <h2>{dry.length > 0 ? "What it comes to" : drawn ? "Juice" : "In the pot"}</h2>
      {dry.map((end) => (
        <p key={end.key} className="mt-1">
          <span className="font-bold text-xl">{spoken(end.dry_g as Estimate, "little_g")}</span>{" "}
          <span className="text-slate">of {end.product} to pack</span>
        </p>
      ))}
      {dry.length === 0 && (
        <p className="mt-1">
          {drawn && (
            <>
              <Drawn batch={batch} />,{" "}
            </>
          )}
          <span className="text-slate">
            {litresRange(batch.juice_l)} {poured ? "to pour" : "for the jars"}
          </span>
        </p>
      )}
      <ul>
        {lots.map((lot) => (
          <Lot key={lot.id} lot={lot} />
        ))}
      </ul>
      {batch.ends.map((end) => (
        <Becomes key={end.key} becomes={end.becomes} sets={end.sets} />
      ))}
      {batch.jars_ready.length > 0 && batch.jars.length === 0 && (
        <p className="mt-3 border-2 border-line bg-paper p-2">
          Have ready: <b>{batch.jars_ready.map((j) => jarsOf(j.count + 1, j.name)).join(", ")}</b>
          {lids ? " with new lids" : ""}
        </p>
      )}
    </section>
  );
}

/** How much was drawn, where anybody has measured it. */
function Drawn({ batch }: { batch: BatchView }) {
  if (batch.juice_measured_l > 0)
    return (
      <>
        <span className="font-bold text-xl">{litres(batch.juice_measured_l * 1000)}</span> drawn
      </>
    );
  return <>{batch.finished ? "nobody measured what was drawn" : "nothing drawn yet"}</>;
}

function Lot({ lot }: { lot: LotView }) {
  const p = lot.predicted;
  const volume = measureOf("volume_ml");
  const rows = [
    {
      name: "litres",
      unit: volume.unit,
      measured: lot.volume_ml === null ? null : shown(lot.volume_ml, volume),
      expected: range(p.volume_ml, 1 / volume.factor),
      step: 0.1,
      words: lot.agreement.volume_ml,
    },
    {
      name: "sweetness",
      unit: "°Bx",
      measured: lot.brix,
      expected: range(p.brix),
      step: 0.1,
      words: lot.agreement.brix,
    },
    {
      name: "acidity",
      unit: "pH",
      measured: lot.ph,
      expected: range(p.ph, 1, 0.1),
      step: 0.01,
      words: lot.agreement.ph,
    },
  ];
  return (
    <li className="mt-3 border-slate/40 border-t pt-2">
      <h3 className="font-text text-lg">{lot.name}</h3>
      <table className="w-full leading-snug">
        <thead>
          <tr className="text-slate">
            <th scope="col" className="text-left font-normal">
              expected
            </th>
            <th scope="col" className="text-right font-normal">
              read
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map((r) => (
            <tr key={r.name} className="align-baseline">
              <td className="whitespace-nowrap">
                {r.expected} {r.unit}
              </td>
              <td className="pl-2 text-right">
                {r.measured === null ? (
                  <span className="text-slate">–</span>
                ) : (
                  <>
                    <span className="font-bold text-lg">{plain(r.measured, r.step)}</span>
                    <span className={`block ${r.words === "agrees" ? "text-leaf" : "text-brass"}`}>
                      {r.words}
                    </span>
                  </>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
    </li>
  );
}
