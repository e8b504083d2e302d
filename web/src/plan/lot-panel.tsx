import { useQuery } from "@tanstack/react-query";
import { followingQuery } from "@/api/queries";
import type { PlanView } from "@/api/types";
import { groupOf } from "@/flow/layout";
import { detail } from "@/flow/words";
import type { Asking } from "@/plan/asked";
import { Desk } from "@/plan/desk";
import { flowSent, useFlow } from "@/plan/edit-flow";
import { Button } from "@/ui/button";
import { Said } from "@/ui/notice";

type Props = Asking & {
  plan: PlanView;
  lot: string | null;
  onClose: () => void;
};

/** A lot of the flow: its figures, and what else could be done with it. */
export function LotPanel({ asked, change, plan, lot, onClose }: Props) {
  const flow = useFlow(asked, plan, change);
  const lots = plan.lots.filter((l) => groupOf(l.key) === lot);
  const sent = flowSent(asked, plan);
  const possible = useQuery({
    ...followingQuery({ ...sent, lot: lot ?? "" }),
    enabled: lots.length > 0,
  }).data?.following;
  if (!lot || lots.length === 0) return null;
  const used = plan.operations.some((o) => o.takes.some((t) => groupOf(t) === lot));
  return (
    <Desk
      onClose={onClose}
      title={lots[0]?.name.replace(/, load \d+$/, "") ?? ""}
      lead={detail(lots)}
    >
      <h3 className="text-elder text-xl">
        {used ? "Put a step after it" : "Nothing is done with it yet"}
      </h3>
      {possible?.length === 0 && <p className="mt-1 text-lg">No other step fits here.</p>}
      <div className="mt-2 grid grid-cols-2 gap-2 wide:grid-cols-4">
        {possible?.map((p) => (
          <Button
            key={p.kind}
            size="small"
            disabled={flow.busy}
            onClick={() => flow.make({ act: "insert", lot, kind: p.kind }, onClose)}
          >
            {p.verb}
          </Button>
        ))}
      </div>
      {possible?.some((p) => p.role === "part") && (
        <Button
          kind="go"
          className="mt-3"
          disabled={flow.busy}
          onClick={() => flow.make({ act: "part", lot }, onClose)}
        >
          Part it: one more product
        </Button>
      )}
      <div className="mt-3">
        <Said error={flow.error} />
      </div>
    </Desk>
  );
}
