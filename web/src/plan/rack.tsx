import type { KitchenView, PlanView } from "@/api/types";
import { count, jarsOf, litres } from "@/lib/format";
import { Glass } from "@/ui/glass";

const MOST_DRAWN = 40;

/** The rack of jars the batch will fill; ghosts are those to have ready besides. */
export function Rack({ plan, kitchen }: { plan: PlanView; kitchen: KitchenView }) {
  const { expected, generous } = plan;
  if (plan.keep === "shelf" && !plan.process) return <NotForTheShelf />;
  const named = expected.jars.map((j) => jarsOf(j.count, j.name)).join(", ") || "No full jar";
  const partName = kitchen.jar_kinds.find((k) => k.key === expected.part_kind)?.name;
  return (
    <section aria-label="Jars">
      <h2 className="text-3xl text-ink">{named}</h2>
      <p className="text-slate">{ready(plan)}</p>
      <Jars plan={plan} kitchen={kitchen} />
      {plan.keep === "shelf" && expected.loads > 0 && (
        <p className="mt-2">
          {count(expected.loads, "canner load")} of {kitchen.canner_jars} at most
        </p>
      )}
      {expected.part_kind && (
        <p className="text-slate">
          the last {partName} holds {litres(expected.part_ml)}: to the refrigerator
        </p>
      )}
      {generous.unplaced_ml > 1 && (
        <p className="font-bold text-brass">
          {litres(generous.unplaced_ml)} may find no jar in stock
        </p>
      )}
    </section>
  );
}

function NotForTheShelf() {
  return (
    <section aria-label="Jars">
      <h2 className="text-3xl text-ink">No jars</h2>
      <p className="text-slate">none may stand on a shelf: see below</p>
    </section>
  );
}

/** How many to wash and keep hot, so that nine times in ten there are enough. */
function ready(plan: PlanView): string {
  const total = plan.generous.count + (plan.generous.part_kind ? 1 : 0);
  const several = plan.generous.jars.length > 1;
  const words = several
    ? plan.generous.jars.map((j) => jarsOf(j.count, j.name)).join(", ")
    : String(total);
  return `have ${words} ready: nine times in ten, enough`;
}

function Jars({ plan, kitchen }: { plan: PlanView; kitchen: KitchenView }) {
  const shape = new Map(
    kitchen.jar_kinds.map((k) => [k.key, { radiusMm: k.radius_mm, heightMm: k.height_mm }]),
  );
  const full = plan.expected.jars.flatMap((j) =>
    Array.from({ length: j.count }, () => ({ kind: j.kind, level: 0.92, ghost: false })),
  );
  const part = plan.expected.part_kind
    ? [
        {
          kind: plan.expected.part_kind,
          level:
            plan.expected.part_ml /
            (kitchen.jar_kinds.find((k) => k.key === plan.expected.part_kind)?.nominal_ml ?? 473),
          ghost: false,
        },
      ]
    : [];
  const more = Math.max(0, plan.generous.count - plan.expected.count);
  const spare = plan.generous.jars.at(-1)?.kind ?? plan.expected.part_kind ?? "pint";
  const ghosts = Array.from({ length: more }, () => ({ kind: spare, level: 0, ghost: true }));
  const all = [...full, ...part, ...ghosts]
    .slice(0, MOST_DRAWN)
    .map((jar, i) => ({ ...jar, id: `${jar.kind}-${i}` }));
  const scale = all.length > 18 ? 0.34 : 0.44;
  return (
    <div className="mt-3 flex flex-wrap items-end gap-x-1 gap-y-1 border-wood border-b-6">
      {all.map((jar) => (
        <Glass
          key={jar.id}
          {...(shape.get(jar.kind) ?? { radiusMm: 38, heightMm: 115 })}
          scale={scale}
          level={jar.level}
          colour={plan.colour}
          ghost={jar.ghost}
        />
      ))}
    </div>
  );
}
