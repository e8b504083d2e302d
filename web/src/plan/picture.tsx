import type { PlanView } from "@/api/types";
import { type Label, RibbonThatFits } from "@/flow/ribbon";
import { count, litres, mass, plain, range } from "@/lib/format";
import { Gauge } from "@/ui/gauge";

/** The ribbon of a plan with its gauges: what the juice will be, in ranges. */
export function Picture({ plan }: { plan: PlanView }) {
  const labels = labelsOf(plan);
  const title = `${plan.title}: ${range(plan.juice_l)} litres of juice into ${count(plan.expected.count, "jar")}`;
  const whole = plan.lots.find((l) => l.key === "fruit");
  const maxPh = plan.process?.max_ph ?? undefined;
  return (
    <>
      <RibbonThatFits
        lots={plan.lots}
        operations={plan.operations}
        colour={plan.colour}
        labels={labels}
        title={title}
      />
      <div className="mt-4 grid grid-cols-2 gap-4 wide:grid-cols-4">
        <div>
          <h3 className="text-lg">Juice</h3>
          <p>
            <span className="font-bold text-lg">{plain(plan.juice_l.typ)}</span>{" "}
            <span className="text-slate">litres</span>
          </p>
          <p className="text-base text-slate leading-tight">
            {range(plan.juice_l)} · {yieldWords(plan)}
          </p>
        </div>
        <div>
          <h3 className="text-lg">Fruit</h3>
          <Gauge name="sweetness of the fruit" unit="°Bx" predicted={whole?.brix} scale={[0, 26]} />
        </div>
        <div>
          <h3 className="text-lg">Sweetness</h3>
          <Gauge name="sweetness of the juice" unit="°Bx" predicted={plan.brix} scale={[0, 26]} />
        </div>
        <div>
          <h3 className="text-lg">Acidity</h3>
          <Gauge
            name="acidity of the juice"
            unit="pH"
            predicted={plan.ph}
            scale={[2.4, 5]}
            limit={maxPh}
          />
        </div>
      </div>
    </>
  );
}

function yieldWords(plan: PlanView): string {
  const { batches } = plan.fruit_yield;
  return batches ? `learned from ${count(batches, "batch", "batches")}` : "typical";
}

function labelsOf(plan: PlanView): Record<string, Label> {
  const steam = plan.lots
    .filter((l) => l.kind === "steam")
    .reduce((sum, l) => sum + l.mass_g.typ, 0);
  const pomace = plan.lots
    .filter((l) => l.kind === "pomace")
    .reduce((sum, l) => sum + l.mass_g.typ, 0);
  const part = plan.expected.part_kind ? `and ${litres(plan.expected.part_ml)} over` : undefined;
  return {
    fruit: { big: mass(plan.fruit_kg * 1000), small: plan.title.split(" juice")[0]?.toLowerCase() },
    added: {
      big: "acid",
      small: `${plain(Number(plan.lots.find((l) => l.key === "added")?.mass_g.typ), 1)} g`,
    },
    steam: { big: "steam", small: mass(steam) },
    juice: { big: `${plain(plan.juice_l.typ)} l`, small: range(plan.juice_l) },
    hot: { big: `${plain(plan.brix?.typ)} °Bx`, small: `pH ${plain(plan.ph?.typ, 0.1)}` },
    jars: plan.expected.count
      ? { big: count(plan.expected.count, "jar"), small: part }
      : { big: "no jars" },
    pomace: { big: mass(pomace), small: "pomace" },
  };
}
