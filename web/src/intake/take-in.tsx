import { useState } from "react";
import { useTakeIn } from "@/api/changes";
import { Refused } from "@/api/client";
import type { IntakeView, KitchenView, LotCreate } from "@/api/types";
import { short } from "@/lib/format";
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

function Sheet({ kitchen, onClose, onTaken }: SheetProps) {
  const take = useTakeIn();
  const [said, setSaid] = useState<LotCreate>({
    fruit_key: "damson",
    amount: "",
    form: "whole",
    source_kind: "garden",
    ripeness: "ripe",
    where: "cool",
  });
  const [texts, setTexts] = useState({ brix: "", ph: "", cost: "" });
  const say = (next: Partial<LotCreate>) => setSaid((before) => ({ ...before, ...next }));
  const refused = take.error instanceof Refused ? take.error : undefined;
  const fruit = kitchen.fruits.find((f) => f.key === said.fruit_key);
  const examples = fruit?.counted
    ? `9.6 kg, 18 pieces, half a crate`
    : "9.6 kg, 5 lb, half a crate";
  const sent = {
    ...said,
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
        <div className="grid gap-4 wide:grid-cols-2">
          <Pick
            label="What"
            value={said.fruit_key}
            items={kitchen.fruits.map((f) => ({ value: f.key, label: f.name, colour: f.colour }))}
            onChange={(fruit_key) =>
              say({
                fruit_key,
                form: (kitchen.fruits.find((f) => f.key === fruit_key)?.forms[0] ??
                  "whole") as "whole",
              })
            }
            error={refused?.at("/fruit_key")}
          />
          <TextField
            label="How much"
            value={said.amount}
            onChange={(amount) => say({ amount })}
            error={refused?.at("/amount")}
            note={examples}
          />
        </div>
        {fruit && fruit.forms.length > 1 && (
          <Choice
            label="As"
            value={said.form ?? "whole"}
            onChange={(form) =>
              say({
                form,
                where: form === "frozen" ? "frozen" : form === "whole" ? "cool" : "cold",
              })
            }
            options={fruit.forms.map((f) => ({ value: f as "whole", label: f }))}
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
        {said.form === "whole" && (
          <TextField
            label="Picked"
            type="date"
            value={said.picked_on ?? ""}
            onChange={(day) => say({ picked_on: day || null })}
            error={refused?.at("/picked_on")}
            note="Today, if nothing is said."
          />
        )}
        {said.source_kind === "wild" && (
          <Tick
            label="Somebody who knows it has identified it for certain"
            note="Wild fruit that nobody is certain of is not used."
            on={said.certain ?? false}
            onChange={(certain) => say({ certain })}
          />
        )}
        {said.form === "whole" && (
          <div className="grid gap-4 wide:grid-cols-2">
            <Choice
              label="Ripeness"
              value={said.ripeness ?? "ripe"}
              onChange={(ripeness) => say({ ripeness })}
              options={[
                { value: "under", label: "under" },
                { value: "ripe", label: "ripe" },
                { value: "over", label: "over" },
              ]}
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
        {fruit && said.form === "whole" && (
          <p className="text-base text-slate">
            Ripe and sound it waits {short(fruit.waits_days.lo)} to {short(fruit.waits_days.hi)}{" "}
            days in a cool room.
          </p>
        )}
        {!refused?.problem.errors?.length && <Said error={take.error} />}
        <Foot>
          <Button
            kind="go"
            size="large"
            className="grow"
            type="submit"
            disabled={!said.amount || take.isPending}
          >
            Take it in
          </Button>
        </Foot>
      </form>
    </Dialog>
  );
}
