import { type ReactNode, useState } from "react";
import { type KitchenChange, useFurnish } from "@/api/changes";
import { Refused } from "@/api/client";
import { type Measure, measureOf, shown, typed } from "@/lib/units";
import { Button } from "@/ui/button";
import { Choice } from "@/ui/choice";
import { Dialog } from "@/ui/dialog";
import { NumberField, parse, TextField } from "@/ui/field";
import { Foot } from "@/ui/foot";
import { Said } from "@/ui/notice";
import { Pick } from "@/ui/pick";
import { Tick } from "@/ui/tick";

/** A field of a row: a figure with its unit, words, one of a few, or yes and no. */
export type Field =
  | {
      key: string;
      label: string;
      type: "number";
      /** Its unit; where it is a quantity that has another one elsewhere, that of the base. */
      unit: string;
      quantity?: string;
      note?: string;
    }
  | { key: string; label: string; type: "text" | "password"; note?: string }
  | {
      key: string;
      label: string;
      type: "choice" | "pick";
      options: { value: string; label: string }[];
    }
  | { key: string; label: string; type: "tick" };

export type Values = Record<string, string | number | boolean | null>;

type Props = {
  title: string;
  fields: (values: Values) => Field[];
  first: Values;
  change: (values: Values) => KitchenChange;
  drop?: KitchenChange | undefined;
  /** What else there is to do with it, apart from its fields. */
  more?: ReactNode;
  onClose: () => void;
};

/** One row of a kitchen as a sheet: its fields, keep, and take away where that can be. */
export function EditSheet({ title, fields, first, change, drop, more, onClose }: Props) {
  const furnish = useFurnish();
  const [texts, setTexts] = useState<Record<string, string>>(() => asTexts(fields, first));
  const listed = fields(texts);
  const refused = furnish.error instanceof Refused ? furnish.error : undefined;
  const atField = listed.some((f) => refused?.at(`/${f.key}`));
  const set = (key: string) => (text: string) => setTexts({ ...texts, [key]: text });
  return (
    <Dialog open onClose={onClose} title={title}>
      <form
        className="grid gap-4"
        onSubmit={(e) => {
          e.preventDefault();
          furnish.mutate(change(asValues(listed, texts, first)), { onSuccess: onClose });
        }}
      >
        {listed.map((f) => (
          <Entry
            key={f.key}
            field={f}
            value={texts[f.key] ?? ""}
            onChange={set(f.key)}
            error={refused?.at(`/${f.key}`)}
          />
        ))}
        {!atField && <Said error={furnish.error} />}
        <Foot>
          <Button kind="go" type="submit" disabled={furnish.isPending}>
            Keep
          </Button>
          {drop && (
            <Button
              kind="warn"
              disabled={furnish.isPending}
              onClick={() => furnish.mutate(drop, { onSuccess: onClose })}
            >
              It is gone
            </Button>
          )}
        </Foot>
      </form>
      {more}
    </Dialog>
  );
}

type EntryProps = {
  field: Field;
  value: string;
  onChange: (text: string) => void;
  error: string | undefined;
};

function Entry({ field, value, onChange, error }: EntryProps) {
  switch (field.type) {
    case "number":
      return (
        <NumberField
          label={field.label}
          unit={measured(field).unit}
          value={value}
          onChange={onChange}
          error={error}
          note={field.note}
        />
      );
    case "choice":
      return (
        <Choice label={field.label} value={value} onChange={onChange} options={field.options} />
      );
    case "pick":
      return <Pick label={field.label} value={value} onChange={onChange} items={field.options} />;
    case "tick":
      return (
        <Tick
          label={field.label}
          on={value === "yes"}
          onChange={(on) => onChange(on ? "yes" : "")}
        />
      );
    default:
      return (
        <TextField
          label={field.label}
          type={field.type}
          value={value}
          onChange={onChange}
          error={error}
          note={field.note}
        />
      );
  }
}

type NumberOf = Extract<Field, { type: "number" }>;

/** The unit in which a figure is typed here. */
const measured = (field: NumberOf): Measure => measureOf(field.quantity ?? "", field.unit);

const plainTexts = (values: Values): Record<string, string> =>
  Object.fromEntries(
    Object.entries(values).map(([k, v]) => [
      k,
      typeof v === "boolean" ? (v ? "yes" : "") : v === null ? "" : String(v),
    ]),
  );

function asTexts(fields: Props["fields"], values: Values): Record<string, string> {
  const texts = plainTexts(values);
  for (const f of fields(texts)) {
    const value = values[f.key];
    if (f.type === "number" && f.quantity && typeof value === "number")
      texts[f.key] = String(Number(shown(value, measured(f)).toFixed(2)));
  }
  return texts;
}

/** What was typed, as it is sent; a figure that is none goes as text and is refused at its field. */
function asValues(fields: Field[], texts: Record<string, string>, first: Values): Values {
  const untouched = asTexts(() => fields, first);
  const said = fields.map((f): [string, Values[string]] => {
    const text = texts[f.key] ?? "";
    if (f.type === "tick") return [f.key, text === "yes"];
    if (f.type === "pick" && typeof first[f.key] === "number") return [f.key, Number(text)];
    if (f.type !== "number") return [f.key, text];
    if (text === untouched[f.key]) return [f.key, first[f.key] ?? null];
    const value = parse(text);
    if (value === null || Number.isNaN(value)) return [f.key, value === null ? null : text];
    return [f.key, typed(value, measured(f))];
  });
  return { ...first, ...Object.fromEntries(said) };
}
