import type { PlanView } from "@/api/types";
import { minutes } from "@/lib/format";
import { amount, done, kept, vessels } from "@/methods/words";

/** A recipe to read: what goes in, step by step, and what comes of it. */
export function Recipe({ plan }: { plan: PlanView }) {
  return (
    <>
      <section aria-label="To weigh out">
        <h2>What goes in</h2>
        <ul className="mt-1">
          {plan.inputs.map((i) => (
            <li key={i.key} className={ROW}>
              <span className="font-bold">{i.name}</span>
              <span>{amount(i)}</span>
              {i.joins && <span className="col-span-2">{i.joins}</span>}
            </li>
          ))}
        </ul>
      </section>
      <section aria-label="To do">
        <h2>Step by step</h2>
        <ol className="mt-1">
          {plan.operations.map((o) => (
            <li key={o.key} className={ROW}>
              <span className="font-bold">{o.title}</span>
              <span>{minutes(o.minutes.typ)}</span>
              <span className="col-span-2">{done(o)}</span>
            </li>
          ))}
        </ol>
      </section>
      <section aria-label="What comes of it">
        <h2>What comes of it</h2>
        <ul className="mt-1">
          {plan.ends.map((end) => (
            <li key={end.key} className={ROW}>
              <span className="font-bold">
                {end.label}
                {end.lid && `, ${end.lid} lids`}
              </span>
              <span>{vessels(end)}</span>
              <span className="col-span-2">{kept(end)}</span>
            </li>
          ))}
        </ul>
      </section>
    </>
  );
}

const ROW =
  "grid break-inside-avoid grid-cols-[1fr_auto] gap-x-4 border-slate/40 border-b py-1 leading-snug";
