import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { useNewPassword, useSignOutEverywhere } from "@/api/changes";
import { Refused } from "@/api/client";
import { sessionQuery } from "@/api/queries";
import type { Person } from "@/api/types";
import { Button } from "@/ui/button";
import { TextField } from "@/ui/field";
import { Said } from "@/ui/notice";

/** How somebody comes in: another password, and out everywhere, as after a phone was lost. */
export function Access({ person }: { person: Person }) {
  const role = useQuery(sessionQuery).data?.role;
  const change = useNewPassword();
  const out = useSignOutEverywhere();
  const [old, setOld] = useState("");
  const [password, setPassword] = useState("");
  if (!person.you && role !== "keeper") return null;
  const refused = change.error instanceof Refused ? change.error : undefined;
  const whom = person.you ? null : person.id;
  return (
    <section aria-label="Password and sign-in" className="mt-6 grid gap-3">
      <div className="stitch" />
      <h3 className="text-xl">Password and sign-in</h3>
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          change.mutate(
            { person: whom, old, password },
            {
              onSuccess: () => {
                setOld("");
                setPassword("");
              },
            },
          );
        }}
      >
        {person.you && (
          <TextField
            label="Password until now"
            type="password"
            value={old}
            onChange={setOld}
            error={refused?.at("/old")}
          />
        )}
        <TextField
          label={person.you ? "New password" : `New password for ${person.name}`}
          type="password"
          value={password}
          onChange={setPassword}
          error={refused?.at("/password")}
          note="at least eight characters; three or four words of your own are good"
        />
        {!refused?.problem.errors?.length && <Said error={change.error ?? out.error} />}
        {change.isSuccess && (
          <p role="status" className="font-bold text-leaf">
            The new password is kept. Every other browser is signed out.
          </p>
        )}
        <div className="flex flex-wrap gap-3">
          <Button type="submit" disabled={change.isPending || password === ""}>
            Keep the new password
          </Button>
          <Button kind="quiet" disabled={out.isPending} onClick={() => out.mutate(whom)}>
            {person.you ? "Sign me out everywhere" : `Sign ${person.name} out everywhere`}
          </Button>
        </div>
        {out.isSuccess && (
          <p role="status" className="font-bold text-leaf">
            {person.name} is signed out everywhere.
          </p>
        )}
      </form>
    </section>
  );
}
