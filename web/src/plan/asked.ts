import { useCallback, useEffect, useRef, useState } from "react";
import { useSearchParams } from "react-router";
import type { PlanCreate, StepRow } from "@/api/types";
import type { Reader } from "@/lines/use-lines";
import { parse } from "@/ui/field";

/** A line of what goes in, as it was written, with what only a reading or a lot can add to it. */
export type Line = {
  /** Tells lines apart while they are moved about. */
  id: number;
  text: string;
  /** What came in that it is taken from. */
  lot?: number;
  /** The name that a method has for it, where it takes the place of the method's own. */
  key?: string;
  /** The step that it joins, where somebody said so. */
  step?: string;
  brix?: string;
  ph?: string;
  source?: string;
};

/** What is asked of one end: how it is kept, in which jars, under what lid and name, with what. */
export type EndAsked = {
  key: string;
  keep?: string;
  jars?: string;
  name?: string;
  closure?: "" | "cap" | "reusable" | "one_piece";
  lid?: string;
  used_with?: string;
};

/** Whether a line may be planned with: it is read, or of a lot whose name it need not say. */
export const readable =
  (of: Reader) =>
  (line: Line): boolean =>
    line.lot !== undefined || (line.text.trim() !== "" && of(line.text)?.wrong === null);

/** The plan's figures live in the address, so that a plan can be sent to somebody. */
export type Asked = {
  lines: Line[];
  ends: EndAsked[];
  method: string;
  /** The flow as it was edited; empty while it is the method's own. */
  flow: StepRow[];
  /** What the method puts in and this time does not. */
  without: string[];
  /** What the cook has said, as words of the rule book. */
  said: string[];
  loads: string;
  /** Jars whose content goes in, and that leave the shelf when the batch begins. */
  jars: number[];
  /** What it is worked back from: "jars 12 half_pint", "litres 3.5"; "all" for what came in. */
  goal: string;
  /** Whom it is adapted from, where it came as a recipe of others. */
  from: string;
};

/** What a plan begins with. */
export const FIRST: Asked = {
  lines: [{ id: 1, text: "10 kg damsons" }],
  ends: [],
  method: "",
  flow: [],
  without: [],
  said: [],
  loads: "",
  jars: [],
  goal: "",
  from: "",
};

/** Typing must never wait for the address: the figures are state, and the address follows them. */
export function useAsked(): [Asked, (change: Partial<Asked>) => void] {
  const [params, setParams] = useSearchParams();
  const [asked, setAsked] = useState<Asked>(() => fromAddress(params));
  useEffect(() => {
    setParams(toAddress(asked), { replace: true });
  }, [asked, setParams]);
  const change = useCallback(
    (next: Partial<Asked>) => setAsked((before) => ({ ...before, ...next })),
    [],
  );
  return [asked, change];
}

/** A plan from its address: whole, or as links name one fruit in it. */
export function fromAddress(params: URLSearchParams): Asked {
  const told = Object.fromEntries(params.entries());
  if (told.plan) {
    try {
      return { ...FIRST, ...(JSON.parse(told.plan) as Partial<Asked>) };
    } catch {
      return FIRST;
    }
  }
  if (!told.fruit && !told.lot && !told.keep && !told.method) return FIRST;
  const lot = told.lot ? { lot: Number(told.lot), text: "the rest" } : undefined;
  const form = told.form && told.form !== "whole" ? `, ${told.form}` : "";
  const named = (told.fruit ?? "damson").replaceAll("_", " ");
  const main: Line = {
    id: 1,
    text: `${told.kg ?? "10"} kg ${named}${form}`,
    ...lot,
    ...(told.brix ? { brix: told.brix } : {}),
    ...(told.ph ? { ph: told.ph } : {}),
    ...(told.source ? { source: told.source } : {}),
  };
  const acid = told.acid ? [{ id: 2, text: `${told.acid} g citric acid` }] : [];
  const end = { key: "fill", keep: told.keep ?? "shelf", jars: told.jars ?? "" };
  return {
    ...FIRST,
    lines: [main, ...acid],
    ends: told.keep || told.jars ? [end] : [],
    method: told.method ?? "",
    loads: told.loads ?? "",
    said: told.said ? told.said.split(" ") : [],
  };
}

/** The address of a plan: only what is not as a plan begins. */
export function toAddress(asked: Asked): Record<string, string> {
  const told = Object.entries(asked).filter(
    ([key, value]) => JSON.stringify(value) !== JSON.stringify(FIRST[key as keyof Asked]),
  );
  return told.length ? { plan: JSON.stringify(Object.fromEntries(told)) } : {};
}

/** A line that says something else, under the name of what it takes the place of, if it does. */
export const under = (key: string, line: Line, text: string): Line => ({
  ...line,
  text,
  ...(key ? { key } : {}),
});

/** The lines with one more. */
export const withLine = (asked: Asked, line: Omit<Line, "id">): Line[] => [
  ...asked.lines,
  { ...line, id: 1 + Math.max(0, ...asked.lines.map((l) => l.id)) },
];

/** What is asked of an end, as it was said or as it is usual. */
export const endOf = (asked: Asked, key: string): EndAsked =>
  asked.ends.find((e) => e.key === key) ?? { key };

/** The ends with something else asked of one of them. */
export function withEnd(asked: Asked, key: string, next: Partial<EndAsked>): EndAsked[] {
  const now = { ...endOf(asked, key), ...next };
  const others = asked.ends.filter((e) => e.key !== key);
  return key === "fill" ? [now, ...others] : [...others, now];
}

/** Places of the lines that are sent, as they stand among all of them. */
export const placesSent = (asked: Asked, readable: (line: Line) => boolean): number[] =>
  asked.lines.flatMap((line, n) => (readable(line) ? [n] : []));

/** What is asked as it stands on the desk, how it is changed, and what of it is sent. */
export type Asking = {
  asked: Asked;
  change: (next: Partial<Asked>) => void;
  /** What the plan is asked with. */
  sent: PlanCreate;
  /** Where each line that is sent stands among all lines. */
  places: number[];
};

/** What is sent of what is asked; while a line is being read, what was sent before it. */
export function useSent(asked: Asked, of: Reader): Pick<Asking, "sent" | "places"> {
  const may = readable(of);
  const reading = asked.lines.some((l) => l.lot === undefined && l.text.trim() && !of(l.text));
  const held = useRef<Pick<Asking, "sent" | "places">>(undefined);
  if (!reading || !held.current)
    held.current = { sent: request(asked, may), places: placesSent(asked, may) };
  return held.current;
}

/** What is asked of the server; lines that cannot be read yet are left out. */
export function request(asked: Asked, readable: (line: Line) => boolean = () => true): PlanCreate {
  const ends = asked.ends.some((e) => e.key === "fill")
    ? asked.ends
    : [{ key: "fill" }, ...asked.ends];
  return {
    inputs: asked.lines.filter(readable).map((line) => ({
      line: line.text,
      lot_id: line.lot ?? null,
      key: line.key ?? null,
      step: line.step ?? "",
      brix: parse(line.brix ?? ""),
      ph: parse(line.ph ?? ""),
      source: line.source ?? "",
    })),
    ends: ends.map((e) => ({
      key: e.key,
      keep: (e.keep ?? "") as "",
      jar_kinds: e.jars ? e.jars.split(" ") : [],
      name: e.name ?? "",
      closure: e.closure ?? "",
      lid: e.lid ?? "",
      used_with: e.used_with ?? "",
    })),
    method_key: asked.method,
    steps: asked.flow,
    without: asked.without,
    said: asked.said,
    loads: parse(asked.loads),
    from_jars: asked.jars,
    ...goalOf(asked.goal),
  };
}

function goalOf(goal: string): Pick<PlanCreate, "goal" | "all_there_is"> {
  if (goal === "all") return { all_there_is: true };
  const [by, amount, jar] = goal.split(" ");
  const wanted = Number(amount);
  if (!(wanted > 0) || (by !== "jars" && by !== "litres")) return {};
  return { goal: { by, count: wanted, jar: jar ?? "" } };
}
