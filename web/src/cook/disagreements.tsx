import { useState } from "react";
import { useChange } from "@/api/changes";
import { Refused } from "@/api/client";
import type { BatchView, StepView } from "@/api/types";
import { plain } from "@/lib/format";
import { measureOf, shown, typed } from "@/lib/units";
import { Button } from "@/ui/button";
import { NumberField, parse } from "@/ui/field";
import { Said } from "@/ui/notice";
import { Mark } from "@/ui/verdict";

/** Figures of finished steps that do not agree, each with the one to look at again. */
export function Disagreements({ batch }: { batch: BatchView }) {
  const [left, setLeft] = useState<number[]>([]);
  const open = batch.steps.filter((s) => s.balance && !s.balance.agrees && !left.includes(s.id));
  return open.map((step) => (
    <Disagreement
      key={`${step.id}-${step.balance?.reading_id}`}
      batch={batch}
      step={step}
      onLeave={() => setLeft([...left, step.id])}
    />
  ));
}

type Props = { batch: BatchView; step: StepView; onLeave: () => void };

function Disagreement({ batch, step, onLeave }: Props) {
  const change = useChange(batch.id);
  const balance = step.balance;
  const reading = step.readings.find((r) => r.id === balance?.reading_id);
  const measure = measureOf(reading?.quantity ?? "", reading?.unit);
  const [text, setText] = useState(
    balance?.rather ? plain(shown(balance.rather, measure), 0.1) : "",
  );
  const value = parse(text);
  const refused = change.error instanceof Refused ? change.error : undefined;
  if (!balance) return null;
  return (
    <section aria-label="Figures that disagree" className="border-2 border-brass bg-paper p-4">
      <p className="flex gap-3 text-lg leading-snug">
        <Mark level="caution" />
        <span>
          <b>{step.title}.</b> {balance.words} Nothing is lost either way.
        </span>
      </p>
      {reading && (
        <form
          className="mt-3 grid grid-cols-2 items-end gap-3 wide:grid-cols-[1fr_auto_auto]"
          onSubmit={(e) => {
            e.preventDefault();
            if (value !== null && !Number.isNaN(value))
              change.mutate({
                act: "correct",
                step: step.id,
                reading: reading.id,
                value: typed(value, measure),
              });
          }}
        >
          <NumberField
            label="It should read"
            className="col-span-2 wide:col-span-1"
            unit={measure.unit}
            value={text}
            onChange={setText}
            error={refused?.at(`/${reading.quantity}`)}
          />
          <Button kind="go" type="submit" disabled={value === null || change.isPending}>
            Put it right
          </Button>
          <Button onClick={onLeave}>It is right</Button>
        </form>
      )}
      {!refused?.problem.errors?.length && <Said error={change.error} />}
    </section>
  );
}
