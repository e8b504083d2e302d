import type { StepView } from "@/api/types";
import { useZone } from "@/api/use-zone";
import { clock, DAY_MS, minutes, moment, plain, range, timeOfDay } from "@/lib/format";
import { useNow } from "@/lib/use-now";

/** The time of a step, large enough for the other end of the kitchen. */
export function Timer({ step }: { step: StepView }) {
  const now = useNow();
  const zone = useZone();
  if (step.phase === "waiting") return <Waiting step={step} />;
  if (step.counts_from_boil && !step.clock_from)
    return (
      <Big
        text={`${plain(step.minutes.typ, 1)}:00`}
        under={
          step.boils_lost
            ? "boil lost: the time starts again from zero at the next full boil"
            : "the time starts at the full boil"
        }
      />
    );
  if (!step.due_at || !step.clock_from) return null;
  const [due, from] = [new Date(step.due_at).getTime(), new Date(step.clock_from).getTime()];
  const left = (due - now) / 1000;
  if (step.role === "cool")
    return (
      <Big
        text={timeOfDay(step.due_at, zone)}
        under={`seals may be checked from ${moment(step.due_at, now, zone)}`}
      />
    );
  const over = left <= 0;
  const total = (due - from) / 60_000;
  const whole = Number.isInteger(total) || total >= 60 ? minutes(total) : clock(total * 60);
  const rings =
    left < DAY_MS / 1000 ? timeOfDay(step.due_at, zone) : moment(step.due_at, now, zone);
  const under = over
    ? `over since ${timeOfDay(step.due_at, zone)}: ${step.counts_from_boil ? "heat off" : "look whether it is ready"}`
    : `left of ${whole} · rings at ${rings}${step.extra_minutes ? ` · ${plain(step.extra_minutes, 1)} min added` : ""}`;
  return (
    <div>
      <Big text={`${over ? "+" : ""}${clock(left)}`} under={under} alarm={over} />
      <Drain share={over ? 0 : left / 60 / total} />
    </div>
  );
}

function Big({ text, under, alarm }: { text: string; under: string; alarm?: boolean }) {
  return (
    <div className="text-center wide:text-left">
      <p
        role="timer"
        className={`font-extrabold text-[4rem] leading-none tracking-tight wide:text-[5rem] ${alarm ? "text-hip" : ""}`}
      >
        {text}
      </p>
      <p className="mt-1 text-lg text-slate">{under}</p>
    </div>
  );
}

function Drain({ share }: { share: number }) {
  return (
    <div aria-hidden="true" className="mt-2 h-4 border-2 border-line bg-paper">
      <div
        className="h-full bg-elder"
        style={{ width: `${Math.max(0, Math.min(1, share)) * 100}%` }}
      />
    </div>
  );
}

function Waiting({ step }: { step: StepView }) {
  const timed = !["fill", "check", "put_away"].includes(step.role);
  return (
    <p className="text-lg text-slate">
      {timed
        ? `${minutes(step.minutes.typ)}${step.counts_from_boil ? " at a full boil" : `, from ${range(step.minutes, 1, 1)} min`}`
        : `about ${minutes(step.minutes.typ)}`}{" "}
      · {step.hands}
    </p>
  );
}
