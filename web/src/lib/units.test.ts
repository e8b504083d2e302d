import { afterEach, describe, expect, it } from "vitest";
import { inPounds, measureIn, measureOf, type System, showIn, shown, typed } from "@/lib/units";

afterEach(() => showIn("metric"));

const SYSTEMS: System[] = ["metric", "us", "imperial"];
const QUANTITIES = [
  "volume_ml", "little_ml", "little_g", "kilos", "litres", "yield", "mass_g", "span_c", "temp_c",
  "depth_cm", "altitude_m",
]; // biome-ignore format: a list

describe("a quantity in a kitchen's units", () => {
  it.each(SYSTEMS.flatMap((s) => QUANTITIES.map((q) => [q, s] as const)))(
    "%s comes back as it was typed in %s",
    (quantity, system) => {
      const measure = measureIn(system, quantity);
      for (const value of [0, 0.5, 37, 212]) {
        expect(shown(typed(value, measure), measure)).toBeCloseTo(value, 9);
      }
    },
  );

  it.each([
    ["us", "temp_c", 100, 212, "°F"],
    ["us", "span_c", 10, 18, "°F"],
    ["us", "altitude_m", 585, 1919.3, "ft"],
    ["us", "volume_ml", 3785.41, 4, "qt"],
    ["imperial", "volume_ml", 4546.09, 8, "pt"],
    ["imperial", "temp_c", 100, 100, "°C"],
    ["imperial", "mass_g", 6350.29, 14, "lb"],
    ["metric", "depth_cm", 4, 4, "cm"],
    ["us", "yield", 1, 0.4793, "qt a pound"],
  ] as const)("in %s, %s of %s is %s %s", (system, quantity, base, wanted, unit) => {
    const measure = measureIn(system, quantity);
    expect(shown(base, measure)).toBeCloseTo(wanted, 1);
    expect(measure.unit).toBe(unit);
  });

  it("is as it is where it has a single unit", () => {
    expect(measureIn("us", "ph", "pH")).toEqual({ unit: "pH", factor: 1 });
  });

  it("follows the kitchen, and what is unknown of one is metric", () => {
    showIn("us");
    expect([measureOf("mass_g").unit, inPounds()]).toEqual(["lb", true]);
    showIn("furlongs");
    expect([measureOf("mass_g").unit, inPounds()]).toEqual(["kg", false]);
  });
});
