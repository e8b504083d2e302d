import { useState } from "react";
import type { Refused } from "@/api/client";
import type { KitchenView, PlanView } from "@/api/types";
import { plain } from "@/lib/format";
import { measureOf, shown, typed } from "@/lib/units";
import type { Asked } from "@/plan/asked";
import { Choice } from "@/ui/choice";
import { NumberField, parse } from "@/ui/field";
import { Said } from "@/ui/notice";
import { Pick } from "@/ui/pick";

type Props = {
  asked: Asked;
  change: (next: Partial<Asked>) => void;
  plan: PlanView | undefined;
  kitchen: KitchenView;
  refused: Refused | undefined;
};

const BY = [
  { value: "said", label: "as said" },
  { value: "jars", label: "jars" },
  { value: "litres", label: "so much" },
  { value: "all", label: "all" },
] as const;

/** As much as: what goes in gives, so many jars or litres, or all that came in. */
export function AsMuchAs({ asked, change, plan, kitchen, refused }: Props) {
  const [by = "said", amount = "", jar = ""] = asked.goal ? asked.goal.split(" ") : [];
  const measure = measureOf("litres");
  const [text, setText] = useState(
    by === "litres" && amount ? plain(shown(Number(amount), measure)) : amount,
  );
  const end = plan?.ends[0];
  const kinds = kitchen.jar_kinds;
  const usual = jar || end?.jar_kinds[0] || "pint";
  const set = (next: { by?: string; amount?: string; jar?: string }) => {
    const goal = { by, amount: text, jar: usual, ...next };
    setText(goal.amount);
    const wanted = parse(goal.amount);
    if (goal.by === "said") change({ goal: "" });
    else if (goal.by === "all") change({ goal: "all" });
    else if (goal.by === "jars") change({ goal: `jars ${goal.amount || "12"} ${goal.jar}` });
    else if (wanted) change({ goal: `litres ${typed(wanted, measure)}` });
  };
  const start = (next: string) =>
    set({ by: next, amount: next === "jars" ? String(end?.expected.count || 12) : "5" });
  return (
    <section aria-label="How much of it" className="grid gap-2">
      <Choice label="As much as" value={by} options={[...BY]} onChange={start} />
      {(by === "jars" || by === "litres") && (
        <div
          className={`grid gap-2 ${by === "jars" ? "grid-cols-[5rem_1fr]" : "grid-cols-[7rem]"}`}
        >
          <NumberField
            label={by === "jars" ? "How many" : "How much"}
            unit={by === "jars" ? "" : measure.unit}
            value={text}
            onChange={(amount) => set({ amount })}
          />
          {by === "jars" && (
            <Pick
              label="Of"
              value={usual}
              items={kinds.map((k) => ({
                value: k.key,
                label: k.name,
                note: `${Math.min(k.jars, k.lids)} ready`,
              }))}
              onChange={(jar) => set({ jar })}
            />
          )}
        </div>
      )}
      {refused?.at("/all_there_is") && <Said error={refused} />}
    </section>
  );
}
