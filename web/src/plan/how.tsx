import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { Collapsible } from "radix-ui";
import { Link } from "react-router";
import type { Refused } from "@/api/client";
import { methodsQuery } from "@/api/queries";
import type { KitchenView, PlanView } from "@/api/types";
import { count, holds, mass } from "@/lib/format";
import { needs } from "@/methods/words";
import type { Asked } from "@/plan/asked";
import { NumberField } from "@/ui/field";
import { Pick } from "@/ui/pick";
import { Tick } from "@/ui/tick";

type Props = {
  asked: Asked;
  change: (next: Partial<Asked>) => void;
  plan: PlanView | undefined;
  kitchen: KitchenView;
  refused: Refused | undefined;
};

/** How it is done: the method, its basket loads, and what only the cook can say. */
export function How({ asked, change, plan, kitchen, refused }: Props) {
  return (
    <section aria-label="How it is done" className="grid gap-2">
      <MethodPick asked={asked} change={change} plan={plan} error={refused?.at("/method_key")} />
      {((plan?.loads ?? 0) > 0 || asked.loads !== "") && (
        <div className="grid grid-cols-[4.5rem_1fr] items-end gap-3">
          <NumberField
            label="Loads"
            unit=""
            placeholder={plan ? String(plan.loads) : ""}
            value={asked.loads}
            onChange={(loads) => change({ loads })}
            error={refused?.at("/loads")}
          />
          <p className="pb-1 text-base text-slate leading-tight">
            {plan &&
              !refused &&
              `${count(plan.loads, "load")} of ${mass(1000 * plan.kg_per_load)} in a basket of ${holds(1000 * kitchen.basket_l)}`}
          </p>
        </div>
      )}
      <Sayings asked={asked} change={change} plan={plan} />
    </section>
  );
}

type Part = Omit<Props, "kitchen" | "refused">;

/** The ways that suit what goes in, the plainest first. */
function MethodPick({ asked, change, plan, error }: Part & { error: string | undefined }) {
  const main = plan?.inputs.find((i) => i.key === "fruit") ?? plan?.inputs[0];
  const methods =
    useQuery({
      ...methodsQuery(main?.material ?? "", main?.form || "whole"),
      enabled: main !== undefined,
      placeholderData: keepPreviousData, // a list that is open stays open while fruit changes
    }).data ?? [];
  if (methods.length === 0) return null;
  const chosen = asked.method || plan?.method.key || methods[0]?.key || "";
  const of = asked.lines[0]?.text ?? "";
  return (
    <div>
      <Pick
        label="How"
        value={chosen}
        items={methods.map((m) => ({
          value: m.key,
          label: m.name,
          ...(m.own ? { note: `own, v${m.version}` } : {}),
          ...(needs(m) ? { note: needs(m) } : {}),
        }))}
        onChange={(method) => change({ method, flow: [], without: [] })}
        error={error}
      />
      {chosen && (
        <Link
          to={`/methods/${chosen}?${new URLSearchParams(of ? { of } : {})}`}
          className="inline-flex min-h-9 items-center underline decoration-dotted underline-offset-4"
        >
          read it, or lay another beside it
        </Link>
      )}
    </div>
  );
}

/** What the rule book asks and no instrument tells. */
function Sayings({ asked, change, plan }: Part) {
  const said = new Set(asked.said);
  const toggle = (word: string) => {
    const next = new Set(said);
    if (!next.delete(word)) next.add(word);
    change({ said: [...next] });
  };
  return (
    <Collapsible.Root defaultOpen={said.size > 0}>
      <Collapsible.Trigger className="min-h-9 text-left text-lg underline decoration-dotted underline-offset-4">
        Anything of this so?
      </Collapsible.Trigger>
      <Collapsible.Content className="grid gap-1">
        {plan?.questions.map((q) => (
          <Tick
            key={q.word}
            label={q.ask}
            on={said.has(q.word) || q.said}
            onChange={() => toggle(q.word)}
          />
        ))}
      </Collapsible.Content>
    </Collapsible.Root>
  );
}
