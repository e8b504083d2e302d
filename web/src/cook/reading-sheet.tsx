import { useState } from "react";
import { Refused } from "@/api/client";
import type { Askable, StepView } from "@/api/types";
import type { Act } from "@/cook/act";
import { spoken } from "@/lib/format";
import { measureOf, typed } from "@/lib/units";
import { Button } from "@/ui/button";
import { Choice } from "@/ui/choice";
import { Dialog } from "@/ui/dialog";
import { NumberField, parse } from "@/ui/field";
import { Said } from "@/ui/notice";

type Props = {
  open: boolean;
  onClose: () => void;
  step: StepView;
  act: Act;
  error: Error | null;
  busy: boolean;
};

export const INSTRUMENT: Record<string, string> = {
  jug: "jug",
  scale: "scale",
  thermometer: "thermometer",
  refractometer: "refractometer",
  hydrometer: "hydrometer",
  ph_meter: "meter",
  ph_strip: "paper strip",
  ruler: "ruler or spoon",
  boiling: "it boils",
};

/** What a quantity is typed in: grams where there is less than a kilo of it. */
export const unitOf = (ask: Askable): string =>
  ask.quantity === "mass_g" && ask.predicted && ask.predicted.typ < 1000
    ? "little_g"
    : ask.quantity;

export function expected(ask: Askable): string | undefined {
  if (!ask.predicted) return undefined;
  return `expected ${spoken(ask.predicted, unitOf(ask), ask.unit)}`;
}

/** One reading: what, how much, by which instrument; the prediction stands beside it. */
export function ReadingSheet({ open, onClose, step, act, error, busy }: Props) {
  const [quantity, setQuantity] = useState(step.asks[0]?.quantity ?? "");
  const [text, setText] = useState("");
  const ask = step.asks.find((a) => a.quantity === quantity) ?? step.asks[0];
  const [instrument, setInstrument] = useState("");
  if (!ask) return null;
  const by = ask.instruments.includes(instrument) ? instrument : (ask.instruments[0] ?? "");
  const measure = measureOf(ask.quantity, ask.unit);
  const value = parse(text);
  const said = error instanceof Refused ? error.at(`/${ask.quantity}`) : undefined;
  return (
    <Dialog open={open} onClose={onClose} title="Reading" lead={step.title}>
      <form
        className="grid gap-4"
        onSubmit={(e) => {
          e.preventDefault();
          if (value === null) return;
          act(
            {
              act: "reading",
              step: step.id,
              reading: {
                quantity: ask.quantity as "brix",
                value: typed(value, measure),
                instrument: by,
              },
            },
            () => setText(""),
          );
        }}
      >
        <Choice
          label="What"
          value={ask.quantity}
          onChange={setQuantity}
          options={step.asks.map((a) => ({ value: a.quantity, label: a.name }))}
        />
        <NumberField
          label={ask.name}
          unit={measure.unit}
          value={text}
          onChange={setText}
          note={expected(ask)}
          error={said}
          autoFocus
        />
        {ask.instruments.length > 1 && (
          <Choice
            label="Read with"
            value={by}
            onChange={setInstrument}
            options={ask.instruments.map((i) => ({ value: i, label: INSTRUMENT[i] ?? i }))}
            note={by === "ph_strip" ? "A strip informs; it does not open the canner." : undefined}
          />
        )}
        {!said && <Said error={error} />}
        <Button
          kind="go"
          size="large"
          type="submit"
          disabled={value === null || Number.isNaN(value) || busy}
        >
          Keep this reading
        </Button>
      </form>
    </Dialog>
  );
}
