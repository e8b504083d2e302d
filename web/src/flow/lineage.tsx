import { Link } from "react-router";
import type { LineageView } from "@/api/types";
import { type Label, RibbonThatFits } from "@/flow/ribbon";
import { count, date, litres, mass, plain } from "@/lib/format";

/** The flow as it went, from the crate: measured figures where there are some. */
export function Lineage({ batch }: { batch: LineageView }) {
  const filled = batch.jars > 0;
  const known = batch.lots.filter((l) => filled || l.volume_ml !== null);
  const measured = new Set(known.map((l) => l.key));
  const flow = {
    lots: batch.lots.map((l) => l.predicted),
    operations: batch.operations,
    labels: labelsOf(batch),
    measured,
    title: `${batch.title}, as it went`,
  };
  return (
    <>
      <p className="mt-1 text-lg">
        {batch.source || batch.inputs[0]?.name}
        {batch.picked_on ? `, picked ${date(batch.picked_on)}` : ""}, into{" "}
        <Link to={`/cook/${batch.id}`} className="underline underline-offset-4">
          batch {batch.code}
        </Link>{" "}
        by {batch.started_by}
      </p>
      <div className="mt-4 max-w-3xl">
        <RibbonThatFits {...flow} />
      </div>
      {batch.unexplained_kg > 0 && (
        <p className="text-base text-brass">
          {mass(1000 * batch.unexplained_kg)} went in that nobody measured coming out.
        </p>
      )}
    </>
  );
}

/** Measured figures on the lots where there are some. */
function labelsOf(batch: LineageView): Record<string, Label> {
  const hot = batch.lots.find((l) => l.key === "hot");
  const drawn = batch.lots.filter((l) => l.key.startsWith("juice"));
  const juice = drawn.reduce((sum, l) => sum + l.now_ml.typ, 0);
  const read = drawn.some((l) => l.volume_ml !== null);
  return {
    ...Object.fromEntries(
      batch.inputs.map((i) => [i.key, { big: mass(i.mass_g.typ), small: i.name.toLowerCase() }]),
    ),
    ...(drawn.length > 0 && {
      juice: { big: litres(juice), small: read ? "measured" : "expected" },
    }),
    ...(hot && {
      hot: {
        big: `${plain(hot.brix ?? hot.predicted.brix?.typ)} °Bx`,
        small: hot.predicted.ph ? `pH ${plain(hot.ph ?? hot.predicted.ph.typ)}` : undefined,
      },
    }),
    jars: { big: cameOf(batch), small: batch.code },
  };
}

/** What came of a batch in the end. */
export function cameOf({ became, jars }: Pick<LineageView, "became" | "jars">): string {
  if (became === "glasses") return "poured";
  return became === "nothing" ? "given up" : count(jars, "jar");
}
