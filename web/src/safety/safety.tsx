import { useQuery } from "@tanstack/react-query";
import { safetyQuery } from "@/api/queries";
import type { RuleRow, TimeRow } from "@/api/types";
import { jarSize, plain, room, temperature } from "@/lib/format";
import { hasWords } from "@/lib/words";
import { Card } from "@/safety/card";
import { OwnProcesses } from "@/safety/own";
import { Button } from "@/ui/button";
import { Empty, Waiting } from "@/ui/notice";
import { SearchField, useFind } from "@/ui/search-field";
import { Mark } from "@/ui/verdict";

/** Every tested time and every rule with its source; a card of this kitchen's times to print. */
export function Safety() {
  const safety = useQuery(safetyQuery).data;
  const words = useFind();
  if (!safety) return <Waiting />;
  const times = safety.times.filter((t) =>
    hasWords(words, t.product, t.fruits.join(" "), t.source, t.note),
  );
  const rules = safety.rules.filter((r) =>
    hasWords(words, r.message, r.remedy, r.source, r.level, r.id),
  );
  return (
    <>
      <div className="grid items-start gap-4 wide:grid-cols-[1fr_22rem] print:hidden">
        <div>
          <h1 className="text-4xl">Tested times and rules</h1>
          <p className="mt-1 text-lg text-slate">
            nothing here can be pressed away; your own food authority comes first
          </p>
        </div>
        <SearchField label="Find a time or a rule" placeholder="find: syrup, damson, headspace" />
      </div>
      <Card safety={safety} />
      <div className="mt-3 print:hidden">
        <Button onClick={() => window.print()}>Print the card</Button>
      </div>
      <OwnProcesses safety={safety} />
      <section className="mt-8 print:hidden">
        <h2>Every row of the tables</h2>
        <ul className="mt-2 grid gap-x-10 gap-y-4 wide:grid-cols-2">
          {times.map((t) => (
            <Time key={t.row} time={t} />
          ))}
        </ul>
      </section>
      <section className="mt-8 print:hidden">
        <h2>Every rule</h2>
        <ul className="mt-2 grid gap-x-10 gap-y-4 wide:grid-cols-2">
          {rules.map((r) => (
            <Rule key={r.id} rule={r} />
          ))}
        </ul>
      </section>
      {times.length + rules.length === 0 && (
        <div className="mt-6">
          <Empty>Nothing here speaks of "{words}". What is not listed counts as untested.</Empty>
        </div>
      )}
    </>
  );
}

function Time({ time }: { time: TimeRow }) {
  return (
    <li className="flex gap-3 border-slate/40 border-t pt-2">
      <Mark level={time.minutes_here === null ? "stop" : "yes"} />
      <div>
        <p className="font-bold text-lg">
          {time.product}
          {time.minutes_here === null
            ? ": no tested time"
            : `, to ${jarSize(time.jar_ml)}: ${time.minutes_here} min here`}
        </p>
        <p className="text-slate">
          {time.fruits.join(", ")}
          {time.minutes_here !== null &&
            ` · by altitude ${time.bands.join(", ")} min · fill at ${temperature(time.fill_c)}, ${room(time.headspace_mm)} of room`}
          {time.max_ph !== null && ` · to pH ${plain(time.max_ph)}, ${time.gate}`}
        </p>
        <p className="text-slate">
          {time.source}
          {time.note && `; ${time.note}`}
        </p>
      </div>
    </li>
  );
}

function Rule({ rule }: { rule: RuleRow }) {
  return (
    <li className="flex gap-3 border-slate/40 border-t pt-2">
      <Mark level={rule.level as "stop"} />
      <div>
        <p className="font-bold text-lg">
          <span className="sr-only">{rule.level}: </span>
          {rule.message}
        </p>
        {rule.remedy && <p className="text-slate">{rule.remedy}</p>}
        <p className="text-slate">{rule.source}</p>
      </div>
    </li>
  );
}
