import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { signsQuery } from "@/api/queries";
import type { JarsDone, JarView, ShelfPlace } from "@/api/types";
import { count, temperature } from "@/lib/format";
import type { useDo } from "@/shelf/use-do";
import { Button } from "@/ui/button";
import { Dialog } from "@/ui/dialog";
import { TextField } from "@/ui/field";
import { Said } from "@/ui/notice";

/** What is asked more of before it is done. */
export type Sheet = "carried" | "given" | "spoiled" | "relabelled" | "used_up" | "looked_sound";

type Props = {
  sheet: Sheet | null;
  onClose: () => void;
  which: Pick<JarsDone, "stack" | "count" | "jars">;
  first: JarView;
  many: number;
  places: ShelfPlace[];
  doing: ReturnType<typeof useDo>;
};

const TITLE: Record<Sheet, string> = {
  carried: "Carry to",
  given: "Given to",
  spoiled: "What is wrong with it?",
  relabelled: "Another name",
  used_up: "Used up",
  looked_sound: "Looked at",
};

/** The sheet of what is being done with jars. */
export function Sheets({ sheet, onClose, which, first, many, places, doing }: Props) {
  const close = () => {
    doing.reset();
    onClose();
  };
  if (sheet === null) return null;
  const what = many === 1 ? first.code : count(many, "jar");
  const send = (said: Partial<JarsDone>) => doing.mutate({ what: sheet, ...which, ...said });
  return (
    <Dialog open onClose={close} title={TITLE[sheet]} lead={what}>
      {sheet === "carried" && <Carry here={first.place_id} places={places} send={send} />}
      {sheet === "given" && <OneLine label="Who has it now" press="Given" field="to" send={send} />}
      {sheet === "relabelled" && (
        <OneLine label="What it says" press="Call it that" field="label" send={send} />
      )}
      {sheet === "spoiled" && (
        <Wrong send={(sign) => doing.mutate({ what: "spoiled", jars: [first.id], sign })} />
      )}
      {sheet === "used_up" && (
        <Button kind="go" size="large" className="w-full" onClick={() => send({})}>
          {many === 1 ? "It is empty" : `All ${many} are empty`}
        </Button>
      )}
      {sheet === "looked_sound" && (
        <>
          <p className="mb-3 text-lg">
            Lid firm and flat, no leak, no bubbles rising, clear as it was, no smell. Then it is
            free again.
          </p>
          <Button kind="go" size="large" className="w-full" onClick={() => send({})}>
            {many === 1 ? "This one is sound" : `These ${many} are sound`}
          </Button>
        </>
      )}
      <Said error={doing.error} />
    </Dialog>
  );
}

type Send = (said: Partial<JarsDone>) => void;
type CarryProps = { here: number | null; places: ShelfPlace[]; send: Send };

function Carry({ here, places, send }: CarryProps) {
  return (
    <ul className="grid gap-2">
      {places
        .filter((p) => p.id !== here)
        .map((p) => (
          <li key={p.id}>
            <Button className="w-full text-left" onClick={() => send({ place_id: p.id })}>
              {p.name}{" "}
              <span className="font-normal font-text text-slate">
                {temperature(p.temp_c)}
                {p.light ? ", in the light" : ""}
              </span>
            </Button>
          </li>
        ))}
    </ul>
  );
}

type LineProps = { label: string; press: string; field: "to" | "label"; send: Send };

function OneLine({ label, press, field, send }: LineProps) {
  const [text, setText] = useState("");
  return (
    <form
      className="grid gap-3"
      onSubmit={(e) => {
        e.preventDefault();
        send({ [field]: text });
      }}
    >
      <TextField label={label} value={text} onChange={setText} />
      <Button kind="go" type="submit" disabled={text.trim() === ""}>
        {press}
      </Button>
    </form>
  );
}

/** What is seen of one jar, worst first, never of many at once: each is looked at. What to do
 * stands under each sign before it is pressed. */
function Wrong({ send }: { send: (sign: string) => void }) {
  const signs = useQuery(signsQuery).data ?? [];
  return (
    <>
      <p className="mb-3 text-lg">Do not taste it to find out.</p>
      <ul className="grid gap-2">
        {signs.map((s) => (
          <li key={s.key}>
            <Button kind="warn" className="w-full py-2 text-left" onClick={() => send(s.key)}>
              {s.ask}
              <span className="block font-normal font-text text-base text-ink">
                {s.now.split(". ")[0]}.
                {s.holds ? " The others of its batch are held until each was looked at." : ""}
              </span>
            </Button>
          </li>
        ))}
      </ul>
    </>
  );
}
