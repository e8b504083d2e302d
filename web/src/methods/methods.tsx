import { useQuery } from "@tanstack/react-query";
import { useRef } from "react";
import { Link } from "react-router";
import { kitchenQuery, methodsQuery } from "@/api/queries";
import type { KitchenView, MethodView } from "@/api/types";
import { hasWords } from "@/lib/words";
import { TakeIn } from "@/methods/take-in";
import { needs } from "@/methods/words";
import { Glass } from "@/ui/glass";
import { Empty, Waiting } from "@/ui/notice";
import { SearchField, useFind } from "@/ui/search-field";

/** Every method, those of the household first, found by words or fruit. */
export function Methods() {
  const methods = useQuery(methodsQuery("", "")).data;
  const kitchen = useQuery(kitchenQuery).data;
  const words = useFind();
  const box = useRef<HTMLInputElement>(null);
  if (!methods || !kitchen) return <Waiting />;
  const found = methods.filter(
    (m) => !words || hasWords(words, m.name, m.school, m.note, ...fruits(m, kitchen)),
  );
  const groups: [string, MethodView[]][] = [
    ["Our own", found.filter((m) => m.own)],
    ["For any fruit that it suits", found.filter((m) => !m.own && m.fruits.length === 0)],
    ["Made for some", found.filter((m) => !m.own && m.fruits.length > 0)],
  ];
  return (
    <>
      <div className="grid items-start gap-4 wide:grid-cols-[1fr_22rem]">
        <h1 className="text-4xl">Methods</h1>
        <SearchField
          label="Find a method by words or fruit"
          placeholder="find: quince, steep, honey"
          box={box}
        />
      </div>
      <TakeIn />
      {found.length === 0 && <Empty>{`No method matches "${words}".`}</Empty>}
      {groups
        .filter(([, list]) => list.length > 0)
        .map(([name, list]) => (
          <section key={name} aria-label={name} className="mt-5">
            <h2>{name}</h2>
            <ul className="mt-1 grid gap-x-10 wide:grid-cols-2">
              {list.map((m) => (
                <li key={m.key} className="border-slate/40 border-b">
                  <Link
                    to={`/methods/${m.key}`}
                    className="grid grid-cols-[2rem_1fr] items-center gap-x-3 py-2 hover:bg-tag"
                  >
                    <Glass radiusMm={30} heightMm={78} scale={0.4} level={0.9} colour={m.colour} />
                    <span>
                      <span className="block font-bold text-lg leading-tight">{m.name}</span>
                      <span className="block text-base text-slate">
                        {[m.school, needs(m)].filter(Boolean).join(" · ")}
                      </span>
                    </span>
                  </Link>
                </li>
              ))}
            </ul>
          </section>
        ))}
    </>
  );
}

/** The names of the fruits that a method was made for. */
const fruits = (method: MethodView, kitchen: KitchenView): string[] =>
  method.fruits.map((key) => kitchen.fruits.find((f) => f.key === key)?.name ?? key);
