import { useQuery } from "@tanstack/react-query";
import { Link, useSearchParams } from "react-router";
import { shoppingQuery } from "@/api/queries";
import type { ShoppingView } from "@/api/types";
import { count } from "@/lib/format";
import { DEFER } from "@/lib/words";
import { useLines } from "@/lines/use-lines";
import { fromAddress, readable, request } from "@/plan/asked";
import { Button } from "@/ui/button";
import { Said, Waiting } from "@/ui/notice";
import { PdfOf } from "@/ui/pdf-of";

/** What a plan still needs: what is to be got, and jars and lids to have ready. */
export function Shopping() {
  const [params] = useSearchParams();
  const asked = fromAddress(params);
  const of = useLines(asked.lines.map((l) => l.text));
  const sent = request(asked, readable(of));
  const known = asked.lines.every((l) => of(l.text));
  const found = useQuery({ ...shoppingQuery(sent), enabled: known });
  if (found.error) return <Said error={found.error} />;
  if (!found.data) return <Waiting />;
  const list = found.data;
  return (
    <article className="grid max-w-3xl gap-5">
      <header>
        <h1 className="text-3xl">Shopping list</h1>
        <p className="text-lg text-slate">
          for{" "}
          <Link to={`/plan?${params}`} className="underline underline-offset-4">
            {list.title}
          </Link>
        </p>
      </header>
      <div className="flex flex-wrap gap-3 print:hidden">
        <Button onClick={() => window.print()}>Print</Button>
        <PdfOf path="/api/plans/shopping.pdf" body={sent} name="shopping-list.pdf" />
      </div>
      <GoesIn list={list} />
      {list.jars.length > 0 && <Jars list={list} />}
      <p className="hidden print:block">{DEFER}</p>
    </article>
  );
}

const ROW = "grid grid-cols-[1.6rem_1fr_auto] items-baseline gap-x-3 border-line border-b py-2";

function Box() {
  return (
    <span aria-hidden="true" className="size-5 self-center border-2 border-line bg-paper">
      &nbsp;
    </span>
  );
}

function GoesIn({ list }: { list: ShoppingView }) {
  return (
    <section aria-label="To get">
      <h2>To get</h2>
      <ul className="mt-1 text-xl">
        {list.goes_in.map((g) => (
          <li key={`${g.name} ${g.said}`} className={ROW}>
            <Box />
            <span>
              {g.name}
              {g.there_g > 0 && (
                <span className="block text-base text-slate">
                  {g.need} are needed, {g.get ? "the rest waits here" : "and wait here"}
                </span>
              )}
            </span>
            <b>{g.get || "all there"}</b>
          </li>
        ))}
      </ul>
    </section>
  );
}

function Jars({ list }: { list: ShoppingView }) {
  return (
    <section aria-label="Jars and lids">
      <h2>Jars and lids to have ready</h2>
      <p className="text-slate">nine times in ten, enough</p>
      <ul className="mt-1 text-xl">
        {list.jars.map((j) => (
          <li key={j.name} className={ROW}>
            <Box />
            <span>
              {j.need} × {j.name}
              {j.lids !== null && (
                <span className="block text-base text-slate">
                  {j.get_lids > 0
                    ? `${count(j.get_lids, "new lid")} to get, ${j.lids_there} there`
                    : "new lids are there"}
                </span>
              )}
            </span>
            <b>{j.get > 0 ? `${j.get} to get` : "all there"}</b>
          </li>
        ))}
      </ul>
    </section>
  );
}
