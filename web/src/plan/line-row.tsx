import { type ReactNode, type RefObject, useEffect, useRef } from "react";
import type { InputView, IntakeView, LineView } from "@/api/types";
import { mass, spoken } from "@/lib/format";
import { Meant } from "@/lines/meant";
import { Misread } from "@/lines/misread";
import type { Line } from "@/plan/asked";
import { Button } from "@/ui/button";
import { Choice } from "@/ui/choice";
import { NumberField, TextField } from "@/ui/field";

type Props = {
  line: Line;
  read: LineView | undefined;
  input: InputView | undefined;
  lot: IntakeView | undefined;
  open: boolean;
  wrong: string | undefined;
  /** The ends of the plan, where there are several: a line may go into one of them only. */
  ends: { key: string; label: string }[];
  /** What could sweeten instead, for where it sweetens. */
  swaps: ReactNode;
  onOpen: (open: boolean) => void;
  onChange: (line: Line) => void;
  onDrop: (() => void) | undefined;
};

/** One line of what goes in: as it was said, and what it came to; pressed, it is put right. */
export function LineRow(props: Props) {
  const { line, read, input, lot, open, wrong, onOpen } = props;
  const misread = read?.wrong && !lot;
  return (
    <li className={`border-slate/50 border-b ${open ? "-mx-2 bg-tag px-2 pb-3" : ""}`}>
      <button
        type="button"
        aria-expanded={open}
        onClick={() => onOpen(!open)}
        className="grid min-h-11 w-full grid-cols-[1fr_auto] items-center gap-x-2 py-1 text-left"
      >
        <span className="min-w-0">
          <span className={`block text-lg leading-tight ${misread || wrong ? "text-hip" : ""}`}>
            <Spoken line={line} read={read} lot={lot} />
          </span>
          <span className="block text-base text-slate leading-tight">{under(props)}</span>
        </span>
        <span className="text-right text-slate">
          {input && came(input, read)}
          {input?.how === "target" && <span aria-hidden="true"> ◆</span>}
        </span>
      </button>
      {!open && (misread || wrong) && (
        <div className="pb-2 text-base">
          {misread && read?.wrong ? (
            <Misread
              text={line.text}
              wrong={read.wrong}
              onChoose={(text) => props.onChange({ ...line, text })}
            />
          ) : (
            <p role="alert" className="font-bold text-hip">
              {wrong}
            </p>
          )}
        </div>
      )}
      {open && <Opened {...props} />}
    </li>
  );
}

/** What was said, its amount bold. */
function Spoken({ line, read, lot }: Pick<Props, "line" | "read" | "lot">) {
  if (lot)
    return (
      <>
        <b>{line.text === "the rest" ? "all of" : line.text}</b> {lot.name.toLowerCase()}
      </>
    );
  const bold = read?.places?.filter((p) => ["amount", "unit", "target"].includes(p.part)) ?? [];
  const from = Math.min(...bold.map((p) => p.start));
  const to = Math.max(...bold.map((p) => p.end));
  if (!Number.isFinite(from)) return <>{line.text}</>;
  return (
    <>
      {line.text.slice(0, from)}
      <b>{line.text.slice(from, to)}</b>
      {line.text.slice(to)}
    </>
  );
}

/** Under a line: when it joins, where it came from, how well it is known. */
function under({ line, read, input, lot }: Props): string {
  const measured = [line.brix ? `${line.brix} °Bx` : "", line.ph ? `pH ${line.ph}` : ""];
  const parts = [
    lot ? [lot.source, `of ${mass(lot.left_kg * 1000)}`].filter(Boolean).join(", ") : line.source,
    input?.joins ?? "",
    input?.instead_of ? `instead of ${input.instead_of}` : "",
    read?.guessed ? `read as ${read.called}` : "",
    read?.differs ? "kinds differ by the cup: weigh it" : "",
    measured.filter(Boolean).join(", "),
    input?.runs_out ? "runs out first" : "",
  ];
  return parts.filter(Boolean).join(" · ");
}

/** What a line came to; its range only where that changes something. */
function came(input: InputView, read: LineView | undefined): string {
  const { mass_g } = input;
  if (input.matters) return spoken(mass_g, "mass_g");
  const weighed = read?.mass_g;
  const asSaid = weighed && weighed.lo === weighed.hi && Math.abs(weighed.typ - mass_g.typ) < 1;
  return asSaid ? "" : mass(mass_g.typ);
}

const ALL = "all";

function Opened({ line, read, input, ends, swaps, onChange, onDrop, onOpen }: Props) {
  const field = useRef<HTMLInputElement>(null);
  useEffect(() => {
    field.current?.focus();
  }, []);
  const keep = (text: string) => onChange({ ...line, text });
  const fruit = input?.form !== undefined && input.form !== "";
  return (
    <div className="grid gap-2">
      <input
        ref={field}
        aria-label="This line"
        value={line.text}
        maxLength={200}
        autoComplete="off"
        onChange={(e) => keep(e.target.value)}
        onKeyDown={(e) => e.key === "Enter" && onOpen(false)}
        className="min-h-12 w-full border-2 border-line bg-paper px-3 text-lg"
      />
      <Meant text={line.text} read={read} onChoose={line.lot === undefined ? keep : undefined}>
        {(known) => (
          <>
            <Parts of={known} field={field} />
            {known.sweetens && swaps}
          </>
        )}
      </Meant>
      {ends.length > 1 && (
        <Choice
          label="Goes into"
          value={line.step ?? ALL}
          onChange={(step) => {
            const { step: _, ...rest } = line;
            onChange(step === ALL ? rest : { ...rest, step });
          }}
          options={[
            { value: ALL, label: "all" },
            ...ends.map((e, n) => ({ value: e.key, label: `${n + 1}: ${e.label}` })),
          ]}
        />
      )}
      {fruit && (
        <div className="grid grid-cols-2 gap-2">
          <NumberField
            label="Sweetness"
            unit="°Bx"
            placeholder="typical"
            value={line.brix ?? ""}
            onChange={(brix) => onChange({ ...line, brix })}
          />
          <NumberField
            label="Acidity"
            unit="pH"
            placeholder="typical"
            value={line.ph ?? ""}
            onChange={(ph) => onChange({ ...line, ph })}
          />
          <p className="col-span-2 text-base text-slate leading-tight">
            A pH only from a meter: a paper strip clears no stop.
          </p>
          {line.lot === undefined && (
            <div className="col-span-2">
              <TextField
                label="From"
                placeholder="tree, plot, market"
                value={line.source ?? ""}
                onChange={(source) => onChange({ ...line, source })}
              />
            </div>
          )}
        </div>
      )}
      <div className="flex justify-between gap-2">
        <Button size="small" onClick={() => onOpen(false)}>
          Done
        </Button>
        {onDrop && (
          <Button size="small" kind="warn" onClick={onDrop}>
            Take it out
          </Button>
        )}
      </div>
    </div>
  );
}

/** The parts that a line was read as; pressed, one is marked to be written otherwise. */
function Parts({ of, field }: { of: LineView; field: RefObject<HTMLInputElement | null> }) {
  const parts = of.places ?? [];
  if (parts.length < 2) return null;
  return (
    <p className="flex flex-wrap gap-1.5">
      {parts.map((p) => (
        <button
          key={`${p.part}-${p.start}`}
          type="button"
          onClick={() => {
            field.current?.focus();
            field.current?.setSelectionRange(p.start, p.end);
          }}
          className="min-h-8 border border-slate bg-paper px-2 text-base"
        >
          {of.line.slice(p.start, p.end)}
        </button>
      ))}
    </p>
  );
}
