import type { BatchView, StepView } from "@/api/types";
import { useZone } from "@/api/use-zone";
import { minutes, timeOfDay } from "@/lib/format";

type Props = { batch: BatchView; focus: number; onFocus: (id: number) => void };

const COLOUR: Record<string, string> = {
  done: "bg-leaf",
  running: "bg-brass",
  waiting: "bg-paper",
};

/** Every step as a bead on a string: done, on, or to come; press one to look at it. */
export function StepBeads({ batch, focus, onFocus }: Props) {
  const zone = useZone();
  const steps = batch.steps.filter((s) => s.phase !== "dropped");
  return (
    <nav aria-label="Steps of this batch" className="border-line border-t-6 pt-3">
      <h2>Steps</h2>
      <ol className="mt-2">
        {steps.map((s, i) => (
          <li key={s.id} className="relative">
            {i < steps.length - 1 && (
              <span
                aria-hidden="true"
                className="absolute top-5 bottom-0 left-[9px] w-0.5 bg-line"
              />
            )}
            <button
              type="button"
              aria-current={s.id === focus ? "step" : undefined}
              onClick={() => onFocus(s.id)}
              disabled={s.phase === "done"}
              className="group flex min-h-11 w-full items-start gap-2.5 py-1 text-left wide:min-h-9 disabled:cursor-default"
            >
              <span
                aria-hidden="true"
                className={`relative mt-0.5 size-5 shrink-0 rounded-full border-2 border-line ${COLOUR[s.phase]}`}
              />
              <span
                className={`flex-1 text-base leading-snug ${s.id === focus ? "font-bold text-elder" : ""} ${s.phase === "done" ? "text-slate" : "group-hover:underline"}`}
              >
                {s.title}
              </span>
              <span className="shrink-0 text-slate">{note(s, zone)}</span>
            </button>
          </li>
        ))}
      </ol>
    </nav>
  );
}

function note(step: StepView, zone: string): string {
  if (step.phase === "done") return timeOfDay(step.finished_at, zone);
  if (step.phase === "running") return step.due_at ? `to ${timeOfDay(step.due_at, zone)}` : "on";
  if (step.ready && step.role !== "check") return `${minutes(step.minutes.typ)}, ready`;
  return minutes(step.minutes.typ);
}
