import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Link, useNavigate, useParams } from "react-router";
import { Refused } from "@/api/client";
import { methodsQuery, planQuery } from "@/api/queries";
import type { MethodView, PlanView } from "@/api/types";
import { useAddress, useTyped } from "@/lib/address";
import { Recipe } from "@/methods/recipe";
import { SideBySide } from "@/methods/side-by-side";
import { asText, needs } from "@/methods/words";
import { type Asked, FIRST, request, toAddress } from "@/plan/asked";
import { Button } from "@/ui/button";
import { TextField } from "@/ui/field";
import { FileLink } from "@/ui/file-link";
import { Empty, Said, Waiting } from "@/ui/notice";
import { PdfOf } from "@/ui/pdf-of";
import { Pick } from "@/ui/pick";

/** A method to read, copy, print, or lay beside another, for as much as one likes. */
export function MethodPage() {
  const { methodKey = "" } = useParams();
  const [address, change] = useAddress();
  const methods = useQuery(methodsQuery("", "")).data;
  const method = methods?.find((m) => m.key === methodKey);
  const line = address.get("of") ?? method?.example ?? "";
  const [words, setWords] = useTyped("of", method?.example);
  const withKey = address.get("beside") ?? "";
  const plan = usePlanned(method, line);
  const other = usePlanned(
    methods?.find((m) => m.key === withKey),
    line,
  );
  if (!methods) return <Waiting />;
  if (!method) return <Empty>There is no such method in this household.</Empty>;
  return (
    <article className="grid gap-5">
      <header className="grid gap-x-8 gap-y-3 wide:grid-cols-[1fr_17rem]">
        <div>
          <p className="print:hidden">
            <Link to="/methods" className="underline decoration-dotted underline-offset-4">
              all methods
            </Link>
          </p>
          <h1 className="text-3xl">{method.name}</h1>
          <p className="text-lg text-slate">{about(method)}</p>
          {method.note && <p className="mt-1 max-w-prose text-lg">{method.note}</p>}
        </div>
        <div className="grid content-start gap-2 print:hidden">
          <TextField label="Shown for" value={words} onChange={setWords} />
          <Pick
            label="Beside it"
            value={withKey || "-"}
            items={[
              { value: "-", label: "nothing" },
              ...methods
                .filter((m) => m.key !== method.key && together(m, method))
                .map((m) => ({ value: m.key, label: m.name })),
            ]}
            onChange={(key) => change({ beside: key === "-" ? null : key })}
          />
        </div>
      </header>
      <Said error={plan.error ?? other.error} />
      {plan.data && (
        <>
          <Actions plan={plan.data} method={method} line={line} />
          {other.data ? (
            <>
              <div className="grid grid-cols-2 gap-x-4 font-bold font-display text-xl">
                <span>{method.name}</span>
                <span>{other.data.method.name}</span>
              </div>
              <SideBySide one={plan.data} other={other.data} />
            </>
          ) : (
            <div className="grid gap-5 wide:grid-cols-[20rem_1fr] wide:grid-rows-[auto_1fr] wide:gap-x-10 wide:[&>section:nth-child(2)]:row-span-2 wide:[&>section:nth-child(2)]:col-start-2 wide:[&>section:nth-child(2)]:row-start-1 wide:[&>section]:self-start">
              <Recipe plan={plan.data} />
            </div>
          )}
        </>
      )}
    </article>
  );
}

/** Whether two methods begin with the same kind of thing, so that they can be compared. */
const together = (one: MethodView, other: MethodView): boolean =>
  one.forms.some((f) => other.forms.includes(f));

/** What is asked of a plan that a method makes of a line. */
const askedWith = (method: string, line: string): Asked => ({
  ...FIRST,
  lines: [{ id: 1, text: line }],
  method,
});

/** The plan that a method makes of a line. */
function usePlanned(method: MethodView | undefined, line: string) {
  const found = useQuery({
    ...planQuery(request(askedWith(method?.key ?? "", line))),
    enabled: method !== undefined && line.trim() !== "",
  });
  const error = found.error instanceof Refused || found.error === null ? found.error : null;
  return { data: method && !error ? found.data : undefined, error };
}

function about(method: MethodView): string {
  const from = method.adapted_from ? `adapted from ${method.adapted_from}` : "";
  const version = method.own ? `our own, version ${method.version}` : "";
  return [method.school, version, from, method.source, needs(method)].filter(Boolean).join(" · ");
}

type ActionsProps = { plan: PlanView; method: MethodView; line: string };

function Actions({ plan, method, line }: ActionsProps) {
  const navigate = useNavigate();
  const [copied, setCopied] = useState("");
  const copy = () =>
    navigator.clipboard.writeText(asText(plan)).then(
      () => setCopied("Copied"),
      () => setCopied("The browser would not copy: print it instead"),
    );
  const to = `/plan?${new URLSearchParams(toAddress(askedWith(method.key, line)))}`;
  return (
    <div className="flex flex-wrap items-center gap-3 print:hidden">
      <Button kind="go" onClick={() => navigate(to)}>
        Plan with it
      </Button>
      <Button onClick={copy}>Copy as text</Button>
      <Button onClick={() => window.print()}>Print</Button>
      <PdfOf
        path="/api/plans/card.pdf"
        body={request(askedWith(method.key, line))}
        name={`${method.name}.pdf`}
      />
      <FileLink href={`/api/methods/${method.key}.json`} name={`${method.name}.json`}>
        As a file
      </FileLink>
      <FileLink
        href={`/api/methods/${method.key}/recipe.json?${new URLSearchParams({ of: line })}`}
        name={`${method.name}, recipe.json`}
      >
        As a recipe
      </FileLink>
      <span role="status" className="text-slate">
        {copied}
      </span>
    </div>
  );
}
