import { Link } from "react-router";
import type { BatchView } from "@/api/types";
import { RibbonThatFits } from "@/flow/ribbon";
import { count, date, litres, mass, plain } from "@/lib/format";

/** The flow as it went, from the crate: measured figures where there are some. */
export function Lineage({ batch }: { batch: BatchView }) {
  const hot = batch.lots.find((l) => l.key === "hot");
  const loads = batch.lots.filter((l) => l.key.startsWith("juice-"));
  const measured = new Set(loads.filter((l) => l.volume_ml !== null).map((l) => l.key));
  if (batch.jars.length > 0) measured.add("hot");
  const labels = {
    fruit: { big: mass(batch.fruit_kg * 1000), small: batch.fruit.toLowerCase() },
    steam: { big: "steam", small: mass(massOf(batch, "steam")) },
    juice: {
      big: litres(batch.juice_l.typ * 1000),
      small: measured.size ? "measured" : "expected",
    },
    hot: {
      big: `${plain(hot?.brix ?? hot?.predicted.brix?.typ)} °Bx`,
      small: hot?.predicted.ph ? `pH ${plain(hot.ph ?? hot.predicted.ph.typ)}` : undefined,
    },
    jars: { big: count(batch.jars.length, "jar"), small: batch.code },
    pomace: {
      big: mass(massOf(batch, "pomace")),
      small: "pomace",
    },
  };
  const flow = {
    lots: batch.lots.map((l) => l.predicted),
    operations: batch.operations,
    colour: batch.colour,
    labels,
    measured,
    title: `${batch.title}, as it went`,
  };
  return (
    <>
      <p className="mt-1 text-lg">
        {batch.source || batch.fruit}
        {batch.picked_on ? `, picked ${date(batch.picked_on)}` : ""}, into{" "}
        <Link to={`/cook/${batch.id}`} className="underline underline-offset-4">
          batch {batch.code}
        </Link>{" "}
        by {batch.started_by}
      </p>
      <div className="mt-2 max-w-3xl">
        <RibbonThatFits {...flow} />
      </div>
    </>
  );
}

/** Expected mass of all lots of a kind [g]. */
function massOf(batch: BatchView, kind: string): number {
  return batch.lots.reduce((sum, l) => sum + (l.kind === kind ? l.predicted.mass_g.typ : 0), 0);
}
