import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { costsQuery, followingQuery } from "@/api/queries";
import type { Difference, FlowOperation, PlanCreate, PlanView, StepChoices } from "@/api/types";
import { minutes, plain } from "@/lib/format";
import type { Asked, Asking } from "@/plan/asked";
import { Desk } from "@/plan/desk";
import { flowSent, useFlow } from "@/plan/edit-flow";
import { Button } from "@/ui/button";
import { NumberField, parse } from "@/ui/field";
import { Said } from "@/ui/notice";

type Props = Asking & {
  plan: PlanView;
  step: StepChoices | undefined;
  onClose: () => void;
};

/** A step of the flow: how it is done, what each way costs, and its place in the flow. */
export function StepPanel({ asked, change, plan, sent, step, onClose }: Props) {
  const flow = useFlow(asked, plan, change);
  if (!step) return null;
  const before = plan.operations.find((o) => o.step === step.key);
  return (
    <Desk onClose={onClose} title={before?.title ?? step.title} lead={lead(before)}>
      <div className="grid gap-4 wide:grid-cols-2 wide:gap-x-6">
        <Ways plan={plan} sent={sent} step={step} flow={flow} />
        {step.numbers.map((n) => (
          <Figure
            key={`${n.key}-${n.value}`}
            number={n}
            onChange={(value) =>
              flow.make({ act: "choose", step: step.key, params: { [n.key]: value } })
            }
          />
        ))}
        <div className="wide:col-span-2">
          <Said error={flow.error} />
        </div>
        {step.editable && (
          <Instead asked={asked} plan={plan} step={step} flow={flow} onDone={onClose} />
        )}
        {step.editable && (
          <div className="grid grid-cols-3 gap-3 border-slate/40 border-t pt-3 wide:col-span-2">
            <Button size="small" onClick={() => flow.make({ act: "earlier", step: step.key })}>
              Earlier
            </Button>
            <Button size="small" onClick={() => flow.make({ act: "later", step: step.key })}>
              Later
            </Button>
            <Button
              size="small"
              kind="warn"
              onClick={() => flow.make({ act: "remove", step: step.key }, onClose)}
            >
              Take it out
            </Button>
          </div>
        )}
      </div>
    </Desk>
  );
}

/** Where it stands, how much of a person and of an hour it takes, and what to look for. */
function lead(operation: FlowOperation | undefined): string {
  if (!operation) return "";
  const { lo, hi } = operation.minutes;
  const long = hi - lo < 2 ? minutes(hi) : `${minutes(lo)} to ${minutes(hi)}`;
  const where = (operation.station ?? "").replace("_", " ");
  return `${where.charAt(0).toUpperCase()}${where.slice(1)}, ${operation.hands}, ${long}. Look for ${operation.look_for}. ${operation.learned}`.trim();
}

type WaysProps = {
  plan: PlanView;
  sent: PlanCreate;
  step: StepChoices;
  flow: ReturnType<typeof useFlow>;
};

type InsteadProps = Omit<WaysProps, "sent"> & { asked: Asked; onDone: () => void };

/** What could be done instead of it: one press puts the other way, with all it needs, in its place. */
function Instead({ asked, plan, step, flow, onDone }: InsteadProps) {
  const sent = { ...flowSent(asked, plan), step: step.key };
  const instead = useQuery(followingQuery(sent)).data?.instead ?? [];
  if (instead.length === 0) return null;
  return (
    <section aria-label="Instead of it" className="border-slate/40 border-t pt-3 wide:col-span-2">
      <h3 className="text-elder text-xl">Instead of it</h3>
      <div className="mt-2 flex flex-wrap gap-2">
        {instead.map((other) => (
          <Button
            key={other.kind}
            size="small"
            disabled={flow.busy}
            onClick={() => flow.make({ act: "swap", step: step.key, kind: other.kind }, onDone)}
          >
            {other.verb}
          </Button>
        ))}
      </div>
    </section>
  );
}

/** Every choice with its options, each saying what it would make of the whole batch. */
function Ways({ plan, sent, step, flow }: WaysProps) {
  const costs = useQuery({
    ...costsQuery({ ...sent, method_key: plan.method.key }, step.key),
    enabled: step.choices.length > 0,
  }).data;
  return step.choices.map((choice) => {
    const now = costs?.find((d) => d.choice === choice.key && d.chosen);
    return (
      <fieldset key={choice.key}>
        <legend className="font-bold">{choice.label}</legend>
        <div className="mt-1 grid gap-1">
          {choice.options.map((o) => {
            const other = costs?.find((d) => d.choice === choice.key && d.value === o.value);
            const on = o.value === choice.value;
            return (
              <button
                key={o.value}
                type="button"
                aria-pressed={on}
                disabled={flow.busy}
                onClick={() =>
                  flow.make({ act: "choose", step: step.key, params: { [choice.key]: o.value } })
                }
                className={`min-h-11 border-2 px-3 py-1 text-left leading-tight ${on ? "border-elder bg-tag" : "border-line bg-paper"}`}
              >
                <span className="flex flex-wrap items-baseline justify-between gap-x-3">
                  <span className="font-bold">
                    {on ? "✓ " : ""}
                    {o.label}
                  </span>
                  <span className="text-base">{on ? "as planned" : against(now, other)}</span>
                </span>
                <span className={`block text-base ${on ? "" : "text-slate"}`}>{o.note}</span>
              </button>
            );
          })}
        </div>
      </fieldset>
    );
  });
}

/** What another way costs and buys, beside how it is planned. */
function against(now: Difference | undefined, other: Difference | undefined): string {
  if (!now || !other) return "";
  const words = [
    signed(other.juice_l - now.juice_l, "l", 0.1),
    signed(other.brix - now.brix, "°Bx", 0.1),
    duration(other.minutes - now.minutes),
    duration((other.waits_h - now.waits_h) * 60, " waiting"),
    other.clarity === now.clarity ? "" : other.clarity,
  ].filter(Boolean);
  return words.length ? words.join(" · ") : "no difference to speak of";
}

function signed(by: number, unit: string, step: number): string {
  if (Math.abs(by) < step * 0.8) return "";
  return `${by > 0 ? "+" : "−"}${plain(Math.abs(by), step)} ${unit}`;
}

function duration(by: number, what = ""): string {
  if (Math.abs(by) < 2) return "";
  return `${by > 0 ? "+" : "−"}${minutes(Math.abs(by))}${what}`;
}

type FigureProps = {
  number: StepChoices["numbers"][number];
  onChange: (value: number | string) => void;
};

/** A figure of a step; its word stands in where nobody measures. */
function Figure({ number, onChange }: FigureProps) {
  const worded = number.value === number.word && number.word !== "";
  const [text, setText] = useState(worded ? "" : String(number.value));
  const value = parse(text);
  const ready = value !== null && !Number.isNaN(value) && value !== number.value;
  return (
    <form
      className="grid grid-cols-[1fr_auto] content-start items-start gap-x-3 gap-y-2"
      onSubmit={(e) => {
        e.preventDefault();
        if (ready) onChange(value);
      }}
    >
      <NumberField
        label={number.label}
        unit={number.unit}
        value={text}
        placeholder={worded ? number.says : ""}
        onChange={setText}
        note={number.note || undefined}
      />
      <Button size="small" type="submit" disabled={!ready} className="mt-7">
        Set
      </Button>
      {number.word && (
        <Button
          size="small"
          aria-pressed={worded}
          onClick={() => onChange(number.word)}
          className={`col-span-2 justify-self-start ${worded ? "bg-tag" : ""}`}
        >
          {worded ? "✓ " : ""}
          {number.says}
        </Button>
      )}
    </form>
  );
}
