import { useQuery } from "@tanstack/react-query";
import { Collapsible } from "radix-ui";
import { useState } from "react";
import { swapsQuery } from "@/api/queries";
import type { PlanCreate } from "@/api/types";

type Props = {
  sent: PlanCreate;
  place: number;
  /** The line, and the name under which it takes the place of what the method puts in. */
  onChoose: (line: string, key: string) => void;
};

/** What could sweeten instead, as sweet or to the same Brix, and what each changes in the jar. */
export function Swaps({ sent, place, onChoose }: Props) {
  const [open, setOpen] = useState(false);
  const swaps = useQuery({ ...swapsQuery(sent, place), enabled: open }).data;
  return (
    <Collapsible.Root open={open} onOpenChange={setOpen}>
      <Collapsible.Trigger className="min-h-9 text-left underline decoration-dotted underline-offset-4">
        Sweeten it with something else
      </Collapsible.Trigger>
      <Collapsible.Content>
        <ul className="grid gap-1">
          {swaps?.map((s) => (
            <li key={s.name}>
              <button
                type="button"
                onClick={() => onChoose(s.line, s.key)}
                className="min-h-11 w-full border-2 border-line bg-paper px-2 py-1 text-left leading-tight"
              >
                <b>{s.line}</b>
                <span className="block text-base text-slate">
                  {[s.same, ...s.changes].join(" · ")}
                </span>
              </button>
            </li>
          ))}
        </ul>
        {swaps?.length === 0 && (
          <p className="text-slate">Nothing else that is known sweetens it so.</p>
        )}
      </Collapsible.Content>
    </Collapsible.Root>
  );
}
