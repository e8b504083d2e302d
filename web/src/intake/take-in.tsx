import { useState } from "react";
import { useTakeIn } from "@/api/changes";
import { Refused } from "@/api/client";
import type { IntakeView, KitchenView, LineView, LotCreate } from "@/api/types";
import { useZone } from "@/api/use-zone";
import { DAY_MS, date, dayOf, short } from "@/lib/format";
import { useNow } from "@/lib/use-now";
import { SaidLine } from "@/lines/said-line";
import { formWord } from "@/lines/understood";
import { useLines } from "@/lines/use-lines";
import { Button } from "@/ui/button";
import { Choice } from "@/ui/choice";
import { Dialog } from "@/ui/dialog";
import { NumberField, parse, TextField } from "@/ui/field";
import { Foot } from "@/ui/foot";
import { Said } from "@/ui/notice";
import { Pick } from "@/ui/pick";
import { Tick } from "@/ui/tick";

type Props = { kitchen: KitchenView; onTaken?: (lot: IntakeView) => void };

const SOURCES = [
  { value: "garden", label: "garden" },
  { value: "tree", label: "a tree" },
  { value: "plot", label: "a plot" },
  { value: "wild", label: "wild" },
  { value: "market", label: "market" },
  { value: "shop", label: "shop" },
  { value: "gift", label: "a gift" },
];

/** A press that opens the sheet for something that comes in. */
export function TakeIn({ kitchen, onTaken }: Props) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button
        size="small"
        kind="quiet"
        className="justify-self-start !px-0"
        onClick={() => setOpen(true)}
      >
        Something came in
      </Button>
      {open && (
        <Sheet
          kitchen={kitchen}
          onClose={() => setOpen(false)}
          onTaken={(lot) => {
            setOpen(false);
            onTaken?.(lot);
          }}
        />
      )}
    </>
  );
}

type SheetProps = { kitchen: KitchenView; onClose: () => void; onTaken: (lot: IntakeView) => void };

const FRESH = "whole";

/** The line with another form of the same: the word for it goes where the old one stood. */
function inForm(line: string, read: LineView, form: string): string {
  const said = read.places?.find((p) => p.part === "form");
  const plain = said ? line.slice(0, said.start) + line.slice(said.end) : line;
  const bare = plain.replace(/[\s,]+/g, " ").trim();
  return form === FRESH ? bare : `${bare}, ${formWord(form)}`;
}

const DAYS_BACK = [0, 1, 2, 3, 4, 5, 6, 7, 10, 14, 21, 30, 45, 60, 90, 120];

/** Days it may have been picked on, as one counts back. */
function pickedOn(now: number, zone: string): { value: string; label: string }[] {
  return DAYS_BACK.map((back) => {
    const value = dayOf(now - back * DAY_MS, zone);
    const ago = ["today", "yesterday"][back] ?? `${back} days ago`;
    return { value, label: back === 0 ? ago : `${ago}, ${date(value, now)}` };
  });
}

function Sheet({ kitchen, onClose, onTaken }: SheetProps) {
  const take = useTakeIn();
  const now = useNow();
  const zone = useZone();
  const days = pickedOn(now, zone);
  const [line, setLine] = useState("");
  const [said, setSaid] = useState<Omit<LotCreate, "line">>({
    source_kind: "garden",
    ripeness: "ripe",
  });
  const [texts, setTexts] = useState({ brix: "", ph: "", cost: "" });
  const say = (next: Partial<LotCreate>) => setSaid((before) => ({ ...before, ...next }));
  const read = useLines(line ? [line] : [])(line);
  const fruit = kitchen.fruits.find((f) => f.key === read?.material);
  const form = read?.form ?? FRESH;
  const fresh = form === FRESH;
  const refused = take.error instanceof Refused ? take.error : undefined;
  const sent: LotCreate = {
    ...said,
    line,
    wild: said.source_kind === "wild",
    brix: parse(texts.brix),
    ph: parse(texts.ph),
    cost: parse(texts.cost),
  };
  return (
    <Dialog open onClose={onClose} title="Something came in">
      <form
        className="grid gap-4"
        onSubmit={(e) => {
          e.preventDefault();
          take.mutate(sent, { onSuccess: onTaken });
        }}
      >
        <SaidLine
          label="What came in, and how much"
          labelled
          value={line}
          onChange={setLine}
          read={read}
          error={refused?.at("/line")}
          placeholder="18 quinces, half a crate of plums, 3 kg frozen aronia"
        />
        {read && fruit && fruit.forms.length > 1 && (
          <Choice
            label="As"
            value={form}
            onChange={(next) => setLine(inForm(line, read, next))}
            options={fruit.forms.map((f) => ({ value: f, label: formWord(f) }))}
          />
        )}
        <div className="grid gap-4 wide:grid-cols-2">
          <Pick
            label="From"
            value={said.source_kind ?? "garden"}
            items={SOURCES}
            onChange={(kind) => say({ source_kind: kind as "garden" })}
          />
          <TextField
            label="Which one"
            placeholder="by the gate, plot 14"
            value={said.source ?? ""}
            onChange={(source) => say({ source })}
          />
        </div>
        {said.source_kind === "wild" && (
          <Tick
            label="Somebody who knows it has identified it for certain"
            note="Wild fruit that nobody is certain of is not used."
            on={said.certain ?? false}
            onChange={(certain) => say({ certain })}
          />
        )}
        {fresh && (
          <>
            <div className="grid gap-4 wide:grid-cols-2">
              <Pick
                label="Picked"
                value={said.picked_on ?? days[0]?.value ?? ""}
                items={days}
                onChange={(picked_on) => say({ picked_on })}
                error={refused?.at("/picked_on")}
              />
              <Choice
                label="Waits"
                value={said.where ?? "cool"}
                onChange={(where) => say({ where })}
                options={[
                  { value: "cool", label: "cool room" },
                  { value: "cold", label: "in the cold" },
                ]}
              />
            </div>
            <Choice
              label="Ripeness"
              value={said.ripeness ?? "ripe"}
              onChange={(ripeness) => say({ ripeness })}
              options={[
                { value: "under", label: "under" },
                { value: "ripe", label: "ripe" },
                { value: "over", label: "over" },
              ]}
              note={
                fruit &&
                `Ripe and sound it waits ${short(fruit.waits_days.lo)} to ${short(fruit.waits_days.hi)} days in a cool room.`
              }
            />
          </>
        )}
        <Tick
          label="Peel waxed or sprayed"
          on={said.peel_waxed ?? false}
          onChange={(peel_waxed) => say({ peel_waxed })}
        />
        <div className="grid grid-cols-3 gap-3">
          <NumberField
            label="Sweetness"
            unit="°Bx"
            placeholder="if read"
            value={texts.brix}
            onChange={(brix) => setTexts({ ...texts, brix })}
            error={refused?.at("/brix")}
          />
          <NumberField
            label="Acidity"
            unit="pH"
            placeholder="meter"
            value={texts.ph}
            onChange={(ph) => setTexts({ ...texts, ph })}
            error={refused?.at("/ph")}
          />
          <NumberField
            label="Cost"
            unit=""
            placeholder="if any"
            value={texts.cost}
            onChange={(cost) => setTexts({ ...texts, cost })}
            error={refused?.at("/cost")}
          />
        </div>
        {!refused?.problem.errors?.length && <Said error={take.error} />}
        <Foot>
          <Button
            kind="go"
            size="large"
            className="grow"
            type="submit"
            disabled={!fruit || take.isPending}
          >
            Take it in
          </Button>
        </Foot>
      </form>
    </Dialog>
  );
}
