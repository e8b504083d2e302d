import { Select } from "radix-ui";
import { useId } from "react";

export type Item = {
  value: string;
  label: string;
  note?: string;
  disabled?: boolean;
  colour?: string;
};

type Props = {
  label: string;
  value: string;
  items: Item[];
  onChange: (value: string) => void;
  error?: string | undefined;
};

/** One of many, by typing its first letters or from the list. */
export function Pick({ label, value, items, onChange, error }: Props) {
  const id = useId();
  return (
    <div>
      <label htmlFor={id} className="block text-base text-slate">
        {label}
      </label>
      <Select.Root value={value} onValueChange={onChange}>
        <Select.Trigger
          id={id}
          className="flex min-h-12 w-full items-center justify-between border-2 border-line bg-paper px-3 py-1 text-left font-bold text-xl leading-tight"
        >
          <Select.Value />
          <Select.Icon className="text-base text-slate">▾</Select.Icon>
        </Select.Trigger>
        <Select.Portal>
          <Select.Content
            position="popper"
            sideOffset={4}
            className="z-50 max-h-[min(60dvh,var(--radix-select-content-available-height))] min-w-(--radix-select-trigger-width) overflow-hidden border-2 border-line bg-paper"
          >
            <Select.Viewport className="overflow-y-auto">
              {items.map((item) => (
                <Row key={item.value} item={item} />
              ))}
            </Select.Viewport>
          </Select.Content>
        </Select.Portal>
      </Select.Root>
      {error && (
        <p role="alert" className="mt-1 font-bold text-base text-hip">
          {error}
        </p>
      )}
    </div>
  );
}

function Row({ item }: { item: Item }) {
  return (
    <Select.Item
      value={item.value}
      disabled={item.disabled ?? false}
      className="flex min-h-11 items-center gap-3 px-3 text-lg outline-none data-[disabled]:text-slate data-[highlighted]:bg-tag data-[state=checked]:font-bold"
    >
      {item.colour && (
        <svg width="14" height="14" aria-hidden="true" className="shrink-0">
          <circle cx="7" cy="7" r="6" fill={item.colour} stroke="currentColor" />
        </svg>
      )}
      <Select.ItemText>{item.label}</Select.ItemText>
      {item.note && <span className="ml-auto text-right text-base text-slate">{item.note}</span>}
    </Select.Item>
  );
}
