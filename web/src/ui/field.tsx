import { type ReactNode, useId } from "react";

type Common = {
  label: string;
  note?: ReactNode;
  error?: string | undefined;
  className?: string;
};

function Around({
  label,
  note,
  error,
  id,
  className,
  children,
}: Common & { id: string; children: ReactNode }) {
  return (
    <div className={className}>
      <label htmlFor={id} className="block text-base text-slate">
        {label}
      </label>
      {children}
      {error ? (
        <p id={`${id}-said`} role="alert" className="mt-1 font-bold text-base text-hip">
          {error}
        </p>
      ) : (
        note && (
          <p id={`${id}-said`} className="mt-1 text-base text-slate">
            {note}
          </p>
        )
      )}
    </div>
  );
}

type NumberProps = Common & {
  value: string;
  onChange: (text: string) => void;
  unit: string;
  placeholder?: string;
  autoFocus?: boolean;
};

/** A figure with its unit inside the box; a comma is a decimal point too. */
export function NumberField({
  value,
  onChange,
  unit,
  placeholder,
  autoFocus,
  ...around
}: NumberProps) {
  const id = useId();
  return (
    <Around {...around} id={id}>
      <span
        className={`flex min-h-12 items-center border-2 bg-paper focus-within:outline-3 focus-within:outline-brass focus-within:outline-offset-2 ${around.error ? "border-hip" : "border-line"}`}
      >
        <input
          id={id}
          inputMode="decimal"
          autoComplete="off"
          // biome-ignore lint/a11y/noAutofocus: the first field of a sheet that a press has opened
          autoFocus={autoFocus}
          aria-invalid={Boolean(around.error)}
          aria-describedby={`${id}-said`}
          value={value}
          placeholder={placeholder}
          onChange={(e) => onChange(e.target.value.replace(",", "."))}
          className="w-full min-w-0 bg-transparent px-3 py-2 font-bold text-xl placeholder:font-normal placeholder:text-base placeholder:text-slate focus:outline-none"
        />
        {unit && <span className="pr-2 text-base text-slate">{unit}</span>}
      </span>
    </Around>
  );
}

type TextProps = Common & {
  value: string;
  onChange: (text: string) => void;
  type?: "text" | "password" | "date";
  placeholder?: string;
  autoComplete?: string;
};

export function TextField({
  value,
  onChange,
  type = "text",
  placeholder,
  autoComplete = "off",
  ...around
}: TextProps) {
  const id = useId();
  return (
    <Around {...around} id={id}>
      <input
        id={id}
        type={type}
        autoComplete={autoComplete}
        aria-invalid={Boolean(around.error)}
        aria-describedby={`${id}-said`}
        value={value}
        placeholder={placeholder}
        onChange={(e) => onChange(e.target.value)}
        className={`min-h-12 w-full border-2 bg-paper px-3 py-2 text-lg placeholder:text-slate ${around.error ? "border-hip" : "border-line"}`}
      />
    </Around>
  );
}

/** A typed figure as a number; null when empty, NaN when it is none. */
export function parse(text: string): number | null {
  const trimmed = text.trim();
  return trimmed === "" ? null : Number(trimmed);
}
