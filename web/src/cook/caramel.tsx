import type { StepView } from "@/api/types";
import type { Act } from "@/cook/act";
import { clock, temperature } from "@/lib/format";
import { useKey } from "@/lib/use-key";
import { useNow } from "@/lib/use-now";
import { Button } from "@/ui/button";

type Props = { step: StepView; act: Act; busy: boolean };

/** Sugar that colours: the next colour, the time, one button. Both hands are busy, nothing is asked. */
export function Caramel({ step, act, busy }: Props) {
  const now = useNow();
  const done = () => act({ act: "finish", step: step.id, said: {} });
  const running = step.phase === "running";
  useKey("d", done, running && !busy);
  const since = step.started_at ? (now - new Date(step.started_at).getTime()) / 1000 : 0;
  const stop = step.colours.findIndex((c) => c.stop);
  return (
    <div className="mt-4">
      <ol aria-label="Colours it goes through" className="grid grid-cols-7 border-2 border-line">
        {step.colours.map((c, i) => (
          <li key={c.word} className="min-w-0 text-center">
            <span
              className={`block h-24 wide:h-32 ${i === stop ? "outline-4 outline-elder -outline-offset-4" : ""}`}
              style={{ background: c.colour }}
            />
            <span
              className={`block bg-paper py-1 text-sm leading-tight wide:text-base ${i === stop ? "font-bold text-elder" : "text-slate"}`}
            >
              {c.word}
              <span className="block">{temperature(c.temp_c)}</span>
            </span>
          </li>
        ))}
      </ol>
      {running && (
        <p role="timer" className="mt-4 font-extrabold text-[4rem] leading-none wide:text-[5rem]">
          {clock(since)}
        </p>
      )}
      <div className="mt-4 grid">
        {running ? (
          <Button kind="go" size="large" keys="d" disabled={busy} onClick={done}>
            It is {step.colours[stop]?.word ?? "there"}: hot water in
          </Button>
        ) : (
          <Button
            kind="go"
            size="large"
            disabled={!step.ready || busy}
            onClick={() => act({ act: "start", step: step.id })}
          >
            {step.ready ? "Sugar is on" : `After: ${step.waits_for}`}
          </Button>
        )}
      </div>
    </div>
  );
}
