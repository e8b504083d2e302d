/** A figure that is typed, in base units in the address and in the kitchen's on the page. */
export type Field = {
  key: string;
  label: string;
  quantity: string;
  unit?: string;
  usual: number;
  /** Between which it is dragged. */
  from: number;
  to: number;
};

export type Option = { value: string; label: string };

export type Choice = {
  key: string;
  label: string;
  usual: string;
  /** Either these, or a list that the server has. */
  options?: Option[];
  list?: string;
  /** It only decides which fields are shown, and is not asked of the server. */
  onPage?: boolean;
  /** Figures that mean something else once it is chosen otherwise. */
  forgets?: string[];
};

export type Key =
  | "sweeten"
  | "boil-down"
  | "thermometer"
  | "sharpen"
  | "blend"
  | "citrus"
  | "cold-plate"
  | "crystals"
  | "bottle"
  | "thin"
  | "in-jar"
  | "measures"
  | "process-time"
  | "steam-pan"
  | "freeze-dry"
  | "air-dry"
  | "back-again";

export type Question = {
  key: Key;
  name: string;
  title: string;
  lead: string;
  fields: (chosen: Record<string, string>) => Field[];
  choices: (chosen: Record<string, string>) => Choice[];
  /** The field that the picture's handle moves. */
  moves?: string;
  /** What is said in words, and what is usual. */
  line?: { key: string; label: string; usual: string };
};

/** A choice that says nothing. */
export const NOT_SAID = "not";

/** What was chosen, with what is usual where nothing was. */
export function chosenIn(question: Question, address: URLSearchParams): Record<string, string> {
  const first = question.choices(Object.fromEntries(address));
  const chosen = Object.fromEntries(first.map((c) => [c.key, address.get(c.key) || c.usual]));
  return Object.fromEntries(
    question.choices(chosen).map((c) => [c.key, address.get(c.key) || c.usual]),
  );
}

/** The figures of a sum in base units, as the address has them. */
export function figuresIn(question: Question, address: URLSearchParams): Record<string, number> {
  const fields = question.fields(chosenIn(question, address));
  return Object.fromEntries(
    fields.map((f) => {
      const told = address.get(f.key);
      const value = told === null || told === "" ? Number.NaN : Number(told);
      return [f.key, Number.isFinite(value) ? value : f.usual] as const;
    }),
  );
}

/** What is asked: figures, choices and words; what only decides on the page stays on it. */
export function asked(
  question: Question,
  address: URLSearchParams,
): Record<string, string | number> {
  const chosen = chosenIn(question, address);
  const told = question
    .choices(chosen)
    .filter((c) => !c.onPage && chosen[c.key] !== NOT_SAID)
    .map((c) => [c.key, chosen[c.key] ?? c.usual] as const);
  const { line } = question;
  return {
    ...Object.fromEntries(told),
    ...figuresIn(question, address),
    ...(line && { [line.key]: address.get(line.key) || line.usual }),
  };
}

/** The step that a sum was opened from, if it was from one. */
export function openedFrom(address: URLSearchParams): { batch: string; step: string } | null {
  const [batch, step] = [address.get("batch"), address.get("step")];
  return batch && step ? { batch, step } : null;
}
