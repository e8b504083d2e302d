import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { batchesQuery, besideQuery } from "@/api/queries";
import { Pick } from "@/ui/pick";

/** Why a batch came out as it did: another one laid beside it, what explains most first. */
export function Beside({ batch }: { batch: { id: number } }) {
  const others = (useQuery(batchesQuery).data ?? []).filter((b) => b.id !== batch.id);
  const [other, setOther] = useState("");
  const found = useQuery({ ...besideQuery(batch.id, Number(other)), enabled: other !== "" }).data;
  if (others.length === 0) return null;
  return (
    <section aria-label="Beside another batch" className="mt-6 max-w-xl">
      <Pick
        label="Why did it come out so? Lay another batch beside it"
        value={other}
        items={others.map((b) => ({ value: String(b.id), label: `${b.code}, ${b.title}` }))}
        onChange={setOther}
      />
      {found && (
        <div role="status" className="mt-3">
          <p className="font-bold text-xl">{headline(found)}</p>
          <ol className="ml-5 list-decimal text-lg">
            {found.differences.map((words) => (
              <li key={words}>{words}</li>
            ))}
          </ol>
        </div>
      )}
    </section>
  );
}

type Found = { code: string; other: string; thicker: boolean | null; differences: string[] };

function headline({ code, other, thicker, differences }: Found): string {
  if (differences.length === 0) return `${code} and ${other} are alike in every figure there is.`;
  if (thicker === null) return `${code} beside ${other}:`;
  return `${code} is the ${thicker ? "thicker" : "thinner"} of the two, since against ${other} it has:`;
}
