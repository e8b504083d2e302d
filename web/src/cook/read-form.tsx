import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Refused } from "@/api/client";
import { kitchenQuery } from "@/api/queries";
import type { Askable, ReadingCreate, StepView } from "@/api/types";
import type { Act } from "@/cook/act";
import { expected, INSTRUMENT, unitOf } from "@/cook/reading-sheet";
import { temperature } from "@/lib/format";
import { measureOf, typed } from "@/lib/units";
import {
  type Said as Amount,
  type Quantity,
  SaidAmount,
  sentAs,
  UNSAID,
} from "@/lines/said-amount";
import { Button } from "@/ui/button";
import { Choice } from "@/ui/choice";
import { NumberField, parse } from "@/ui/field";
import { Said } from "@/ui/notice";

type Props = { step: StepView; act: Act; error: Error | null; busy: boolean };

/** The readings that belong to the end of a step; all but the first may be left out. */
export function ReadForm({ step, act, error, busy }: Props) {
  const asks = step.asks.filter(
    (a) =>
      !(step.role === "heat" && a.quantity === "volume_ml") &&
      a.quantity !== "tray_g" &&
      a.instruments[0] !== "boiling",
  );
  const [texts, setTexts] = useState<Record<string, string>>({});
  const phInstruments = step.asks.find((a) => a.quantity === "ph")?.instruments ?? [];
  const [phBy, setPhBy] = useState(phInstruments[0] ?? "ph_meter");
  const boiling = useQuery(kitchenQuery).data?.boiling_point_c;
  const hot = step.asks.find((a) => a.quantity === "temp_c");
  const itBoils = () =>
    act({
      act: "finish",
      step: step.id,
      said: { readings: [{ quantity: "temp_c", value: boiling ?? 0, instrument: "boiling" }] },
    });
  const refused = error instanceof Refused ? error : undefined;
  const [amounts, setAmounts] = useState<Record<string, Amount>>({});
  const readings = asks.flatMap((a) =>
    poured(a)
      ? amountRead(a, amounts[a.quantity] ?? UNSAID)
      : toReading(a, texts[a.quantity] ?? "", phBy),
  );
  const atField = asks.some((a) => refused?.at(`/${a.quantity}`));
  return (
    <form
      className="grid gap-4"
      onSubmit={(e) => {
        e.preventDefault();
        act({ act: "finish", step: step.id, said: { readings } });
      }}
    >
      {step.role === "steam" && (
        <p className="text-lg">Mitt on, hose end in the jug, then open the clamp.</p>
      )}
      {asks.map((ask, i) =>
        poured(ask) ? (
          <SaidAmount
            key={ask.quantity}
            label={label(ask, step)}
            quantity={ask.quantity}
            unitOf={unitOf(ask)}
            said={amounts[ask.quantity] ?? UNSAID}
            onChange={(said) => setAmounts({ ...amounts, [ask.quantity]: said })}
            note={expected(ask)}
            error={refused?.at(`/${ask.quantity}`)}
            autoFocus={i === 0}
          />
        ) : (
          <NumberField
            key={ask.quantity}
            label={label(ask, step)}
            unit={measureOf(ask.quantity, ask.unit).unit}
            value={texts[ask.quantity] ?? ""}
            onChange={(t) => setTexts({ ...texts, [ask.quantity]: t })}
            note={expected(ask)}
            error={refused?.at(`/${ask.quantity}`)}
            autoFocus={i === 0}
          />
        ),
      )}
      {texts.ph && (
        <Choice
          label="pH read with"
          value={phBy}
          onChange={setPhBy}
          options={phInstruments.map((i) => ({ value: i, label: INSTRUMENT[i] ?? i }))}
          note={phBy === "ph_strip" ? "A strip informs; it does not open the canner." : undefined}
        />
      )}
      {!atField && <Said error={error} />}
      {(hot?.instruments[0] !== "boiling" || readings.length > 0) && (
        <Button
          kind="go"
          size="large"
          type="submit"
          disabled={busy || readings.some((r) => Number.isNaN(r.value))}
        >
          {readings.length || step.role === "heat" ? "Done" : "Done, not measured"}
        </Button>
      )}
      {step.role === "heat" && hot?.instruments.includes("boiling") && (
        <Button
          kind={hot.instruments[0] === "boiling" ? "go" : "plain"}
          size={hot.instruments[0] === "boiling" ? "large" : "usual"}
          disabled={busy}
          onClick={itBoils}
        >
          No thermometer: it is at a full boil
        </Button>
      )}
    </form>
  );
}

function label(ask: Askable, step: StepView): string {
  if (ask.quantity === "temp_c") return `Thermometer, to reach ${temperature(step.target_c)}`;
  if (ask.quantity === "mass_g") return "Weight now, if you weigh it";
  if (ask.quantity === "depth_cm") return "Depth in the pot, bottom to surface";
  if (ask.quantity === "volume_ml") return step.role === "reduce" ? "What is left" : "Juice drawn";
  return `${ask.name}, if you can read it`;
}

/** Whether it is poured or weighed, so that it can be said in cups and jugs. */
const poured = (ask: Askable): ask is Askable & { quantity: Quantity } =>
  ask.quantity === "volume_ml" || ask.quantity === "mass_g";

function amountRead(ask: Askable & { quantity: Quantity }, said: Amount): ReadingCreate[] {
  const sent = sentAs(said, ask.quantity, unitOf(ask));
  if (!sent) return [];
  return [{ quantity: ask.quantity, instrument: ask.instruments[0] ?? "", ...sent }];
}

function toReading(ask: Askable, text: string, phBy: string): ReadingCreate[] {
  const value = parse(text);
  if (value === null) return [];
  const instrument = ask.quantity === "ph" ? phBy : (ask.instruments[0] ?? "");
  return [
    { quantity: ask.quantity as "brix", value: typed(value, measureOf(ask.quantity)), instrument },
  ];
}
