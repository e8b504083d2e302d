import { useState } from "react";
import type { EndView, KitchenView, PlanView } from "@/api/types";
import { Becomes } from "@/flow/becomes";
import { type Asked, type EndAsked, endOf, withEnd, withLine } from "@/plan/asked";
import { EndChoices } from "@/plan/end-choices";
import { InTheGlass } from "@/plan/in-the-glass";
import { Rack } from "@/plan/rack";
import { Cautions, EndVerdict } from "@/plan/verdict";
import { Again } from "@/ui/again";

type Props = {
  asked: Asked;
  change: (next: Partial<Asked>) => void;
  plan: PlanView;
  kitchen: KitchenView;
  /** What is wrong with something that was asked of an end. */
  wrong: (key: string, field: "jar_kinds" | "name") => string | undefined;
};

/** The ends of a flow, each with its jars, its verdict, and how it is thinned in the glass. */
export function Ends({ asked, change, plan, kitchen, wrong }: Props) {
  return (
    <div className="grid gap-4">
      {plan.ends.map((end) => (
        <End
          key={end.key}
          end={end}
          others={plan.ends.filter((e) => e.key !== end.key)}
          asked={asked}
          change={change}
          kitchen={kitchen}
          wrong={wrong}
        />
      ))}
      <Cautions plan={plan} />
    </div>
  );
}

type EndProps = Omit<Props, "plan"> & { end: EndView; others: EndView[] };

function End({ end, others, asked, change, kitchen, wrong }: EndProps) {
  const [open, setOpen] = useState(false);
  const several = others.length > 0;
  const set = (next: Partial<EndAsked>) => change({ ends: withEnd(asked, end.key, next) });
  const remedy = (what: string) => {
    const [key, value = ""] = what.split("=");
    if (key === "acid") change({ lines: withLine(asked, { text: `${value} g citric acid` }) });
    else if (key === "line") change({ lines: withLine(asked, { text: value }) });
    else if (key === "keep") set({ keep: value });
    else set({ jars: "", closure: "" });
  };
  const said = { jars: wrong(end.key, "jar_kinds"), name: wrong(end.key, "name") };
  const shown = !several || open || said.jars || said.name;
  return (
    <section
      aria-label={several ? end.label : "Jars"}
      className={several ? "border-slate/50 border-b pb-3" : ""}
    >
      {several && (
        <div className="flex items-baseline justify-between gap-2">
          <h2>{end.label}</h2>
          <button
            type="button"
            aria-expanded={open}
            onClick={() => setOpen(!open)}
            className="min-h-8 text-slate underline decoration-dotted underline-offset-4 print:hidden"
          >
            {open ? "less" : "change"}
          </button>
        </div>
      )}
      <Rack end={end} kitchen={kitchen} small={several} brief={!shown} />
      <EndVerdict end={end} onChange={remedy} brief={!shown} of={several ? end.label : ""} />
      <Becomes becomes={end.becomes} sets={end.sets} brief={!shown} />
      <InTheGlass end={end} />
      {shown && <Again again={end.again} colour={end.colour} />}
      {shown && (
        <EndChoices
          end={end}
          others={others}
          asked={endOf(asked, end.key)}
          set={set}
          kitchen={kitchen}
          wrong={said}
        />
      )}
    </section>
  );
}
