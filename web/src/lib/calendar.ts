/** Days and times of day as they are written. A formatter is made once: making one takes fifty
 * times as long as using it, and a screen shows a hundred dates. */

const MADE = new Map<string, Intl.DateTimeFormat>();

const SHAPES = {
  time: { hour: "2-digit", minute: "2-digit" },
  day: { day: "numeric", month: "short" },
  dayAndYear: { day: "numeric", month: "short", year: "numeric" },
  month: { month: "short", year: "numeric" },
  weekday: { weekday: "short", day: "numeric", month: "short" },
  whole: { weekday: "long", day: "numeric", month: "long" },
  number: { year: "numeric", month: "2-digit", day: "2-digit" },
} as const satisfies Record<string, Intl.DateTimeFormatOptions>;

type Shape = keyof typeof SHAPES;

/** A moment in one of our shapes, in a zone or in the machine's own; "number" is 2026-10-03. */
export function written(at: Date | number | string, shape: Shape, zone?: string): string {
  const name = `${shape} ${zone ?? ""}`;
  let made = MADE.get(name);
  if (!made) {
    const locale = shape === "number" ? "en-CA" : "en-GB";
    made = new Intl.DateTimeFormat(locale, { ...SHAPES[shape], timeZone: zone });
    MADE.set(name, made);
  }
  return made.format(typeof at === "string" ? new Date(at) : at);
}
