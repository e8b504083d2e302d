import type { StepView } from "@/api/types";
import { minutes } from "@/lib/format";
import { useNow } from "@/lib/use-now";

/** The water pan of the juicer: how long it lasts, and the press that says it is full again. */
export function Pan({ step, onRefill }: { step: StepView; onRefill: () => void }) {
  const now = useNow(5000);
  if (!step.pan) return null;
  const [since, dry] = [new Date(step.pan.since).getTime(), new Date(step.pan.dry_at).getTime()];
  const left = Math.max(0, (dry - now) / 60_000);
  const share = Math.max(0, Math.min(1, (dry - now) / (dry - since)));
  const warn = now >= new Date(step.pan.warn_at).getTime();
  return (
    <div
      className={`relative flex min-h-14 items-stretch border-2 bg-paper ${warn ? "border-hip" : "border-line"}`}
    >
      <div
        aria-hidden="true"
        className="absolute inset-y-0 left-0 bg-water"
        style={{ width: `${share * 100}%` }}
      />
      <p className="relative flex-1 px-3 py-1.5 leading-tight">
        <span className="block">water pan</span>
        <span className={`font-bold text-lg ${warn ? "text-hip" : ""}`}>
          {warn ? `refill now: dry in ${minutes(left)}` : `dry in ${minutes(left)}`}
        </span>
      </p>
      <button
        type="button"
        onClick={onRefill}
        className="relative border-line border-l-2 bg-paper px-4 font-bold font-display text-elder text-lg"
      >
        Refilled
      </button>
    </div>
  );
}
