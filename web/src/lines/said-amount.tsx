import { useQuery } from "@tanstack/react-query";
import { useId } from "react";
import { amountQuery } from "@/api/queries";
import type { AmountAsk } from "@/api/types";
import { litres, mass } from "@/lib/format";
import { measureOf, typed } from "@/lib/units";
import { NumberField, parse } from "@/ui/field";

export type Quantity = AmountAsk["quantity"];

export type Said = { text: string; words: boolean };

type Props = {
  label: string;
  quantity: Quantity;
  /** The unit that a figure is typed in, where it is not the usual one of the quantity. */
  unitOf?: string;
  said: Said;
  onChange: (said: Said) => void;
  note?: string | undefined;
  error?: string | undefined;
  autoFocus?: boolean;
};

/** A figure with a unit of its own: it is read as words from there on. */
const NAMES_A_UNIT = /\d\s*[a-z]/i;

/** An amount as a figure in the kitchen's unit, or as one says it: "5 cups", "to the second ring". */
export function SaidAmount(props: Props) {
  const { label, quantity, unitOf = quantity, said, onChange, note, error, autoFocus } = props;
  if (said.words) return <InWords {...props} />;
  return (
    <div>
      <NumberField
        label={label}
        unit={measureOf(unitOf).unit}
        value={said.text}
        onChange={(text) => onChange({ text, words: NAMES_A_UNIT.test(text) })}
        note={note}
        error={error}
        autoFocus={autoFocus ?? false}
      />
      <button
        type="button"
        onClick={() => onChange({ text: "", words: true })}
        className="min-h-9 underline decoration-dotted underline-offset-4"
      >
        in cups, jugs or by a mark
      </button>
    </div>
  );
}

function InWords({ label, quantity, said, onChange, note, error }: Props) {
  const id = useId();
  const read = useRead(said, quantity);
  const value = read?.value ?? null;
  const wrong = error ?? (said.text ? read?.wrong?.message : undefined);
  return (
    <div>
      <label htmlFor={id} className="block text-base text-slate">
        {label}
      </label>
      <input
        id={id}
        value={said.text}
        maxLength={120}
        autoComplete="off"
        // biome-ignore lint/a11y/noAutofocus: a press has opened it
        autoFocus
        placeholder={quantity === "volume_ml" ? "5 cups, half a jug" : "2 lb 3 oz, a bucket"}
        aria-describedby={`${id}-read`}
        onChange={(e) => onChange({ text: e.target.value, words: true })}
        className={`min-h-12 w-full border-2 bg-paper px-3 text-xl ${error ? "border-hip" : "border-line"}`}
      />
      <p id={`${id}-read`} aria-live="polite" className="mt-1 text-base text-slate">
        {wrong ? (
          <b className="text-hip">{wrong}</b>
        ) : said.text && value !== null ? (
          <b className="text-leaf">{quantity === "volume_ml" ? litres(value) : mass(value)}</b>
        ) : (
          note
        )}
      </p>
    </div>
  );
}

function useRead(said: Said, quantity: Quantity) {
  const enabled = said.words && said.text.trim() !== "";
  return useQuery({ ...amountQuery(said.text, quantity), enabled }).data;
}

/** What was said in base units; null where nothing was, or nothing that can be read. */
export function useSaid(said: Said, quantity: Quantity, unitOf: string = quantity): number | null {
  const read = useRead(said, quantity);
  if (said.words) return said.text.trim() ? (read?.value ?? null) : null;
  const value = parse(said.text);
  return value === null ? null : typed(value, measureOf(unitOf));
}

/** Nothing said yet. */
export const UNSAID: Said = { text: "", words: false };

/** What was said as it is sent: a figure in base units, or the words; null where nothing was. */
export function sentAs(
  said: Said,
  quantity: Quantity,
  unitOf: string = quantity,
): { value: number; said?: string } | null {
  if (said.words) return said.text.trim() ? { value: 0, said: said.text } : null;
  const value = parse(said.text);
  return value === null ? null : { value: typed(value, measureOf(unitOf)) };
}
