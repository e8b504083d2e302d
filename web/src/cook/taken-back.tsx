import { useCallback } from "react";
import { useChange } from "@/api/changes";
import type { BatchView } from "@/api/types";
import { useKey } from "@/lib/use-key";
import { useNow } from "@/lib/use-now";
import { AtFoot } from "@/ui/at-foot";
import { Button } from "@/ui/button";

/** For ten seconds after a press: what it was, and one press that takes it back. */
export function TakenBack({ batch }: { batch: BatchView }) {
  const change = useChange(batch.id);
  const now = useNow(500);
  const until = batch.press ? new Date(batch.press.until).getTime() : 0;
  const left = Math.min(10, Math.ceil((until - now) / 1000));
  const open = left > 0 && !change.isPending;
  const { mutate } = change;
  const takeBack = useCallback(() => mutate({ act: "take-back" }), [mutate]);
  useKey("u", takeBack, open);
  if (!open) return null;
  return (
    <AtFoot>
      <div className="border-line border-t-2 bg-tag px-3 py-2">
        <div className="mx-auto flex max-w-[80rem] items-center justify-between gap-4 wide:px-6">
          <p className="min-w-0 truncate text-lg">{batch.press?.step}: pressed</p>
          <Button size="small" keys="u" className="shrink-0 px-6" onClick={takeBack}>
            Take it back ({left})
          </Button>
        </div>
      </div>
    </AtFoot>
  );
}
