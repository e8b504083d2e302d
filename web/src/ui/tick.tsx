import { Checkbox } from "radix-ui";
import { useId } from "react";

type Props = { label: string; on: boolean; onChange: (on: boolean) => void; note?: string };

/** Yes or no, with a box large enough for a wet finger. */
export function Tick({ label, on, onChange, note }: Props) {
  const id = useId();
  return (
    <div className="flex min-h-11 items-center gap-3">
      <Checkbox.Root
        id={id}
        checked={on}
        onCheckedChange={(next) => onChange(next === true)}
        className="grid size-7 shrink-0 place-items-center border-2 border-line bg-paper font-bold text-lg"
      >
        <Checkbox.Indicator>✓</Checkbox.Indicator>
      </Checkbox.Root>
      <label htmlFor={id} className="text-base leading-tight">
        {label}
        {note && <span className="block text-slate">{note}</span>}
      </label>
    </div>
  );
}
