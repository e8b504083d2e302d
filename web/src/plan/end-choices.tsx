import { useState } from "react";
import type { EndView, KitchenView } from "@/api/types";
import type { EndAsked } from "@/plan/asked";
import { Button } from "@/ui/button";
import { Choice } from "@/ui/choice";
import { TextField } from "@/ui/field";
import { Lid } from "@/ui/lid";
import { Pick } from "@/ui/pick";

type Props = {
  end: EndView;
  others: EndView[];
  asked: EndAsked;
  set: (next: Partial<EndAsked>) => void;
  kitchen: KitchenView;
  wrong: { jars: string | undefined; name: string | undefined };
};

const KEEPS = [
  { value: "shelf", label: "canned" },
  { value: "sugar", label: "by its sugar" },
  { value: "dry", label: "dry" },
  { value: "chill", label: "cold" },
  { value: "freeze", label: "frozen" },
  { value: "now", label: "drunk now" },
];

/** What an end can be asked: how it is kept, in what, under which lid and name, and with what. */
export function EndChoices({ end, others, asked, set, kitchen, wrong }: Props) {
  const cold = !["shelf", "now", "dry"].includes(end.keep);
  const into = kitchen.jar_kinds.filter((k) => end.jar_kinds.includes(k.key));
  const jars = into.some((k) => !k.own);
  const closes = end.keep !== "now" && (jars || into.some((k) => k.keeps.includes("freeze")));
  return (
    <div className="mt-2 grid gap-2 print:hidden">
      <Choice
        label="Kept"
        value={end.keep}
        onChange={(keep) => set({ keep, jars: "" })}
        options={KEEPS}
      />
      {end.keep !== "now" && (
        <JarPick end={end} asked={asked} kitchen={kitchen} set={set} error={wrong.jars} />
      )}
      {jars && end.keep !== "now" && (
        <ClosedWith end={end} cold={cold} kitchen={kitchen} set={set} />
      )}
      {closes && <Lids kitchen={kitchen} lid={end.lid} set={set} />}
      <Named
        value={asked.name ?? ""}
        usual={end.label}
        onChange={(name) => set({ name })}
        error={wrong.name}
      />
      {others.length > 0 && (
        <Pick
          label="Drunk together with"
          value={asked.used_with || ALONE}
          items={[
            { value: ALONE, label: "nothing: it is used by itself" },
            ...others.map((o) => ({ value: o.key, label: o.label })),
          ]}
          onChange={(key) => set({ used_with: key === ALONE ? "" : key })}
        />
      )}
    </div>
  );
}

const ALONE = "-";

type JarProps = Omit<Props, "others" | "wrong"> & { error: string | undefined };

function JarPick({ end, asked, kitchen, set, error }: JarProps) {
  const capped = end.closure === "cap";
  const ready = kitchen.jar_kinds.filter(
    (k) => k.jars > 0 && (k.keeps.includes(end.keep) || k.key === asked.jars),
  );
  const items = ready.map((k) => ({
    value: k.key,
    label: k.name,
    note: k.own ? `${k.jars} empty` : `${capped ? k.jars : Math.min(k.jars, k.lids)} ready`,
  }));
  const glass = ready.filter((k) => !k.own);
  const several = glass.length > 1 ? [{ value: "*", label: "any jars, fewest loads" }] : [];
  const everything = glass.map((k) => k.key).join(" ");
  const shown = asked.jars === everything ? "*" : asked.jars || end.jar_kinds[0] || "";
  if (items.length === 0) return <p className="text-lg">Nothing stands ready to fill it into.</p>;
  return (
    <Pick
      label="Into"
      value={shown}
      items={[...items, ...several]}
      onChange={(jars) => set({ jars: jars === "*" ? everything : jars })}
      error={error}
    />
  );
}

const NEW = "lid";

/** What closes the jars: new lids, others that are counted in this kitchen, or plain caps. */
function ClosedWith({
  end,
  cold,
  kitchen,
  set,
}: Omit<JarProps, "asked" | "error"> & { cold: boolean }) {
  const into = kitchen.jar_kinds.filter((k) => end.jar_kinds.includes(k.key));
  const counted = new Map(
    into.flatMap((k) => k.other_lids).flatMap((l) => (l.closure ? [[l.closure, l.name]] : [])),
  );
  const options = [
    { value: NEW, label: "new lids" },
    ...[...counted].map(([value = "", label = ""]) => ({ value, label })),
    ...(cold || end.closure === "cap" ? [{ value: "cap", label: "plain caps" }] : []),
  ];
  if (options.length === 1) return null;
  return (
    <Choice
      label="Closed with"
      value={end.closure || NEW}
      onChange={(how) => set({ closure: (how === NEW ? "" : how) as "" })}
      options={options}
      note={end.closure === "cap" ? "A plain cap never seals; it takes no lid." : undefined}
    />
  );
}

type LidsProps = { kitchen: KitchenView; lid: string; set: Props["set"] };

/** The colour of the lids, so that like jars are told apart on the shelf. */
function Lids({ kitchen, lid, set }: LidsProps) {
  return (
    <fieldset className="flex flex-wrap items-center gap-1">
      <legend className="text-base text-slate">Lids</legend>
      {[["", "var(--brass)"] as const, ...Object.entries(kitchen.lids)].map(([name, colour]) => (
        <button
          key={name}
          type="button"
          aria-pressed={lid === name}
          aria-label={name ? `${name} lids` : "lids as they are"}
          title={name || "as they are"}
          onClick={() => set({ lid: name })}
          className={`grid size-11 place-items-center border-2 ${lid === name ? "border-elder bg-tag" : "border-transparent"}`}
        >
          <Lid colour={colour} />
        </button>
      ))}
    </fieldset>
  );
}

type NamedProps = {
  value: string;
  usual: string;
  onChange: (name: string) => void;
  error: string | undefined;
};

/** The name that goes on its label, where the usual one will not do. */
function Named({ usual, ...field }: NamedProps) {
  const [open, setOpen] = useState(field.value !== "");
  if (!open)
    return (
      <Button
        size="small"
        kind="quiet"
        className="!px-0 justify-self-start"
        onClick={() => setOpen(true)}
      >
        Give it a name
      </Button>
    );
  return <TextField label="Its name" placeholder={usual} {...field} />;
}
