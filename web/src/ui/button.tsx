import type { ButtonHTMLAttributes, ReactNode } from "react";

type Kind = "go" | "plain" | "warn" | "quiet";

const LOOK: Record<Kind, string> = {
  go: "bg-leaf text-on-dark border-line",
  plain: "bg-paper text-ink border-line",
  warn: "bg-paper text-hip border-line",
  quiet: "bg-transparent text-elder border-transparent underline underline-offset-4",
};

type Props = ButtonHTMLAttributes<HTMLButtonElement> & {
  kind?: Kind;
  size?: "large" | "usual" | "small";
  keys?: string;
  children: ReactNode;
};

const SIZE = {
  large: "min-h-16 px-5 text-[1.375rem]",
  usual: "min-h-13 px-4 text-lg",
  small: "min-h-11 px-3 text-base",
};

/** A button as a cook presses it: large, flat, its key shown on it. */
export function Button({ kind = "plain", size = "usual", keys, children, ...rest }: Props) {
  return (
    <button
      type="button"
      aria-keyshortcuts={keys}
      {...rest}
      className={`relative border-2 font-display font-bold leading-tight disabled:border-slate disabled:bg-transparent disabled:text-slate ${LOOK[kind]} ${SIZE[size]} ${rest.className ?? ""}`}
    >
      {children}
      {keys && (
        <span
          aria-hidden="true"
          className="absolute right-2 bottom-1 hidden font-text font-normal text-sm wide:block"
        >
          {keys}
        </span>
      )}
    </button>
  );
}
