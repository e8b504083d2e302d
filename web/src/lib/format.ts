import type { Estimate } from "@/api/types";
import { written } from "@/lib/calendar";
import { FOOT_M, inPounds, measureOf, OUNCE_G, POUND_G, shown } from "@/lib/units";

/** Figures as a cook says them; a missing one is a dash. Every figure on screen comes through here. */

const MISSING = "–";

/** Rounds to what a hand can measure: three figures under ten, two above, whole from a hundred. */
export function plain(value: number | null | undefined, step?: number): string {
  if (value === null || value === undefined || !Number.isFinite(value)) return MISSING;
  const unit = step ?? (Math.abs(value) < 99.95 ? 0.1 : 1);
  const digits = unit >= 1 ? 0 : unit >= 0.1 ? 1 : 2;
  return (Math.round(value / unit) * unit).toFixed(digits);
}

/** The same without an empty decimal: "8", "12.5". */
export const short = (value: number | null | undefined): string => plain(value).replace(/\.0$/, "");

/** How long something keeps: days, months from a quarter of a year on, years from three on. */
export function days(lo: number, hi: number): string {
  const [unit, of] =
    hi > 1095
      ? (["years", 365] as const)
      : hi > 90
        ? (["months", 30.4] as const)
        : (["days", 1] as const);
  const [first, last] = [lo / of, hi / of].map((n) => (n < 1 ? "½" : plain(n, 1)));
  return first === last ? `${last} ${unit}` : `${first} to ${last} ${unit}`;
}

/** Litres, or millilitres to ten below one; where there are quarts, ounces below half of one. */
export function litres(ml: number | null | undefined): string {
  if (ml === null || ml === undefined) return MISSING;
  const measure = measureOf("volume_ml");
  if (inPounds()) {
    const ounces = shown(ml, measureOf("little_ml"));
    if (ml > 0 && ml < measure.factor / 2) return `${short(Math.round(ounces * 2) / 2)} fl oz`;
    return `${plain(shown(ml, measure), 0.1)} ${measure.unit}`;
  }
  return ml > 0 && ml < 995 ? `${plain(ml, 10)} ml` : `${plain(ml / 1000)} l`;
}

/** What a vessel holds, as it is called by: "8 l", "1.5 l". */
export function holds(ml: number): string {
  if (inPounds() || ml < 995) return litres(ml).replace(".0 ", " ");
  return `${Number((ml / 1000).toFixed(2))} l`;
}

/** The size of a jar that a time was tested for, to the millilitre. */
export const jarSize = (ml: number): string => (inPounds() ? litres(ml) : `${plain(ml, 1)} ml`);

/** Grams as kilos above one kilo, below as grams to what a kitchen scale shows: five, one, a half. */
export function mass(grams: number | null | undefined): string {
  if (grams === null || grams === undefined) return MISSING;
  if (inPounds() && grams >= LEAST_OUNCES_G) return pounds(grams);
  if (grams >= 995) return `${plain(grams / 1000)} kg`;
  const step = grams >= 50 ? 5 : grams >= 5 ? 1 : 0.5;
  return `${short(Math.round(grams / step) * step)} g`;
}

/** Under half an ounce nobody weighs in ounces. */
const LEAST_OUNCES_G = 14;

function pounds(grams: number): string {
  return grams < POUND_G ? `${plain(grams / OUNCE_G, 1)} oz` : `${plain(grams / POUND_G, 0.1)} lb`;
}

/** What is expected of a quantity, in the unit that it is typed in here. */
export function spoken(e: Estimate, quantity: string, unit = ""): string {
  const measure = measureOf(quantity, unit);
  const here = {
    ...e,
    lo: shown(e.lo, measure),
    typ: shown(e.typ, measure),
    hi: shown(e.hi, measure),
  };
  return `${range(here, 1, quantity === "ph" ? 0.1 : undefined)} ${measure.unit}`.trim();
}

/** Litres in the unit of the kitchen, as a range: "4.2 to 5.8 l". */
export const litresRange = (e: Estimate): string => spoken(e, "litres");

/** A temperature to the degree, or to a step that is wanted. */
export function temperature(c: number | null | undefined, step = 1): string {
  if (c === null || c === undefined) return MISSING;
  const measure = measureOf("temp_c");
  return `${plain(shown(c, measure), step)} ${measure.unit}`;
}

/** How high above the sea. */
export function altitude(m: number): string {
  const measure = measureOf("altitude_m");
  return `${plain(shown(m, measure), 1)} ${measure.unit}`;
}

/** The same of a height that the tested tables know in feet. */
export const altitudeOfFeet = (ft: number): string => altitude(ft * FOOT_M);

/** Room under a lid: millimetres, or inches to an eighth. */
export function room(mm: number): string {
  if (!inPounds()) return `${plain(mm, 1)} mm`;
  const eighths = Math.round((mm / 25.4) * 8);
  const [whole, left] = [Math.floor(eighths / 8), eighths % 8];
  const share = left % 4 === 0 ? 4 : left % 2 === 0 ? 2 : 1;
  const part = left ? `${left / share}/${8 / share}` : "";
  return `${[whole || "", part].filter(Boolean).join(" ") || "0"} in`;
}

/** "10.5 to 14.4", or one figure where both ends read the same. */
export function range(e: Estimate | null | undefined, scale = 1, step?: number): string {
  if (!e) return MISSING;
  const [lo, hi] = [plain(e.lo * scale, step), plain(e.hi * scale, step)];
  return lo === hi ? lo : `${lo} to ${hi}`;
}

/** Keeps a figure and its unit on one line. */
const BOUND = "\u00a0";

/** Minutes as "50 min", "3 h 10" or "3 d 8 h", never broken over two lines. */
export function minutes(count: number): string {
  const whole = Math.round(count);
  if (whole < 60) return `${whole}${BOUND}min`;
  if (whole >= LONG_H * 60) return daysAndHours(whole / 60);
  const [h, m] = [Math.floor(whole / 60), whole % 60];
  const hours = `${h}${BOUND}h`;
  return m ? `${hours}${BOUND}${String(m).padStart(2, "0")}` : hours;
}

/** From here on time is told in days. */
const LONG_H = 48;

function daysAndHours(hours: number): string {
  const [d, h] = [Math.floor(Math.round(hours) / 24), Math.round(hours) % 24];
  return `${d}${BOUND}d${h ? `${BOUND}${h}${BOUND}h` : ""}`;
}

/** Seconds left as "18:24", "2:05:00" or "3 d 8 h"; negative ones count up. */
export function clock(seconds: number): string {
  const s = Math.floor(Math.abs(seconds));
  if (s >= LONG_H * 3600) return daysAndHours(s / 3600);
  const [h, m, r] = [Math.floor(s / 3600), Math.floor((s % 3600) / 60), s % 60];
  const tail = `${String(m).padStart(h ? 2 : 1, "0")}:${String(r).padStart(2, "0")}`;
  return h ? `${h}:${tail}` : tail;
}

/** Time of day in the kitchen's zone. */
export function timeOfDay(at: string | null | undefined, zone: string): string {
  return at ? written(at, "time", zone) : MISSING;
}

export const DAY_MS = 86_400_000;

/** The day of a moment in the kitchen's zone, as "2026-10-03". */
export const dayOf = (at: number, zone: string): string => written(at, "number", zone);

/** "today 14:20", "tomorrow 07:05", "Thu 26 Nov 14:20". */
export function moment(at: string, now: number, zone: string): string {
  const day = dayOf(new Date(at).getTime(), zone);
  const time = timeOfDay(at, zone);
  if (day === dayOf(now, zone)) return `today ${time}`;
  if (day === dayOf(now + DAY_MS, zone)) return `tomorrow ${time}`;
  if (day === dayOf(now - DAY_MS, zone)) return `yesterday ${time}`;
  return `${written(at, "weekday", zone)} ${time}`;
}

/** The middle of a day, so that no zone makes another day of it. */
export const noonOf = (day: string): Date => new Date(`${day.slice(0, 10)}T12:00:00Z`);

/** A date as "3 Dec", with its year where that is another one. */
export function date(day: string, now: number = Date.now()): string {
  const then = noonOf(day);
  const sameYear = then.getUTCFullYear() === new Date(now).getUTCFullYear();
  return written(then, sameYear ? "day" : "dayAndYear");
}

/** How far off a best-by is, as one says it: "in 4 days", "in 6 weeks", "Apr 2028", "since 2 days". */
export function untilDate(day: string, now: number): string {
  const then = noonOf(day);
  const days = Math.round((then.getTime() - now) / DAY_MS);
  if (days < 0) return days === -1 ? "since yesterday" : `${-days} days past`;
  if (days === 0) return "today";
  if (days === 1) return "tomorrow";
  if (days < 14) return `${days} days`;
  if (days < 70) return `${Math.round(days / 7)} weeks`;
  return written(then, "month");
}

/** Jars as one says them: "10 pints", but "10 × 500 ml". */
export const jarsOf = (n: number, name: string): string =>
  /^\d/.test(name) ? `${n} × ${name}` : count(n, name);

export const count = (n: number, one: string, many = `${one}s`): string =>
  `${n} ${n === 1 ? one : many}`;
