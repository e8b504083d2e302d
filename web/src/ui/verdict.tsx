import { Collapsible } from "radix-ui";
import type { Finding } from "@/api/types";
import { Button } from "@/ui/button";

const WORD = { stop: "Stop", caution: "Take care", note: "Note" } as const;
const COLOUR = { stop: "text-hip", caution: "text-brass", note: "text-slate" } as const;

/** A level by its shape: an octagon, a triangle, a ring. The word is there for ears. */
export function Mark({ level }: { level: Finding["level"] | "yes" }) {
  const shape = {
    stop: <path d="M7 2h8l5 5v8l-5 5H7l-5-5V7zM7 11h8" />,
    caution: <path d="M11 3 20.5 19h-19z" />,
    note: <circle cx="11" cy="11" r="7.5" />,
    yes: <path d="m3 12 5.5 6L19 4" strokeWidth="4" />,
  }[level];
  const colour = level === "yes" ? "text-leaf" : COLOUR[level];
  return (
    <svg
      viewBox="0 0 22 22"
      aria-hidden="true"
      className={`mt-0.5 size-[1.4rem] shrink-0 ${colour}`}
      fill="none"
      stroke="currentColor"
      strokeWidth="2.6"
      strokeLinejoin="round"
    >
      {shape}
    </svg>
  );
}

type Props = {
  finding: Finding;
  onChange?: ((change: string) => void) | undefined;
  large?: boolean;
};

const REMEDY: Record<string, string> = {
  "keep=chill": "Chill it instead",
  "keep=sugar": "Keep it by its sugar",
  "keep=freeze": "Freeze it instead",
  "jars=smaller": "Use smaller jars",
  "jars=tested": "Use tested jars",
};

/** What the tool itself can do about it, on a button. */
function remedyOf(change: string): string | undefined {
  const [what, amount] = change.split("=");
  if (what === "line") return `Add ${amount}`;
  return what === "acid" ? `Add ${amount} g citric acid` : REMEDY[change];
}

/** A finding: its message, what to do, and its source one press away. */
export function FindingRow({ finding, onChange, large }: Props) {
  const remedy = remedyOf(finding.change ?? "");
  return (
    <li className="flex gap-3">
      <Mark level={finding.level} />
      <div className="min-w-0">
        <p className={`font-bold ${large ? "text-xl" : "text-lg"} leading-snug`}>
          <span className="sr-only">{WORD[finding.level]}: </span>
          {finding.message}
        </p>
        <Collapsible.Root>
          {finding.remedy && (
            <p className={`${large ? "text-lg" : "text-base"} text-slate`}>{finding.remedy}</p>
          )}
          {remedy && onChange && (
            <Button size="small" className="mt-2" onClick={() => onChange(finding.change ?? "")}>
              {remedy}
            </Button>
          )}
          <Collapsible.Trigger className="block min-h-6 text-base text-slate underline decoration-dotted underline-offset-4">
            source
          </Collapsible.Trigger>
          <Collapsible.Content className="text-base text-slate">
            {finding.source}
          </Collapsible.Content>
        </Collapsible.Root>
      </div>
    </li>
  );
}
