import { useCallback, useState } from "react";
import { useKey } from "@/lib/use-key";
import { Dialog } from "@/ui/dialog";

const KEYS = [
  ["1 to 6", "the tags: Today, Plan, Cook, Shelf, Notes, Bench"],
  ["d", "done with the step in focus"],
  ["r", "a reading"],
  ["+", "more time"],
  ["u", "take the newest press back"],
  ["/", "find a jar"],
  ["?", "these keys"],
] as const;

export function KeysHelp() {
  const [open, setOpen] = useState(false);
  useKey(
    "?",
    useCallback(() => setOpen(true), []),
  );
  return (
    <Dialog open={open} onClose={() => setOpen(false)} title="Keys">
      <dl className="grid grid-cols-[5rem_1fr] gap-y-2 text-lg">
        {KEYS.map(([key, what]) => (
          <div key={key} className="contents">
            <dt className="font-bold">{key}</dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
    </Dialog>
  );
}
