import { ToggleGroup } from "radix-ui";

type Option<T extends string> = { value: T; label: string; note?: string; disabled?: boolean };

type Props<T extends string> = {
  label: string;
  value: T;
  options: Option<T>[];
  onChange: (value: T) => void;
  note?: string | undefined;
};

/** One of a few, all in sight. */
export function Choice<T extends string>({ label, value, options, onChange, note }: Props<T>) {
  return (
    <div>
      <p className="text-base text-slate">{label}</p>
      <ToggleGroup.Root
        type="single"
        aria-label={label}
        value={value}
        onValueChange={(next) => next && onChange(next as T)}
        className="flex border-2 border-line bg-paper"
      >
        {options.map((o) => (
          <ToggleGroup.Item
            key={o.value}
            value={o.value}
            disabled={o.disabled ?? false}
            className="min-h-11 flex-1 px-1 text-base leading-tight data-[state=on]:bg-elder data-[state=on]:font-bold data-[state=on]:text-on-dark disabled:text-slate disabled:line-through [&+&]:border-line [&+&]:border-l"
          >
            {o.label}
          </ToggleGroup.Item>
        ))}
      </ToggleGroup.Root>
      {note && <p className="mt-1 text-base text-slate">{note}</p>}
    </div>
  );
}
