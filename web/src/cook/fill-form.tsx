import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Refused } from "@/api/client";
import { kitchenQuery } from "@/api/queries";
import type { BatchView, JarKind, StepView } from "@/api/types";
import type { Act } from "@/cook/act";
import { litres, litresRange, plain, room } from "@/lib/format";
import { measureOf, shown } from "@/lib/units";
import { inSentence } from "@/lib/words";
import { SaidAmount, useSaid } from "@/lines/said-amount";
import { Button } from "@/ui/button";
import { Choice } from "@/ui/choice";
import { Foot } from "@/ui/foot";
import { Said } from "@/ui/notice";
import { Pick } from "@/ui/pick";
import { Tick } from "@/ui/tick";

type Props = { batch: BatchView; step: StepView; act: Act; error: Error | null; busy: boolean };

/** The jars really filled, counted with two thumbs; the part-filled last one apart. */
export function FillForm({ batch, step, act, error, busy }: Props) {
  const end = batch.ends.find((e) => e.step_id === step.id);
  const keep = end?.keep ?? "shelf";
  const all = useQuery(kitchenQuery).data?.jar_kinds ?? [];
  const kinds = all.filter(
    (k) => k.jars > 0 && (keep === "shelf" ? !k.own : k.keeps.includes(keep)),
  );
  const [counts, setCounts] = useState<Record<string, number>>(() =>
    Object.fromEntries(step.packing.map((p) => [p.kind, p.count])),
  );
  const [rest, setRest] = useState<"apart" | "shared">("apart");
  const shareRest = (how: "apart" | "shared") => {
    setRest(how);
    const jars = how === "shared" ? step.shared : step.packing;
    setCounts(Object.fromEntries(jars.map((p) => [p.kind, p.count])));
  };
  const small = measureOf("little_ml");
  const [more, setMore] = useState(false);
  const [said, setSaid] = useState<string[]>([]);
  const [part, setPart] = useState({
    kind: step.part_kind ?? step.packing[0]?.kind ?? "",
    holds: {
      text: step.part_ml > 0 ? plain(shown(step.part_ml, small), small.factor > 1 ? 0.5 : 10) : "",
      words: false,
    },
  });
  const listed = kinds.filter((k) => more || (counts[k.key] ?? 0) > 0);
  const refused = error instanceof Refused ? error : undefined;
  const held = useSaid(part.holds, "volume_ml", "little_ml") ?? 0;
  const apart = keep !== "now" && !step.in_parts;
  const partMl = rest === "shared" || !apart ? 0 : held;
  const partSaid = rest === "apart" && part.holds.words ? part.holds.text.trim() : "";
  const filled =
    kinds.reduce((sum, k) => sum + (counts[k.key] ?? 0) * (step.rooms[k.key] ?? k.nominal_ml), 0) +
    partMl;
  return (
    <form
      className="grid gap-4"
      onSubmit={(e) => {
        e.preventDefault();
        const jars = Object.entries(counts).map(([kind, count]) => ({ kind, count }));
        act({
          act: "finish",
          step: step.id,
          said: {
            jars,
            part_kind: apart && (partMl > 0 || partSaid) ? part.kind : null,
            part_ml: apart ? partMl : 0,
            part_said: apart ? partSaid : "",
            shared: rest === "shared",
            said,
            more: step.in_parts,
          },
        });
      }}
    >
      <p className="text-lg">
        {step.look_for}. {litresRange(step.left_l ?? end?.litres ?? batch.juice_l)} in the pot
        {keep === "now" ? "." : `, ${litres(filled)} counted here.`}
      </p>
      {step.to_come.length > 0 && (
        <p className="border-elder border-l-6 pl-3 text-lg">
          {step.in_parts
            ? `Full jars only: what is left stays in the pot, hot. Still to come: ${step.to_come.map(inSentence).join(", ")}.`
            : `Wait for it all: ${step.to_come.map(inSentence).join(", ")}.`}
        </p>
      )}
      {listed.map((k) => (
        <Counter
          key={k.key}
          kind={k}
          count={counts[k.key] ?? 0}
          onChange={(n) => setCounts({ ...counts, [k.key]: n })}
        />
      ))}
      {!more && keep !== "now" && kinds.length > listed.length && (
        <Button kind="quiet" size="small" onClick={() => setMore(true)}>
          Another size too
        </Button>
      )}
      {step.questions.map((q) => (
        <Tick
          key={q.word}
          label={q.ask}
          on={said.includes(q.word)}
          onChange={(on) => setSaid(on ? [...said, q.word] : said.filter((w) => w !== q.word))}
        />
      ))}
      {refused?.at("/jars") && (
        <p role="alert" className="font-bold text-hip text-lg">
          {refused.at("/jars")}
        </p>
      )}
      {apart && <div className="stitch" />}
      {apart && step.shared.length > 0 && (
        <Choice
          label="What is left over"
          value={rest}
          onChange={shareRest}
          options={[
            { value: "apart", label: "in a jar apart" },
            { value: "shared", label: "shared among all" },
          ]}
          note={rest === "shared" ? roomWords(step.shared_off_mm) : undefined}
        />
      )}
      {rest === "apart" && apart && (
        <>
          <p className="text-lg">
            <b>The last one, part-filled</b>:{" "}
            {keep === "shelf"
              ? "not processed, straight to the refrigerator, used first."
              : "it goes with the others."}
          </p>
          <div className="grid grid-cols-2 gap-3">
            <SaidAmount
              label="Holds"
              quantity="volume_ml"
              unitOf="little_ml"
              said={part.holds}
              onChange={(holds) => setPart({ ...part, holds })}
              error={refused?.at("/part_ml")}
            />
            <Pick
              label="In a"
              value={part.kind}
              items={kinds.map((k) => ({ value: k.key, label: k.name }))}
              onChange={(kind) => setPart({ ...part, kind })}
            />
          </div>
        </>
      )}
      {!refused?.problem.errors?.length && <Said error={error} />}
      <Foot>
        <Button kind="go" size="large" className="grow" type="submit" disabled={busy}>
          {keep === "now" ? "Poured" : step.in_parts ? "Filled, more to come" : "Filled"}
        </Button>
      </Foot>
    </form>
  );
}

/** What sharing does to the room under every lid. */
function roomWords(offMm: number): string {
  const much = room(Math.abs(offMm));
  if (/^0 /.test(much)) return "The room under the lids stays as it is.";
  return `Every jar has ${much} ${offMm > 0 ? "more" : "less"} room under its lid than on the step.`;
}

function Counter({
  kind,
  count,
  onChange,
}: {
  kind: JarKind;
  count: number;
  onChange: (n: number) => void;
}) {
  return (
    <div className="grid grid-cols-[1fr_4rem_5rem_4rem] items-stretch gap-2">
      <span className="self-center text-xl">{kind.name}</span>
      <Button
        aria-label={`One ${kind.name} fewer`}
        disabled={count === 0}
        onClick={() => onChange(count - 1)}
      >
        −
      </Button>
      <input
        aria-label={`Full ${kind.name} jars`}
        inputMode="numeric"
        value={count}
        onChange={(e) => onChange(Math.max(0, Number.parseInt(e.target.value, 10) || 0))}
        className="border-2 border-line bg-paper text-center font-bold text-2xl"
      />
      <Button aria-label={`One ${kind.name} more`} onClick={() => onChange(count + 1)}>
        +
      </Button>
    </div>
  );
}
