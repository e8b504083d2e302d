import { useMutation, useQueryClient } from "@tanstack/react-query";
import { useRef } from "react";
import { Refused } from "@/api/client";
import { sessionQuery } from "@/api/queries";
import type { Came } from "@/api/types";
import { count } from "@/lib/format";
import { Button } from "@/ui/button";
import { Said } from "@/ui/notice";

/** A household that another Elderberry has let go as one file, instead of a new one. */
export function FromArchive() {
  const client = useQueryClient();
  const box = useRef<HTMLInputElement>(null);
  const take = useMutation({ mutationFn: send, retry: false });
  if (take.data)
    return (
      <section aria-label="Taken in" className="grid gap-3">
        <h2>{take.data.household} is here</h2>
        <p className="text-lg">
          {count(take.data.rows, "row")} of it. Passwords are in no archive: write down how to sign
          in the first time.
        </p>
        <dl className="grid grid-cols-[auto_1fr] gap-x-5 border-2 border-elder p-3 text-xl">
          {take.data.keepers.map(([name, password]) => (
            <div key={name} className="contents">
              <dt>{name}</dt>
              <dd className="select-all font-bold">{password}</dd>
            </div>
          ))}
        </dl>
        <Button
          kind="go"
          size="large"
          onClick={() => client.invalidateQueries({ queryKey: sessionQuery.queryKey })}
        >
          Sign in
        </Button>
      </section>
    );
  return (
    <section aria-label="From an archive" className="grid justify-items-start gap-3">
      <input
        ref={box}
        type="file"
        accept=".zip,application/zip"
        aria-label="An archive"
        hidden
        onChange={(e) => {
          const chosen = e.target.files?.[0];
          e.target.value = "";
          if (chosen) take.mutate(chosen);
        }}
      />
      <p className="text-lg">
        Have you an archive of a household?{" "}
        <Button size="small" disabled={take.isPending} onClick={() => box.current?.click()}>
          {take.isPending ? "Being taken in" : "Take it in instead"}
        </Button>
      </p>
      <Said error={take.error} />
    </section>
  );
}

async function send(file: File): Promise<Came> {
  let answer: Response;
  try {
    answer = await fetch("/api/session/archive", {
      method: "POST",
      headers: { "Content-Type": "application/zip" },
      body: file,
    });
  } catch {
    throw new Refused({
      status: 0,
      code: "away",
      detail: "Elderberry does not answer just now. Nothing was changed: try again.",
    });
  }
  const held = await answer.json();
  if (!answer.ok) throw new Refused(held);
  return held;
}
