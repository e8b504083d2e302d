import { useEffect, useState } from "react";
import { useSearchParams } from "react-router";
import type { PlanCreate } from "@/api/types";
import { parse } from "@/ui/field";

/** The plan's figures live in the address, so that a plan can be sent to somebody. */
export type Asked = {
  fruit: string;
  kg: string;
  brix: string;
  ph: string;
  keep: string;
  jars: string;
  lifts: string;
  loads: string;
  acid: string;
  source: string;
};

const FIRST: Asked = {
  fruit: "damson",
  kg: "10",
  brix: "",
  ph: "",
  keep: "shelf",
  jars: "",
  lifts: "0",
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
  return [asked, (change) => setAsked((before) => ({ ...before, ...change }))];
}

/** What is asked of the server; a figure that is none goes as it is and is refused at its field. */
export function request(asked: Asked): PlanCreate {
  return {
    fruit_key: asked.fruit,
    fruit_kg: parse(asked.kg) ?? 0,
    brix: parse(asked.brix),
    ph: parse(asked.ph),
    keep: asked.keep as "shelf",
    jar_kinds: asked.jars ? asked.jars.split(" ") : [],
    lid_lifts: Number(asked.lifts),
    loads: parse(asked.loads),
    citric_acid_g: parse(asked.acid) ?? 0,
    source: asked.source,
  };
}
