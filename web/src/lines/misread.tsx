import { useState } from "react";
import { useNameIngredient } from "@/api/changes";
import type { LineView } from "@/api/types";
import { Button } from "@/ui/button";
import { Said } from "@/ui/notice";
import { Tick } from "@/ui/tick";

type Wrong = NonNullable<LineView["wrong"]>;
type Props = { text: string; wrong: Wrong; onChoose: (line: string) => void };

/** Why a line cannot be read, the place marked; what it could mean, or what a new thing is like. */
export function Misread({ text, wrong, onChoose }: Props) {
  const { start, end } = wrong;
  return (
    <div className="mt-1 grid gap-2">
      <p>
        <span>{text.slice(0, start)}</span>
        <mark className="bg-transparent font-bold text-hip underline decoration-2 decoration-wavy underline-offset-4">
          {text.slice(start, end) || "…"}
        </mark>
        <span>{text.slice(end)}</span>
        <span className="block text-ink">{wrong.message}</span>
      </p>
      {(wrong.choices?.length ?? 0) > 0 && (
        <div className="flex flex-wrap gap-2">
          {wrong.choices?.map((c) => (
            <Button key={c.line} size="small" onClick={() => onChoose(c.line)}>
              {c.words}
            </Button>
          ))}
        </div>
      )}
      {wrong.new_name && <NewThing name={wrong.new_name} likely={wrong.counts_as ?? ""} />}
    </div>
  );
}

/** Something that no list knows: the questions that matter, then it is the household's own. */
function NewThing({ name, likely }: { name: string; likely: string }) {
  const keep = useNameIngredient();
  const [is, setIs] = useState({
    sweet: likely.includes("sweet"),
    sour: likely.includes("sour"),
    rich: likely.includes("rich"),
  });
  const ask = (key: keyof typeof is, label: string) => (
    <Tick label={label} on={is[key]} onChange={() => setIs({ ...is, [key]: !is[key] })} />
  );
  return (
    <div className="border-2 border-line bg-paper p-3">
      <p className="font-bold">Is it any of these: {name}?</p>
      {ask("sweet", "sweet")}
      {ask("sour", "sour")}
      {ask("rich", "fat, starch or milk in it")}
      <p className="mt-1 text-slate">
        It becomes your own ingredient. Nobody has tested it for the shelf: what it goes into is
        chilled or frozen.
      </p>
      <Button
        size="small"
        className="mt-2"
        disabled={keep.isPending}
        onClick={() => keep.mutate({ name, ...is })}
      >
        Keep {name}
      </Button>
      <Said error={keep.error} />
    </div>
  );
}
