import { useState } from "react";
import type { StepView } from "@/api/types";
import type { Act } from "@/cook/act";
import { measureOf, typed } from "@/lib/units";
import { SaidLine } from "@/lines/said-line";
import { useLines } from "@/lines/use-lines";
import { Button } from "@/ui/button";
import { NumberField, parse } from "@/ui/field";

type Props = { step: StepView; act: Act; busy: boolean };

/** What a step may need that nobody planned: heat once more, the cold, a later load, more acid. */
export function BesidesPlan({ step, act, busy }: Props) {
  if (!step.may_repeat && !step.may_put_cold && !step.may_fill_now && !step.may_acidify)
    return null;
  return (
    <div className="mt-4 flex flex-wrap items-end gap-3">
      {step.may_repeat && (
        <Button disabled={busy} onClick={() => act({ act: "again", step: step.id })}>
          Heat it once more
        </Button>
      )}
      {step.may_put_cold && (
        <Button disabled={busy} onClick={() => act({ act: "put-cold", step: step.id })}>
          It goes into the refrigerator now
        </Button>
      )}
      {step.may_fill_now && <FilledNow step={step} act={act} busy={busy} />}
      {step.may_acidify && <MoreAcid step={step} act={act} busy={busy} />}
    </div>
  );
}

/** A later canner load that is filled only now, from a pot that was kept hot. */
function FilledNow({ step, act, busy }: Props) {
  const [temp, setTemp] = useState("");
  const read = parse(temp);
  return (
    <>
      <NumberField
        label="Filled only now? The pot is at"
        unit={measureOf("temp_c").unit}
        value={temp}
        onChange={setTemp}
      />
      <Button
        disabled={busy || !read}
        onClick={() =>
          act(
            { act: "filled-now", step: step.id, tempC: typed(read ?? 0, measureOf("temp_c")) },
            () => setTemp(""),
          )
        }
      >
        These jars are filled now
      </Button>
    </>
  );
}

/** Acid beyond the plan: what a meter over the limit asks for, before it is read again. */
function MoreAcid({ step, act, busy }: Props) {
  const [line, setLine] = useState("");
  const read = useLines(line ? [line] : [])(line);
  const over = step.stops.some((s) => s.id === "ph-too-high");
  const [asked, setAsked] = useState(over);
  if (!asked)
    return (
      <Button kind="quiet" className="-ml-4" onClick={() => setAsked(true)}>
        Acid stirred in besides?
      </Button>
    );
  const ready = read !== undefined && read.wrong === null;
  return (
    <>
      <div className="min-w-64 grow">
        <SaidLine
          label="Acid stirred in"
          labelled
          placeholder="15 g citric acid, 2 tbsp bottled lemon"
          value={line}
          onChange={setLine}
          read={read}
        />
      </div>
      <Button
        disabled={busy || !ready}
        onClick={() => act({ act: "acid", step: step.id, line }, () => setLine(""))}
      >
        Stirred in
      </Button>
    </>
  );
}
