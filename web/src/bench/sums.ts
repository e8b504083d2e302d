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

export type Choice = {
  key: string;
  label: string;
  options: { value: string; label: string }[];
  usual: string;
};

export type Key = "sweeten" | "boil-down" | "thermometer" | "blend" | "cold-plate" | "thin";

export type Question = {
  key: Key;
  name: string;
  title: string;
  lead: string;
  fields: (chosen: Record<string, string>) => Field[];
  choices: Choice[];
  /** The field that the picture's handle moves. */
  moves: string;
};

const brix = (key: string, label: string, usual: number, to = 80): Field => ({
  key,
  label,
  quantity: "brix",
  unit: "°Bx",
  usual,
  from: 0,
  to,
});
const volume = (key: string, label: string, usual: number): Field => ({
  key,
  label,
  quantity: "volume_ml",
  usual,
  from: 100,
  to: 20_000,
});
const degrees = (key: string, label: string, usual: number, from: number, to: number): Field => ({
  key,
  label,
  quantity: "temp_c",
  usual,
  from,
  to,
});

/** A choice that says nothing. */
const NOT_SAID = "not";

const STOPS: Record<string, Field> = {
  brix: brix("target", "Stop at", 40),
  share: { ...brix("target", "Stop at", 50, 99), quantity: "percent", unit: "% of it", from: 5 },
  depth: { key: "target", label: "Stop at", quantity: "depth_cm", usual: 4, from: 0.5, to: 40 },
  temp: degrees("target", "Stop at", 102, 90, 115),
};

export const SUMS: Question[] = [
  {
    key: "sweeten",
    name: "sweeten",
    title: "Sweeten",
    lead: "a liquid to a Brix, or thin it where it is sweeter already",
    fields: () => [
      volume("volume_ml", "There is", 2000),
      brix("brix", "As sweet as", 12),
      { ...brix("target", "To", 40, 78), from: 1 },
    ],
    choices: [
      {
        key: "material",
        label: "With",
        usual: "sugar_white",
        options: [
          { value: "sugar_white", label: "sugar" },
          { value: "honey", label: "honey" },
          { value: "maple_syrup", label: "maple syrup" },
        ],
      },
    ],
    moves: "target",
  },
  {
    key: "boil-down",
    name: "boil down",
    title: "Boil down",
    lead: "from a pot, to a Brix, a share, a depth or a thermometer reading",
    fields: (chosen) => [
      volume("volume_ml", "Volume now", 4000),
      brix("brix", "Sweetness now", 14),
      {
        key: "width_cm",
        label: "The pot is wide",
        quantity: "depth_cm",
        usual: 28,
        from: 12,
        to: 60,
      },
      STOPS[chosen.stop ?? "brix"] as Field,
    ],
    choices: [
      {
        key: "stop",
        label: "Stop at",
        usual: "brix",
        options: [
          { value: "brix", label: "a Brix" },
          { value: "share", label: "a share" },
          { value: "depth", label: "a depth" },
          { value: "temp", label: "a boil" },
        ],
      },
    ],
    moves: "target",
  },
  {
    key: "thermometer",
    name: "thermometer",
    title: "Thermometer, here",
    lead: "where a syrup boils at this altitude, and how sweet one is by where it boils",
    fields: (chosen) =>
      chosen.by === "reads"
        ? [degrees("reads_c", "The thermometer reads", 104, 99, 114)]
        : [brix("brix", "As sweet as", 65)],
    choices: [
      {
        key: "by",
        label: "Known is",
        usual: "brix",
        options: [
          { value: "brix", label: "the Brix" },
          { value: "reads", label: "the boil" },
        ],
      },
    ],
    moves: "brix",
  },
  {
    key: "blend",
    name: "blend",
    title: "Blend",
    lead: "two liquids to a Brix between theirs, from what there is of each",
    fields: () => [
      volume("first_ml", "Of the first", 1000),
      brix("first", "as sweet as", 60),
      volume("second_ml", "Of the second", 3000),
      brix("second", "as sweet as ", 11),
      brix("target", "Together", 20),
    ],
    choices: [],
    moves: "target",
  },
  {
    key: "cold-plate",
    name: "cold plate",
    title: "The cold plate",
    lead: "what a syrup does in the hot pot and on the plate, and what its drop says",
    fields: () => [
      { ...brix("brix", "As sweet as, about", 66, 86), from: 20 },
      degrees("hot_c", "The pot is at", 104, 60, 120),
      degrees("plate_c", "The plate is at", 20, 0, 40),
    ],
    choices: [
      {
        key: "drop",
        label: "The drop",
        usual: NOT_SAID,
        options: [
          { value: NOT_SAID, label: "not tried" },
          ...[
            "pours like water",
            "pours like cream",
            "coats a spoon",
            "pours like runny honey",
            "stands like set honey",
            "sets to toffee",
          ].map((value) => ({ value, label: value })),
        ],
      },
    ],
    moves: "brix",
  },
  {
    key: "thin",
    name: "thin",
    title: "Thin to drink",
    lead: "a concentrate in the glass, neither too sweet nor too sharp",
    fields: () => [
      brix("brix", "The concentrate", 48),
      {
        key: "acid_g_l",
        label: "Its acidity",
        quantity: "acid",
        unit: "g/l",
        usual: 20,
        from: 0,
        to: 80,
      },
      { key: "glass_ml", label: "Glass", quantity: "little_ml", usual: 250, from: 50, to: 2000 },
      { ...brix("sweet", "In the glass", 10, 30), from: 2 },
      {
        key: "sharp",
        label: "and as sharp as",
        quantity: "acid",
        unit: "g/l",
        usual: 5,
        from: 1,
        to: 15,
      },
    ],
    choices: [
      {
        key: "with_what",
        label: "With",
        usual: "water",
        options: ["water", "sparkling water", "tea", "apple juice"].map((value) => ({
          value,
          label: value,
        })),
      },
    ],
    moves: "sweet",
  },
];

export const sumOf = (key: string | undefined): Question =>
  SUMS.find((s) => s.key === key) ?? (SUMS[0] as Question);

/** What was chosen, with what is usual where nothing was. */
export function chosenIn(question: Question, address: URLSearchParams): Record<string, string> {
  return Object.fromEntries(
    question.choices.map((c) => [c.key, address.get(c.key) ?? c.usual] as const),
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

/** What is asked: figures and choices; a choice that only shows other fields stays on the page. */
export function asked(
  question: Question,
  address: URLSearchParams,
): Record<string, string | number> {
  const { by, ...chosen } = chosenIn(question, address);
  const told = Object.entries(chosen).filter(([, value]) => value !== NOT_SAID);
  return { ...Object.fromEntries(told), ...figuresIn(question, address) };
}
