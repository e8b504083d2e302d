import { useCallback, useEffect, useState } from "react";
import { useSearchParams } from "react-router";
import type { PlanCreate, StepRow } from "@/api/types";
import { asKilos } from "@/lib/format";
import { parse } from "@/ui/field";

/** The plan's figures live in the address, so that a plan can be sent to somebody. */
export type Asked = {
  fruit: string;
  kg: string;
  brix: string;
  ph: string;
  form: string;
  method: string;
  /** The flow as it was edited, as JSON; empty while it is the method's own. */
  flow: string;
  /** What came in that it is taken from. */
  lot: string;
  /** What the cook has said, as words of the rule book. */
  said: string;
  keep: string;
  jars: string;
  loads: string;
  acid: string;
  source: string;
};

/** What a plan begins with. */
export const FIRST: Asked = {
  fruit: "damson",
  kg: "10",
  brix: "",
  ph: "",
  form: "whole",
  method: "",
  flow: "",
  lot: "",
  said: "",
  keep: "shelf",
  jars: "",
  loads: "",
  acid: "",
  source: "",
};

/**
 * Typing must never wait for the address nor lose a stroke to it: the figures are state, and the
 * address follows them.
 */
export function useAsked(): [Asked, (change: Partial<Asked>) => void] {
  const [params, setParams] = useSearchParams();
  const [asked, setAsked] = useState<Asked>(() => ({
    ...FIRST,
    ...Object.fromEntries(params.entries()),
  }));
  useEffect(() => {
    const told = Object.entries(asked).filter(([k, v]) => v !== FIRST[k as keyof Asked]);
    setParams(Object.fromEntries(told), { replace: true });
  }, [asked, setParams]);
  const change = useCallback(
    (next: Partial<Asked>) => setAsked((before) => ({ ...before, ...next })),
    [],
  );
  return [asked, change];
}

/** The edited flow; none where the address holds none, or nothing that can be read. */
export function flowOf(asked: Asked): StepRow[] {
  if (!asked.flow) return [];
  try {
    return JSON.parse(asked.flow) as StepRow[];
  } catch {
    return [];
  }
}

/** What is asked of the server; a figure that is none goes as it is and is refused at its field. */
export function request(asked: Asked): PlanCreate {
  const acid = parse(asked.acid);
  return {
    inputs: [
      {
        material: asked.fruit,
        grams: 1000 * asKilos(parse(asked.kg) ?? 0),
        form: asked.form,
        brix: parse(asked.brix),
        ph: parse(asked.ph),
        lot_id: asked.lot ? Number(asked.lot) : null,
        source: asked.source,
      },
      ...(acid ? [{ material: "citric_acid", grams: acid }] : []),
    ],
    ends: [
      {
        keep: asked.keep as "shelf",
        jar_kinds: asked.jars ? asked.jars.split(" ") : [],
      },
    ],
    method_key: asked.method,
    steps: flowOf(asked),
    said: asked.said ? asked.said.split(" ") : [],
    loads: parse(asked.loads),
  };
}
