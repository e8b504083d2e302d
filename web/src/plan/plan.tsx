import { useQuery } from "@tanstack/react-query";
import { Refused } from "@/api/client";
import { kitchenQuery, planQuery } from "@/api/queries";
import type { PlanView } from "@/api/types";
import { useLast } from "@/lib/use-last";
import { useLines } from "@/lines/use-lines";
import { keptAs } from "@/methods/words";
import { AsMuchAs } from "@/plan/as-much-as";
import { readable, useAsked, useSent } from "@/plan/asked";
import { BatchSheet } from "@/plan/batch-sheet";
import { Ends } from "@/plan/ends";
import { GoesIn } from "@/plan/goes-in";
import { How } from "@/plan/how";
import { KeepMethod } from "@/plan/keep-method";
import { Picture } from "@/plan/picture";
import { Start, StartAtFoot } from "@/plan/start";
import { Trays } from "@/plan/trays";
import { Said, Waiting } from "@/ui/notice";

/** Plan, the desk: what goes in, the ribbon to the jars, every end with its verdict. */
export function Plan() {
  const [asked, change] = useAsked();
  const kitchen = useQuery(kitchenQuery).data;
  const of = useLines(asked.lines.map((l) => l.text));
  const { sent, places } = useSent(asked, of);
  const planned = useQuery({ ...planQuery(sent), enabled: (sent.inputs?.length ?? 0) > 0 });
  const plan = useLast(planned.data);
  const refused = planned.error instanceof Refused ? planned.error : undefined;
  if (!kitchen) return <Waiting />;
  const may = readable(of);
  const left = asked.lines.filter((l) => !may(l)).length;
  const pale = refused ? "opacity-40" : "";
  const asking = { asked, change, sent, places };
  const starts = { sent, plan, blocked: Boolean(refused) || left > 0 };
  return (
    <div
      aria-busy={planned.isFetching}
      className="grid gap-6 print:block wide:grid-cols-[17.5rem_minmax(0,1fr)_16.5rem] wide:grid-rows-[auto_1fr] wide:gap-x-8 wide:gap-y-3"
    >
      <header className="flex items-start justify-between gap-x-6 gap-y-3 wide:col-span-3">
        <div className="min-w-0">
          <h1 className="text-3xl">{plan?.title ?? "A new batch"}</h1>
          <p className="mt-1 text-slate">{plan && subtitle(plan, asked.from)}</p>
          {plan && <KeepMethod {...asking} plan={plan} />}
        </div>
        <div className="hidden shrink-0 wide:block print:hidden">
          <Start {...starts} />
        </div>
      </header>
      <div className="grid content-start gap-4 wide:row-start-2 print:hidden">
        <GoesIn
          {...asking}
          kitchen={kitchen}
          plan={plan}
          of={of}
          wrong={(n) => refused?.at(`/inputs/${places.indexOf(n)}`)}
        />
        <AsMuchAs {...asking} plan={plan} kitchen={kitchen} refused={refused} />
        <How {...asking} plan={plan} kitchen={kitchen} refused={refused} />
      </div>
      <section
        aria-label="The flow"
        className={`order-1 min-w-0 pt-5 wide:pt-0 wide:order-none wide:row-start-2 ${pale}`}
      >
        {plan && <Trays plan={plan} />}
        {plan && <Picture {...asking} plan={plan} />}
      </section>
      <aside className="print:hidden wide:row-start-2">
        {refused && !saidAtItsPlace(refused) && <Said error={refused} />}
        {plan && (
          <div className={pale}>
            <Ends
              {...asking}
              plan={plan}
              kitchen={kitchen}
              wrong={(key, field) =>
                refused?.at(`/ends/${sent.ends?.findIndex((e) => e.key === key)}/${field}`)
              }
            />
          </div>
        )}
      </aside>
      {plan && <BatchSheet plan={plan} asked={asked} />}
      <StartAtFoot {...starts} />
    </div>
  );
}

/** Whether a refusal stands beside what it is about: a line, an end, or how it is done. */
const saidAtItsPlace = ({ problem }: Refused): boolean =>
  problem.errors?.some(({ pointer }) => AT_ITS_PLACE.test(pointer)) ?? false;

const AT_ITS_PLACE = /^\/(inputs\/\d|ends\/\d+\/(jar_kinds|name)|method_key|loads|all_there_is)/;

function subtitle(plan: PlanView, from: string): string {
  const where = [...new Set(plan.ends.map((e) => keptAs(e.keep).meant))].join(", ");
  const { name, school, adapted_from, version, own } = plan.method;
  const whose = from || adapted_from ? `, adapted from ${from || adapted_from}` : "";
  return `${where} · ${name.toLowerCase()}${own ? `, version ${version}` : ""}${whose} · ${school}`;
}
