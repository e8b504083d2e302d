import { useState } from "react";
import { measureOf, typed } from "@/lib/units";
import { Button } from "@/ui/button";
import { NumberField, parse } from "@/ui/field";

type Props = { label: string; press: string; busy?: boolean; onGrams: (grams: number) => void };

/** What a scale says, in the kitchen's units, and one press. */
export function Grams({ label, press, busy = false, onGrams }: Props) {
  const [text, setText] = useState("");
  const measure = measureOf("little_g");
  const value = parse(text);
  const grams = value === null ? Number.NaN : typed(value, measure);
  return (
    <form
      className="flex flex-wrap items-end gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        if (!(grams > 0)) return;
        onGrams(grams);
        setText("");
      }}
    >
      <NumberField
        className="min-w-40 max-w-64 flex-1"
        label={label}
        unit={measure.unit}
        value={text}
        onChange={setText}
      />
      <Button type="submit" disabled={busy || !(grams > 0)}>
        {press}
      </Button>
    </form>
  );
}
