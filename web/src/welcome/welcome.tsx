import { useState } from "react";
import { useSignIn } from "@/api/changes";
import { Refused } from "@/api/client";
import type { Session } from "@/api/types";
import { measureIn, typed } from "@/lib/units";
import { Button } from "@/ui/button";
import { NumberField, parse, TextField } from "@/ui/field";
import { FULL, JarsOnABoard } from "@/ui/jars-on-a-board";
import { Said } from "@/ui/notice";
import { FromArchive } from "@/welcome/from-archive";
import { BARE, Things, things, Units } from "@/welcome/things";

/** The door: one button in the demo, name and password at home, a first household on day one. */
export function Welcome({ session }: { session: Session | undefined }) {
  const first = session !== undefined && !session.founded;
  return (
    <main
      className={`mx-auto grid min-h-dvh max-w-[72rem] content-center p-6 wide:p-10 ${first ? "gap-5" : "gap-10 wide:grid-cols-[1fr_26rem]"}`}
    >
      <div className={first ? "flex flex-wrap items-end justify-between gap-x-10" : ""}>
        <div>
          <h1 className={`text-5xl ${first ? "" : "wide:text-7xl"}`}>Elderberry</h1>
          <p className="mt-3 max-w-md text-xl">
            From fruit to shelf: the measuring, the timing and the judgement, so that your hands are
            free.
          </p>
        </div>
        {!first && (
          <div className="mt-8">
            <JarsOnABoard jars={FULL} />
          </div>
        )}
      </div>
      <div className="self-center border-2 border-line bg-paper p-6">
        {first ? (
          <div className="grid gap-6">
            <Found />
            <div className="stitch" />
            <FromArchive />
          </div>
        ) : (
          <Door demo={session?.demo ?? false} />
        )}
      </div>
    </main>
  );
}

function Door({ demo }: { demo: boolean }) {
  const signIn = useSignIn();
  const [[name, password], set] = useState<[string, string]>(["", ""]);
  return (
    <div className="grid gap-4">
      {demo && (
        <>
          <h2>Sallow Hill Allotments</h2>
          <p>A made-up shared kitchen, 585 m above the sea. Try anything; it is all yours.</p>
          <Button
            kind="go"
            size="large"
            disabled={signIn.isPending}
            onClick={() => signIn.mutate("demo")}
          >
            Come in
          </Button>
          <div className="stitch" />
        </>
      )}
      <form
        className="grid gap-3"
        onSubmit={(e) => {
          e.preventDefault();
          signIn.mutate({ sign_in: name, password });
        }}
      >
        <h2>{demo ? "Or by name" : "Sign in"}</h2>
        <TextField
          label="Name you sign in with"
          value={name}
          onChange={(v) => set([v, password])}
          autoComplete="username"
        />
        <TextField
          label="Password"
          type="password"
          value={password}
          onChange={(v) => set([name, v])}
          autoComplete="current-password"
        />
        <Said error={signIn.error} />
        <Button
          kind={demo ? "plain" : "go"}
          type="submit"
          disabled={!name || !password || signIn.isPending}
        >
          Sign in
        </Button>
      </form>
    </div>
  );
}

const FIELDS = ["/household", "/altitude_m", "/name", "/password"];
const EMPTY = { household: "", altitude: "", name: "", password: "" };

function Found() {
  const signIn = useSignIn();
  const [form, setForm] = useState(EMPTY);
  const [told, setTold] = useState(BARE);
  const [up, height] = [measureIn(told.units, "altitude_m"), parse(form.altitude)];
  const set = (key: keyof typeof EMPTY) => (value: string) => setForm({ ...form, [key]: value });
  const refused = signIn.error instanceof Refused ? signIn.error : undefined;
  const atAField = FIELDS.some((field) => refused?.at(field));
  return (
    <form
      className="grid gap-x-12 gap-y-6 wide:grid-cols-[22rem_1fr]"
      onSubmit={(e) => {
        e.preventDefault();
        signIn.mutate({
          household: form.household,
          altitude_m: height === null ? Number.NaN : typed(height, up),
          time_zone: Intl.DateTimeFormat().resolvedOptions().timeZone,
          name: form.name,
          sign_in: form.name,
          password: form.password,
          things: things(told),
        });
      }}
    >
      <div className="grid content-start gap-3">
        <h2>Your kitchen</h2>
        <TextField
          label="What is it called?"
          value={form.household}
          onChange={set("household")}
          error={refused?.at("/household")}
        />
        <Units told={told} onChange={setTold} />
        <NumberField
          label="How high above the sea?"
          unit={up.unit}
          value={form.altitude}
          onChange={set("altitude")}
          error={refused?.at("/altitude_m")}
          note="Any map shows it. Every boiling point and process time hangs on it."
        />
        <TextField
          label="Your name"
          value={form.name}
          onChange={set("name")}
          autoComplete="username"
          error={refused?.at("/name")}
        />
        <TextField
          label="A password"
          type="password"
          value={form.password}
          onChange={set("password")}
          autoComplete="new-password"
          error={refused?.at("/password")}
          note="At least eight characters."
        />
      </div>
      <Things told={told} onChange={setTold} />
      <div className="grid gap-3 wide:col-span-2">
        {refused && !atAField && <Said error={refused} />}
        <Button kind="go" size="large" type="submit" disabled={signIn.isPending}>
          Begin
        </Button>
      </div>
    </form>
  );
}
