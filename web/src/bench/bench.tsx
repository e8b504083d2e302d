import { keepPreviousData, queryOptions, useQuery } from "@tanstack/react-query";
import { Link, useParams } from "react-router";
import { api, body, Refused } from "@/api/client";
import { Answer, Beside } from "@/bench/answer";
import { Figure, Handle, Line } from "@/bench/figure";
import { Picture } from "@/bench/pictures/picture";
import { SUMS, sumOf } from "@/bench/questions";
import {
  asked,
  type Choice as Chosen,
  chosenIn,
  figuresIn,
  NOT_SAID,
  type Option,
  openedFrom,
  type Question,
} from "@/bench/sums";
import { useAddress } from "@/lib/address";
import { Choice } from "@/ui/choice";
import { Pick } from "@/ui/pick";

const sumQuery = (key: Question["key"], query: Record<string, string | number>) =>
  queryOptions({
    queryKey: ["bench", key, query],
    queryFn: ({ signal }) =>
      body(
        api.GET(`/api/bench/${key}` as "/api/bench/sweeten", {
          signal,
          params: { query: query as never },
        }),
      ),
    placeholderData: keepPreviousData,
    staleTime: 600_000,
    retry: false,
  });

const plankQuery = queryOptions({
  queryKey: ["bench"],
  queryFn: ({ signal }) => body(api.GET("/api/bench", { signal })),
  staleTime: 600_000,
});

/** A sum in hand, drawn large, and the others on the plank. Its figures live in the address. */
export function Bench() {
  const question = sumOf(useParams().sum);
  return (
    <>
      <h1 className="text-4xl">{question.title}</h1>
      <p className="mt-1 text-lg text-slate">{question.lead}</p>
      <InHand key={question.key} question={question} />
      <Plank open={question.key} />
    </>
  );
}

function InHand({ question }: { question: Question }) {
  const [address, change] = useAddress();
  const put = (key: string, value: string, without: string[] = []) =>
    change({ ...Object.fromEntries(without.map((gone) => [gone, null])), [key]: value });
  const chosen = chosenIn(question, address);
  const figures = figuresIn(question, address);
  const fields = question.fields(chosen);
  const found = useQuery(sumQuery(question.key, asked(question, address)));
  const moved = question.moves && (fields.find((f) => f.key === question.moves) ?? fields[0]);
  const refused = found.error instanceof Refused ? found.error : undefined;
  const from = openedFrom(address);
  const { line } = question;
  return (
    <>
      <div className="mt-4 grid items-start gap-x-10 gap-y-6 wide:grid-cols-[24rem_1fr_20rem]">
        <div className={fields.length === 0 && !line ? "hidden wide:block" : ""}>
          <Picture
            sum={question.key}
            draws={found.data?.draws ?? {}}
            curve={found.data?.curve ?? []}
          />
          {moved && (
            <Handle
              field={moved}
              value={figures[moved.key] ?? moved.usual}
              onChange={(value) => put(moved.key, String(value))}
            />
          )}
        </div>
        <div className="order-last grid gap-4 wide:order-none">
          {line && (
            <Line
              label={line.label}
              value={address.get(line.key) || line.usual}
              error={refused?.at(`/${line.key}`)}
              onChange={(value) => put(line.key, value)}
            />
          )}
          {question.choices(chosen).map((c) => (
            <OneOf
              key={c.key}
              choice={c}
              value={chosen[c.key] ?? c.usual}
              onChange={(next) => put(c.key, next, c.forgets)}
            />
          ))}
          <div className="grid grid-cols-2 gap-3">
            {fields.map((f) => (
              <Figure
                key={`${f.key}-${f.quantity}`}
                field={f}
                value={figures[f.key] ?? f.usual}
                error={refused?.at(`/${f.key}`)}
                onChange={(value) => put(f.key, String(value))}
              />
            ))}
          </div>
        </div>
        <Answer
          sum={found.data}
          refused={refused?.message}
          waiting={found.isPlaceholderData}
          back={from && `/cook/${from.batch}?step=${from.step}&sum=${question.key}`}
        />
      </div>
      {!refused && <Beside sum={found.data} />}
    </>
  );
}

type OneOfProps = { choice: Chosen; value: string; onChange: (value: string) => void };

/** A choice: of a few in sight, of a list in a drop-down. */
function OneOf({ choice, value, onChange }: OneOfProps) {
  const listed = useQuery(plankQuery).data?.[choice.list ?? ""];
  const options: Option[] = choice.options ?? listed ?? [];
  const all = choice.usual === NOT_SAID && choice.list ? [UNSAID, ...options] : options;
  if (all.length === 0) return null;
  const Of = all.length > MOST_BESIDE || choice.list ? Pick : Choice;
  return <Of label={choice.label} value={value} items={all} options={all} onChange={onChange} />;
}

/** Options that still stand beside each other on a phone. */
const MOST_BESIDE = 4;
const UNSAID: Option = { value: NOT_SAID, label: "not said" };

const AT_REST: Record<string, number> = {
  before: 10,
  after: 6,
  reads: 104,
  plain: 98,
  first: 0.5,
  second: 0.8,
  cold: 500,
  base: 0.3,
  share: 60,
};

/** What lies on the plank; the one in hand is underlined. */
function Plank({ open }: { open: Question["key"] }) {
  return (
    <nav aria-label="Sums" className="mt-6 wide:mt-2 print:hidden">
      <ul className="flex flex-wrap items-start gap-y-2">
        {SUMS.map((s) => (
          <li key={s.key} className="min-w-20 flex-1">
            <Link
              to={`/bench/${s.key}`}
              aria-current={s.key === open ? "page" : undefined}
              className="group block text-center"
            >
              <span className="flex justify-center">
                <Picture sum={s.key} draws={AT_REST} curve={[]} small />
              </span>
              <span aria-hidden="true" className="block h-2.5 border-line border-y-2 bg-wood" />
              <span
                className={`mt-1 inline-block min-h-9 leading-tight group-hover:underline ${s.key === open ? "border-elder border-b-4 font-bold text-elder" : ""}`}
              >
                {s.name}
              </span>
            </Link>
          </li>
        ))}
      </ul>
    </nav>
  );
}
