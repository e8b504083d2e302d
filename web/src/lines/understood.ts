import type { LineView } from "@/api/types";
import { litres, mass, plain, short } from "@/lib/format";

const FORMS: Record<string, string> = { whole: "fresh", puree: "purée" };
const UNSAID = new Set(["as_sold", "whole"]);

/** A form as a cook says it. */
export const formWord = (form: string): string => FORMS[form] ?? form;

const OF: Record<string, string> = {
  "g/g": "of its weight",
  "g/l": "to the litre",
  "g/jar": "a jar",
};
const WHERE: Record<string, string> = {
  start: "with the fruit",
  simmer: "at the simmer",
  strained: "after straining",
  off_heat: "off the heat",
  jar: "in the jar",
  glass: "in the glass",
};

/** A line as it was understood, in one breath: "honey · 840 g · off the heat". */
export function understood(read: LineView): string {
  const form = UNSAID.has(read.form ?? "") ? "" : formWord(read.form ?? "");
  const named = [read.guessed ? `read as ${read.called}` : read.called, form];
  const parts = [
    named.filter(Boolean).join(", "),
    much(read),
    WHERE[read.where ?? ""] ?? "",
    read.leaves ? "strained out" : "",
    read.differs ? "kinds differ by the cup: weigh it" : "",
  ];
  return parts.filter(Boolean).join(" · ");
}

function much(read: LineView): string {
  switch (read.how) {
    case "share":
      return read.per === "g/g"
        ? `${short(100 * (read.share ?? 0))} % ${OF["g/g"]}`
        : `${mass(read.share)} ${OF[read.per ?? "g/l"]}`;
    case "target":
      return TARGETS[read.target ?? ""]?.(read.value ?? 0) ?? "";
    case "to_taste":
      return "to taste";
    default:
      return read.mass_g ? mass(read.mass_g.typ) : "";
  }
}

const TARGETS: Record<string, (value: number) => string> = {
  brix: (v) => `to ${plain(v)} °Bx`,
  ph: (v) => `to pH ${plain(v, 0.01)}`,
  acid_g_l: (v) => `to ${plain(v)} g/l acid`,
  volume_ml: (v) => `up to ${litres(v)}`,
  cover: () => "to cover",
  fill: () => "to fill the jars",
  rest: () => "the rest",
  last: (v) =>
    v > 0 ? "stronger than last time" : v < 0 ? "milder than last time" : "as last time",
};
