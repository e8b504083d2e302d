import { useNavigate } from "react-router";
import { useStartBatch } from "@/api/changes";
import type { EndView, PlanCreate, PlanView } from "@/api/types";
import { boiledIn, filled, keptAs } from "@/methods/words";
import { AtFoot } from "@/ui/at-foot";
import { Button } from "@/ui/button";
import { Said } from "@/ui/notice";
import { Mark } from "@/ui/verdict";

type Props = { sent: PlanCreate; plan: PlanView | undefined; blocked: boolean };

/** The press that starts a batch, with what stands in its way. */
export function Start({ sent, plan, blocked }: Props) {
  const start = useStartBatch();
  const navigate = useNavigate();
  const may = plan?.may_start && !blocked;
  return (
    <>
      <div className="flex items-center gap-4">
        {plan && !may && (
          <p className="hidden max-w-56 font-bold text-hip leading-tight wide:block">
            {plan.may_start ? "A line is not understood yet." : "A stop stands. Resolve it first."}
          </p>
        )}
        <Button
          kind="go"
          size="large"
          className="w-full !min-h-13 wide:!min-h-16 wide:w-auto"
          disabled={!may || start.isPending}
          onClick={() =>
            start.mutate(sent, { onSuccess: (batch) => navigate(`/cook/${batch.id}`) })
          }
        >
          Start this batch
        </Button>
      </div>
      <Said error={start.error} />
    </>
  );
}

/** On a phone the verdict in short and the press to start stay in sight. */
export function StartAtFoot(props: Props) {
  return (
    <AtFoot>
      <div className="border-line border-t-2 bg-linen px-4 py-2 wide:hidden print:hidden">
        <ul className="mb-1.5">
          {props.plan?.ends.map((end) => (
            <InShort key={end.key} end={end} />
          ))}
        </ul>
        <Start {...props} />
      </div>
    </AtFoot>
  );
}

/** An end in one line: its jars and what is to be done with them, or what stands in the way. */
function InShort({ end }: { end: EndView }) {
  const stop = end.findings.find((f) => f.level === "stop");
  const then = end.process
    ? `${end.process.minutes} min in ${boiledIn(end.process)}`
    : keptAs(end.keep).stands;
  return (
    <li className="flex gap-2 leading-tight">
      <Mark level={stop ? "stop" : "yes"} />
      <span className={stop ? "font-bold text-hip" : ""}>
        {stop?.message ?? `${filled(end)}, ${then}`}
      </span>
    </li>
  );
}
