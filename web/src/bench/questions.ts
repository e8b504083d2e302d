import { type Choice, type Field, NOT_SAID, type Question } from "@/bench/sums";

const figure = (
  key: string,
  label: string,
  quantity: string,
  usual: number,
  from: number,
  to: number,
  unit?: string,
): Field => ({ key, label, quantity, usual, from, to, ...(unit && { unit }) });

const brix = (key: string, label: string, usual: number, from = 0, to = 80): Field =>
  figure(key, label, "brix", usual, from, to, "°Bx");
const volume = (key: string, label: string, usual: number): Field =>
  figure(key, label, "volume_ml", usual, 100, 20_000);
const degrees = (key: string, label: string, usual: number, from: number, to: number): Field =>
  figure(key, label, "temp_c", usual, from, to);
const minutes = (usual: number, to: number): Field =>
  figure("minutes", "For", "minutes", usual, 1, to, "min");

const STOPS: Record<string, Field> = {
  brix: brix("target", "Stop at", 40),
  share: figure("target", "Stop at", "percent", 50, 5, 99, "% of it"),
  depth: figure("target", "Stop at", "depth_cm", 4, 0.5, 40),
  temp: degrees("target", "Stop at", 102, 90, 115),
};

const jar: Choice = { key: "jar", label: "Jar", usual: "pint", list: "jar" };

/** A figure that only some have an instrument for. */
const ifRead = (chosen: Record<string, string>, field: Field): Field[] =>
  chosen.known === "read" ? [field] : [];
const read: Choice = {
  key: "known",
  label: "Its pH is",
  usual: "table",
  onPage: true,
  options: [
    { value: "table", label: "not read" },
    { value: "read", label: "read" },
  ],
};

/** The sums in the order in which they lie on the plank. */
export const SUMS: Question[] = [
  {
    key: "sweeten",
    name: "sweeten",
    title: "Sweeten",
    lead: "a liquid to a Brix, or thin it where it is sweeter already",
    fields: () => [
      volume("volume_ml", "There is", 2000),
      brix("brix", "As sweet as", 12),
      brix("target", "To", 40, 1, 78),
    ],
    choices: () => [{ key: "material", label: "With", usual: "sugar_white", list: "material" }],
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
      figure("width_cm", "The pot is wide", "depth_cm", 28, 12, 60),
      STOPS[chosen.stop ?? "brix"] as Field,
    ],
    choices: () => [
      {
        key: "stop",
        label: "Stop at",
        usual: "brix",
        forgets: ["target"],
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
    choices: () => [
      {
        key: "by",
        label: "Known is",
        usual: "brix",
        onPage: true,
        options: [
          { value: "brix", label: "the Brix" },
          { value: "reads", label: "the boil" },
        ],
      },
    ],
    moves: "brix",
  },
  {
    key: "sharpen",
    name: "sharpen",
    title: "Sharpen",
    lead: "a juice to a pH or an acidity, and how far a meter narrows it",
    fields: (chosen) => [
      volume("volume_ml", "There is", 3000),
      ...ifRead(chosen, figure("ph", "pH as read", "ph", 3.6, 2, 6, "pH")),
      chosen.goal === "acidity"
        ? figure("target", "To", "acid", 12, 1, 60, "g/l")
        : figure("target", "To", "ph", 3.2, 2, 4.6, "pH"),
    ],
    choices: () => [
      { key: "fruit", label: "Juice of", usual: "plum", list: "fruit" },
      { key: "with_what", label: "With", usual: "citric_acid", list: "acid" },
      {
        key: "goal",
        label: "Wanted is",
        usual: "ph",
        forgets: ["target"],
        options: [
          { value: "ph", label: "a pH" },
          { value: "acidity", label: "an acidity" },
        ],
      },
      read,
    ],
    moves: "target",
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
    choices: () => [],
    moves: "target",
  },
  {
    key: "citrus",
    name: "citrus",
    title: "Stretched citrus",
    lead: "peel, acid and water that stand in for fresh juice, by every school side by side",
    fields: (chosen) => [
      {
        count: figure("amount", "Fruit", "count", 8, 1, 60, "fruit"),
        peel: figure("amount", "Thin peel", "little_g", 70, 5, 600),
        volume: volume("amount", "Wanted", 1500),
      }[chosen.by ?? "count"] as Field,
      ...(chosen.by === "volume"
        ? []
        : [figure("juice_g", "Own juice back in", "little_g", 0, 0, 500)]),
      ...(chosen.ours === "own"
        ? [
            figure("own_peel", "Peel to a litre", "peel", 75, 20, 160, "g/l"),
            figure("own_acid", "Acid to a litre", "acid", 45, 5, 90, "g/l"),
            figure("own_citric", "of that citric", "percent", 70, 0, 100, "%"),
          ]
        : []),
    ],
    choices: (chosen) => [
      { key: "fruit", label: "Citrus", usual: "grapefruit", list: "citrus" },
      {
        key: "by",
        label: "Known is",
        usual: "count",
        forgets: ["amount"],
        options: [
          { value: "count", label: "fruit" },
          { value: "peel", label: "peel" },
          { value: "volume", label: "a volume" },
        ],
      },
      {
        key: "school",
        label: "Made",
        usual: "by-match",
        options: [
          { value: "by-peel", label: "by the peel" },
          { value: "by-litre", label: "by the litre" },
          { value: "by-match", label: "like the juice" },
          ...(chosen.ours === "own" ? [{ value: "own", label: "our way" }] : []),
        ],
      },
      { key: "like", label: "As sharp as", usual: NOT_SAID, list: "citrus" },
      {
        key: "ours",
        label: "Beside them",
        usual: NOT_SAID,
        onPage: true,
        options: [
          { value: NOT_SAID, label: "no more" },
          { value: "own", label: "our own way" },
        ],
      },
    ],
    moves: "amount",
  },
  {
    key: "cold-plate",
    name: "cold plate",
    title: "The cold plate",
    lead: "what a syrup does in the hot pot and on the plate, and what its drop says",
    fields: () => [
      brix("brix", "As sweet as, about", 66, 20, 86),
      degrees("hot_c", "The pot is at", 104, 60, 120),
      degrees("plate_c", "The plate is at", 20, 0, 40),
    ],
    choices: () => [{ key: "drop", label: "The drop", usual: NOT_SAID, list: "drop" }],
    moves: "brix",
  },
  {
    key: "crystals",
    name: "crystals",
    title: "Clear or crystals",
    lead: "whether a syrup stays clear where it stands, and what would stop the crystals",
    fields: () => [
      brix("brix", "As sweet as", 70, 40, 86),
      figure("inverted_pct", "Sugar inverted", "percent", 0, 0, 100, "%"),
      degrees("store_c", "It stands at", 15, 0, 35),
    ],
    choices: () => [],
    moves: "brix",
  },
  {
    key: "bottle",
    name: "a bottle",
    title: "Beside a bought bottle",
    lead: "what a litre costs, and how much sugar its label owns to",
    fields: () => [
      figure("sugar_g_100ml", "Label: sugar in 100 ml", "label", 62, 1, 110, "g"),
      figure("price", "It costs", "money", 4.2, 0.1, 40, "money"),
      figure("bottle_ml", "It holds", "little_ml", 700, 100, 2000),
      figure("own_litres", "You made", "litres", 3, 0.2, 30),
      figure("own_price", "for, in all", "money", 7.5, 0, 200, "money"),
      brix("own_brix", "Yours is as sweet as", 55),
    ],
    choices: () => [],
    moves: "own_price",
  },
  {
    key: "thin",
    name: "thin",
    title: "Thin to drink",
    lead: "a concentrate in the glass, neither too sweet nor too sharp",
    fields: () => [
      brix("brix", "The concentrate", 48),
      figure("acid_g_l", "Its acidity", "acid", 20, 0, 80, "g/l"),
      figure("glass_ml", "Glass", "little_ml", 250, 50, 2000),
      brix("sweet", "In the glass", 10, 2, 30),
      figure("sharp", "and as sharp as", "acid", 5, 1, 15, "g/l"),
    ],
    choices: () => [{ key: "with_what", label: "With", usual: "water", list: "diluent" }],
    moves: "sweet",
  },
  {
    key: "in-jar",
    name: "in the jar",
    title: "Inside the jar",
    lead: "how the coldest point follows the boil, by size and thickness",
    fields: () => [
      brix("brix", "As sweet as", 14),
      degrees("start_c", "Goes in at", 85, 20, 98),
      minutes(20, 60),
    ],
    choices: () => [
      jar,
      {
        key: "pulp",
        label: "It is",
        usual: "false",
        options: [
          { value: "false", label: "strained" },
          { value: "true", label: "pulp, or set" },
        ],
      },
    ],
    moves: "minutes",
  },
  {
    key: "measures",
    name: "measures",
    title: "Measures",
    lead: "any amount as one says it, on the scale, in the jug, by the cup and the spoon",
    fields: () => [],
    choices: () => [],
    line: { key: "text", label: "How much of what", usual: "2 heaped cups of brown sugar" },
  },
  {
    key: "process-time",
    name: "process time",
    title: "Process time, here",
    lead: "the tested minutes of a product in a jar at this altitude",
    fields: (chosen) => ifRead(chosen, figure("ph", "pH as read", "ph", 3.4, 2, 5, "pH")),
    choices: () => [
      { key: "product", label: "Product", usual: "berry_or_fruit_juice", list: "product" },
      { key: "fruit", label: "Fruit", usual: "damson", list: "fruit" },
      jar,
      {
        key: "pack",
        label: "Filled",
        usual: "any",
        options: [
          { value: "any", label: "hot or raw, the longer" },
          { value: "hot", label: "hot" },
          { value: "raw", label: "raw, boiling liquid over it" },
        ],
      },
      {
        key: "heater",
        label: "In",
        usual: "bath",
        options: [
          { value: "bath", label: "boiling water" },
          { value: "steam", label: "steam" },
        ],
      },
      read,
    ],
  },
  {
    key: "steam-pan",
    name: "steam pan",
    title: "Steam and its pan",
    lead: "how long the water under a steamer lasts, and what its steam puts into the kettle",
    fields: () => [
      figure("fruit_kg", "Fruit in the basket", "kilos", 5, 0.5, 20),
      figure("water_l", "Water in the pan", "litres", 3, 0.5, 10),
      minutes(60, 180),
      figure("lifts", "The lid comes off", "count", 1, 0, 10, "times"),
    ],
    choices: () => [],
    moves: "water_l",
  },
  {
    key: "freeze-dry",
    name: "freeze-dry",
    title: "In the freeze dryer",
    lead: "whether juice dries or foams on its trays, how long it takes, what is left",
    fields: () => [
      figure("mass_g", "On each tray", "mass_g", 700, 100, 2000),
      figure("thickness_mm", "Deep", "count", 10, 2, 25, "mm"),
      figure("trays", "Trays", "count", 4, 1, 10, ""),
      figure("sweet_g", "Sweetener in it", "mass_g", 0, 0, 500),
    ],
    choices: () => [
      { key: "fruit", label: "Juice of", usual: "blackcurrant", list: "fruit" },
      { key: "with_what", label: "Sweetened with", usual: "sugar_white", list: "material" },
    ],
    moves: "thickness_mm",
  },
  {
    key: "air-dry",
    name: "air-dry",
    title: "In warm air",
    lead: "how long slices, leather, peel or herbs take, and what they weigh when they are dry",
    fields: (chosen) => [
      figure("mass_g", "As it went in", "mass_g", 1000, 100, 5000),
      figure("wet_pct", "Water in it", "percent", 85, 60, 95, "%"),
      figure("thickness_mm", "Thick", "count", 5, 1, 15, "mm"),
      degrees("air_c", "The air", 57, 30, 75),
      figure("humidity_pct", "Humidity of the room", "percent", 50, 10, 90, "%"),
      ...(chosen.weighing === "yes"
        ? [
            figure("after_h", "Weighed after", "hours", 4, 0.5, 48, "h"),
            figure("left_g", "It weighed", "mass_g", 500, 50, 5000),
          ]
        : []),
    ],
    choices: () => [
      {
        key: "kind",
        label: "What",
        usual: "slices",
        options: ["slices", "leather", "peel", "herbs"].map((v) => ({ value: v, label: v })),
      },
      {
        key: "weighing",
        label: "A weighing",
        usual: "no",
        onPage: true,
        options: [
          { value: "no", label: "none yet" },
          { value: "yes", label: "weighed" },
        ],
      },
    ],
    moves: "thickness_mm",
  },
  {
    key: "back-again",
    name: "back again",
    title: "Back again",
    lead: "powder and water for a glass, a jug or a sachet",
    fields: () => [
      figure("powder_g", "Powder of the batch", "mass_g", 100, 10, 1000),
      figure("water_out_g", "Water that came out", "mass_g", 700, 50, 8000),
      figure("drink_ml", "To drink", "little_ml", 250, 50, 3000),
      figure("bulk_g_ml", "A millilitre of powder", "count", 0.45, 0.15, 1, "g"),
    ],
    choices: () => [
      {
        key: "strength",
        label: "As strong",
        usual: "as picked",
        options: ["as picked", "lighter", "stronger"].map((v) => ({ value: v, label: v })),
      },
    ],
    moves: "drink_ml",
  },
];

export const sumOf = (key: string | undefined): Question =>
  SUMS.find((s) => s.key === key) ?? (SUMS[0] as Question);
