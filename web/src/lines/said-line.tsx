import { type ReactNode, useId } from "react";
import type { LineView } from "@/api/types";
import { Meant } from "@/lines/meant";

type Props = {
  label: string;
  /** Whether the label is seen, or only read out. */
  labelled?: boolean;
  value: string;
  onChange: (text: string) => void;
  /** What it was understood to be. */
  read: LineView | undefined;
  /** A reading that was chosen where it could have been two; otherwise it is typed in. */
  onChoose?: (text: string) => void;
  placeholder: string;
  error?: string | undefined;
  children?: ReactNode;
};

/** A line as one says it: read as it is typed, and below it what it was understood to be. */
export function SaidLine(props: Props) {
  const { label, labelled, value, onChange, read, onChoose = onChange, placeholder } = props;
  const id = useId();
  return (
    <div>
      <label htmlFor={id} className={labelled ? "block text-base text-slate" : "sr-only"}>
        {label}
      </label>
      <span className="flex border-2 border-line bg-paper focus-within:outline-3 focus-within:outline-brass focus-within:outline-offset-2">
        <input
          id={id}
          value={value}
          maxLength={200}
          autoComplete="off"
          enterKeyHint="done"
          placeholder={placeholder}
          aria-describedby={`${id}-read`}
          onChange={(e) => onChange(e.target.value)}
          className="min-h-12 w-full min-w-0 bg-transparent px-3 text-lg placeholder:text-slate focus:outline-none"
        />
        {props.children}
      </span>
      <div id={`${id}-read`} aria-live="polite" className="text-base">
        <Meant text={value} read={read} onChoose={onChoose} />
        {props.error && (
          <p role="alert" className="font-bold text-hip">
            {props.error}
          </p>
        )}
      </div>
    </div>
  );
}
