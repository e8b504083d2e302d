import { useState } from "react";
import type { Field } from "@/bench/sums";
import { measureOf, shown, typed } from "@/lib/units";
import { NumberField, parse, TextField } from "@/ui/field";

type Props = { field: Field; value: number; onChange: (value: number) => void };

/** The figure that the picture shows moving, by hand or by the arrow keys. */
export function Handle({ field, value, onChange }: Props) {
  const whole = field.quantity === "count";
  return (
    <label className="mt-2 block print:hidden">
      <span className="sr-only">{field.label.trim()}, dragged</span>
      <input
        type="range"
        min={field.from}
        max={field.to}
        step={whole ? 1 : (field.to - field.from) / 200}
        value={value}
        onChange={(e) => onChange(Number(Number(e.target.value).toFixed(2)))}
        className="handle h-11 w-full"
      />
    </label>
  );
}

/** A figure in the kitchen's units; it stays as it is typed until the field is left. */
export function Figure({ field, value, error, onChange }: Props & { error: string | undefined }) {
  const measure = measureOf(field.quantity, field.unit);
  const [text, setText] = useState<string | null>(null);
  const figure = String(Number(shown(value, measure).toPrecision(4)));
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: it only hears that the field is left
    <div onBlur={() => setText(null)}>
      <NumberField
        label={field.label.trim()}
        unit={measure.unit}
        value={text ?? figure}
        error={error}
        onChange={(next) => {
          const read = parse(next);
          setText(next);
          if (read !== null && !Number.isNaN(read))
            onChange(Number(typed(read, measure).toPrecision(8)));
        }}
      />
    </div>
  );
}

type LineProps = {
  label: string;
  value: string;
  error: string | undefined;
  onChange: (value: string) => void;
};

/** An amount as one says it. */
export function Line({ label, value, error, onChange }: LineProps) {
  const [text, setText] = useState(value);
  return (
    <TextField
      label={label}
      value={text}
      error={error}
      onChange={(next) => {
        setText(next);
        if (next.trim()) onChange(next.trim());
      }}
    />
  );
}
