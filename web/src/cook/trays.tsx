import type { StepView } from "@/api/types";
import { useZone } from "@/api/use-zone";
import type { Act } from "@/cook/act";
import { clock, mass, minutes, plain, timeOfDay } from "@/lib/format";
import { useNow } from "@/lib/use-now";
import { Curve } from "@/trays/curve";
import { Load } from "@/trays/load";
import { Button } from "@/ui/button";
import { Grams } from "@/ui/grams";

type Props = { step: StepView; act: Act; busy: boolean };
type TraysOfStep = NonNullable<StepView["trays"]>;

/** The trays of a drying step: what lies on them, how far they are, and a weighing. */
export function Trays({ step, act, busy }: Props) {
  const load = step.trays;
  if (step.phase === "waiting" && step.lies_open_until)
    return <Open until={step.lies_open_until} />;
  if (step.shakes) return <Shakes step={step} act={act} busy={busy} />;
  if (!load) return null;
  return (
    <section aria-label="The trays" className="mt-4 border-line border-t-3 pt-3">
      <p role="status" className="border-elder border-l-6 pl-3 text-xl">
        {howFar(load, step.phase)}
      </p>
      <div className="mt-4 grid items-start gap-x-8 gap-y-4 wide:grid-cols-2">
        {step.phase === "running" && <Weigh step={step} act={act} busy={busy} />}
        <Curve load={load} />
      </div>
      <div className="mt-4">
        <Load load={load} />
      </div>
    </section>
  );
}

/** How long what came out of the machine may still lie open. */
function Open({ until }: { until: string }) {
  const now = useNow();
  const zone = useZone();
  const left = (new Date(until).getTime() - now) / 1000;
  return (
    <p role="status" className="mt-4 border-brass border-l-6 pl-3 text-2xl">
      {left > 0 ? (
        <>
          Open to the air: close it by {timeOfDay(until, zone)}, in <b>{clock(left)}</b>.
        </>
      ) : (
        "It has lain open too long: what clumps goes back into the dryer first."
      )}
    </p>
  );
}

/** A jar shaken once a day: the days as they come, and one press. */
function Shakes({ step, act, busy }: Props) {
  const shakes = step.shakes;
  if (!shakes || step.phase === "waiting") return null;
  const days = Array.from({ length: shakes.of }, (_, n) => n);
  return (
    <section aria-label="Shaken" className="mt-4 border-line border-t-3 pt-3">
      <ul className="flex gap-2" aria-label={`Shaken on ${shakes.days} of ${shakes.of} days`}>
        {days.map((n) => (
          <li
            key={n}
            aria-hidden="true"
            className={`grid size-9 place-items-center border-2 border-line font-bold ${n < shakes.days ? "bg-leaf text-[#fffdf7]" : "bg-paper text-slate"}`}
          >
            {n + 1}
          </li>
        ))}
      </ul>
      {step.phase === "running" && (
        <Button
          className="mt-3"
          kind={shakes.today ? "plain" : "go"}
          disabled={busy || shakes.today}
          onClick={() => act({ act: "note", step: step.id, what: "shaken", words: "" })}
        >
          {shakes.today ? "Shaken today" : "Shaken: no drops on the glass"}
        </Button>
      )}
    </section>
  );
}

function Weigh({ step, act, busy }: Props) {
  const weighed = (value: number) => {
    const reading = { quantity: "tray_g" as const, value, said: "", instrument: "tray_scale" };
    act({ act: "reading", step: step.id, reading });
  };
  return <Grams label="What is on one tray weighs" press="Weighed" busy={busy} onGrams={weighed} />;
}

function howFar(load: TraysOfStep, phase: StepView["phase"]): string {
  const dry = `${mass(load.enough_g)} or less`;
  const end =
    load.role === "freeze_dry"
      ? `about ${mass(load.last_g)} a tray, the same twice an hour apart`
      : `${dry} a tray`;
  if (phase === "done") return `Dry: ${end}.`;
  if (load.dry) return "Dry by its weight: cool it, and try a piece.";
  const left = load.left_h;
  const span = `${minutes(60 * left.lo)} to ${minutes(60 * left.hi)}`;
  if (phase === "waiting")
    return `${plain(load.mm, 1)} mm, ${mass(load.each_g)} on each. It takes ${span}; dry at ${end}.`;
  const told = load.weighings.length > 0 ? "by its weight" : "not weighed yet";
  return `${span} more, ${told}. Dry at ${end}.`;
}
