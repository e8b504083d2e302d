import type {
  EndSent,
  EndView,
  FlowOperation,
  InputView,
  MethodView,
  PlanView,
  ProcessView,
} from "@/api/types";
import { count, days, jarsOf, litres, mass, minutes, range, temperature } from "@/lib/format";
import { DEFER } from "@/lib/words";

/** An amount that was weighed needs no other words. */
const WEIGHED = /^\s*[\d.,½¼¾⅓⅔/ ]+\s*(?:kg|g|lb|oz)\b/i;

/** How much of something goes in, as it was said and as it comes to. */
export function amount({ said, mass_g }: InputView): string {
  const weighed = mass(mass_g.typ);
  return !said || WEIGHED.test(said) ? weighed : `${said}: ${weighed}`;
}

type Keep = Exclude<NonNullable<EndSent["keep"]>, "">;

/** Each way of keeping: what it is for, and how it then stands. */
const KEPT: Record<Keep, { meant: string; stands: string }> = {
  shelf: { meant: "for the shelf", stands: "for the shelf" },
  sugar: { meant: "for the shelf, by its sugar", stands: "closed; its sugar keeps it" },
  dry: { meant: "to keep dry", stands: "closed, dry" },
  chill: { meant: "for the refrigerator", stands: "chilled" },
  freeze: { meant: "for the freezer", stands: "frozen" },
  now: { meant: "drunk now", stands: "drunk now" },
};

/** How something is kept, in words. */
export const keptAs = (keep: string) => KEPT[keep as Keep];

/** What an end fills, in a word or two: "10 pints", "12 jars", "7 glasses". */
export function filled({ keep, glasses, expected }: EndView): string {
  if (keep === "now") return count(glasses, "glass", "glasses");
  const [one, ...others] = expected.jars;
  if (!one) return "no full jar";
  return others.length ? count(expected.count, "jar") : jarsOf(one.count, one.name);
}

/** What an end is filled into, with those to have ready besides. */
export function vessels(end: EndView): string {
  if (end.keep === "now") return `${end.glasses} × ${litres(end.glass_ml)}, drunk now`;
  const jars = end.expected.jars.map((j) => jarsOf(j.count, j.name)).join(", ");
  return `${jars || litres(1000 * end.litres.typ)}; have ${ready(end)} ready`;
}

/** How many to wash and keep hot, the last one that may not come full among them. */
export const ready = ({ generous }: EndView): number =>
  generous.count + (generous.part_kind ? 1 : 0);

/** The stations that a method needs and this kitchen lacks; empty where it has them. */
export const needs = (method: MethodView): string =>
  method.lacks.length ? `needs a ${method.lacks.join(", ").replaceAll("_", " ")}` : "";

/** What the jars are boiled in. */
export const boiledIn = (process: ProcessView): string =>
  process.heater === "bath" ? "boiling water" : "steam";

/** How an end is kept and for how long, and what stops it. */
export function kept(end: EndView): string {
  const stop = end.findings.find((f) => f.level === "stop");
  const time = end.process;
  const words = [
    end.brix ? `${range(end.brix)} °Bx` : "",
    end.ph ? `pH ${range(end.ph)}` : "",
    time ? `filled at ${temperature(time.fill_c)}, ${time.minutes} min in ${boiledIn(time)}` : "",
    `keeps ${days(end.life.days_lo, end.life.days_hi)} at ${temperature(end.life.temp_c)}`,
    stop ? `But: ${stop.message}` : "",
  ];
  return words.filter(Boolean).join("; ");
}

/** A step in a sentence or two. */
export const done = (o: FlowOperation): string => `${o.before} Look for ${o.look_for}.`;

/** A method as plain text, to be pasted anywhere. */
export function asText(plan: PlanView): string {
  const { method } = plan;
  return [
    method.name,
    [method.school, method.source].filter(Boolean).join("; "),
    method.note,
    "",
    "What goes in",
    ...plan.inputs.map((i) => `- ${i.name}: ${amount(i)}${i.joins ? `, ${i.joins}` : ""}`),
    "",
    "Step by step",
    ...plan.operations.map(
      (o, n) => `${n + 1}. ${o.title} (${minutes(o.minutes.typ)}). ${done(o)}`,
    ),
    "",
    "What comes of it",
    ...plan.ends.map((e) => `- ${e.label}: ${vessels(e)}; ${kept(e)}`),
    "",
    DEFER,
  ].join("\n");
}
