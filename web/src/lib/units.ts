/** The units of a kitchen: how each quantity is typed and shown there, whatever it is kept in. */

export type System = "metric" | "us" | "imperial";

let system: System = "metric";

/** The kitchen's choice is told once, by the frame. */
export function showIn(chosen: string): void {
  system = chosen === "us" || chosen === "imperial" ? chosen : "metric";
}

export const inPounds = (): boolean => system !== "metric";

export const POUND_G = 453.592;
export const OUNCE_G = 28.3495;
const INCH_CM = 2.54;
export const FOOT_M = 0.3048;

/** A unit, and how many of the base unit it is; degrees have a zero of their own. */
export type Measure = { unit: string; factor: number; zero?: number };

const MEASURES: Record<string, Record<System, Measure>> = {
  volume_ml: {
    metric: { unit: "l", factor: 1000 },
    us: { unit: "qt", factor: 946.353 },
    imperial: { unit: "pt", factor: 568.261 },
  },
  little_ml: {
    metric: { unit: "ml", factor: 1 },
    us: { unit: "fl oz", factor: 29.5735 },
    imperial: { unit: "fl oz", factor: 28.4131 },
  },
  little_g: {
    metric: { unit: "g", factor: 1 },
    us: { unit: "oz", factor: OUNCE_G },
    imperial: { unit: "oz", factor: OUNCE_G },
  },
  kilos: {
    metric: { unit: "kg", factor: 1 },
    us: { unit: "lb", factor: POUND_G / 1000 },
    imperial: { unit: "lb", factor: POUND_G / 1000 },
  },
  litres: {
    metric: { unit: "l", factor: 1 },
    us: { unit: "qt", factor: 0.946353 },
    imperial: { unit: "pt", factor: 0.568261 },
  },
  yield: {
    metric: { unit: "l a kilo", factor: 1 },
    us: { unit: "qt a pound", factor: 0.946353 / 0.453592 },
    imperial: { unit: "pt a pound", factor: 0.568261 / 0.453592 },
  },
  mass_g: {
    metric: { unit: "kg", factor: 1000 },
    us: { unit: "lb", factor: POUND_G },
    imperial: { unit: "lb", factor: POUND_G },
  },
  /** A difference of temperatures. */
  span_c: {
    metric: { unit: "°C", factor: 1 },
    us: { unit: "°F", factor: 1 / 1.8 },
    imperial: { unit: "°C", factor: 1 },
  },
  temp_c: {
    metric: { unit: "°C", factor: 1 },
    us: { unit: "°F", factor: 5 / 9, zero: 32 },
    imperial: { unit: "°C", factor: 1 },
  },
  depth_cm: {
    metric: { unit: "cm", factor: 1 },
    us: { unit: "in", factor: INCH_CM },
    imperial: { unit: "in", factor: INCH_CM },
  },
  altitude_m: {
    metric: { unit: "m", factor: 1 },
    us: { unit: "ft", factor: FOOT_M },
    imperial: { unit: "ft", factor: FOOT_M },
  },
};

/** How a quantity is typed and shown in some units; one that has a single unit is as it is. */
export const measureIn = (units: System, quantity: string, unit = ""): Measure =>
  MEASURES[quantity]?.[units] ?? { unit, factor: 1 };

/** The same in those of the kitchen. */
export const measureOf = (quantity: string, unit = ""): Measure =>
  measureIn(system, quantity, unit);

export const shown = (base: number, { factor, zero = 0 }: Measure): number => base / factor + zero;
export const typed = (value: number, { factor, zero = 0 }: Measure): number =>
  (value - zero) * factor;
