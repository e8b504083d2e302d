import { useEffect, useRef, useState } from "react";
import type { BatchView, MishapView, StepView } from "@/api/types";
import type { Act } from "@/cook/act";
import { Button } from "@/ui/button";
import { Dialog } from "@/ui/dialog";
import { TextField } from "@/ui/field";
import { Said } from "@/ui/notice";

type Props = {
  open: boolean;
  onClose: () => void;
  batch: BatchView;
  step: StepView;
  act: Act;
  onHappened: (mishap: MishapView) => void;
  error: Error | null;
};

/** What goes wrong at this step, a press each; anything else in words. */
export function ProblemSheet({ open, onClose, batch, step, act, onHappened, error }: Props) {
  const [words, setWords] = useState("");
  return (
    <Dialog open={open} onClose={onClose} title="What went wrong?" lead={step.title}>
      <ul className="grid gap-4">
        {step.mishaps.map((mishap) => (
          <li key={mishap.key}>
            <Row
              mishap={mishap}
              batch={batch}
              step={step}
              onPress={(said) =>
                act({ act: "mishap", step: step.id, what: mishap.key, ...said }, () =>
                  onHappened(mishap),
                )
              }
            />
          </li>
        ))}
      </ul>
      <form
        className="mt-5 grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          act({ act: "note", step: step.id, what: "problem", words }, () => setWords(""));
        }}
      >
        <TextField label="Something else" value={words} onChange={setWords} />
        <Said error={error} />
        <Button type="submit" disabled={words.trim() === ""}>
          Write it down
        </Button>
      </form>
    </Dialog>
  );
}

type RowProps = {
  mishap: MishapView;
  batch: BatchView;
  step: StepView;
  onPress: (said: { amount?: string; jars?: number[] }) => void;
};

/** One mishap: a press, or one for each amount or jar that it may be. */
function Row({ mishap, batch, step, onPress }: RowProps) {
  if (mishap.asks === "")
    return (
      <Button className="w-full text-left" onClick={() => onPress({})}>
        {mishap.title}
      </Button>
    );
  const jars = batch.jars.filter((j) => step.jar_ids.includes(j.id));
  const presses =
    mishap.asks === "jar"
      ? jars.map((j) => ({ name: j.code.split("-").at(-1) ?? j.code, said: { jars: [j.id] } }))
      : mishap.amounts.map((amount) => ({ name: amount, said: { amount } }));
  return (
    <fieldset className="border-2 border-line p-3 pt-1">
      <legend className="px-1 font-bold font-display text-lg">{mishap.title}</legend>
      <div className="flex flex-wrap gap-2">
        {presses.map((press) => (
          <Button
            key={press.name}
            size="small"
            className="min-w-14"
            aria-label={`${mishap.title}: ${press.name}`}
            onClick={() => onPress(press.said)}
          >
            {press.name}
          </Button>
        ))}
      </div>
    </fieldset>
  );
}

/** What to do now, what it means and what it changed: it stays until somebody has read it. */
export function Happened({ mishap, onRead }: { mishap: MishapView; onRead: () => void }) {
  const box = useRef<HTMLElement>(null);
  useEffect(() => {
    box.current?.scrollIntoView({ block: "center" });
  }, []);
  return (
    <section
      ref={box}
      aria-label={mishap.title}
      className="mt-4 border-2 border-brass bg-paper p-4 text-xl"
    >
      <h3 className="text-2xl">{mishap.title}: written down</h3>
      <p className="mt-2 font-bold">{mishap.now}</p>
      <p className="mt-2">{mishap.means}</p>
      <p className="mt-2 text-lg text-slate">{mishap.changes}</p>
      <Button className="mt-3" onClick={onRead}>
        Done with that
      </Button>
    </section>
  );
}

/** First aid for a burn, apart from everything else and never more than a press away. */
export function Burns({ words }: { words: string }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button kind="quiet" size="small" className="text-hip" onClick={() => setOpen(true)}>
        Somebody is burned
      </Button>
      <Dialog open={open} onClose={() => setOpen(false)} title="A burn">
        <p className="text-2xl leading-snug">{words}</p>
      </Dialog>
    </>
  );
}
