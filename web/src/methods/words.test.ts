import { afterEach, describe, expect, it } from "vitest";
import type { EndView, InputView, MethodView, PlanView } from "@/api/types";
import { showIn } from "@/lib/units";
import { DEFER } from "@/lib/words";
import { amount, asText, filled, kept, keptAs, needs, ready, vessels } from "@/methods/words";

afterEach(() => showIn("metric"));

const about = (lo: number, typ: number, hi: number) => ({ lo, typ, hi });
const input = (more: object) =>
  ({ said: "", mass_g: about(900, 1000, 1100), ...more }) as InputView;
const end = (more: object) =>
  ({
    key: "fill",
    label: "Damson syrup",
    keep: "shelf",
    expected: { count: 10, jars: [{ count: 10, name: "pint" }], part_kind: "" },
    generous: { count: 12, jars: [], part_kind: "pint" },
    litres: about(4.2, 5, 5.8),
    glasses: 7,
    glass_ml: 250,
    brix: null,
    ph: null,
    process: null,
    life: { days_lo: 365, days_hi: 730, temp_c: 12 },
    findings: [],
    ...more,
  }) as unknown as EndView;

describe("how much goes in", () => {
  it.each([
    ["10 kg damsons", "1.0 kg"],
    ["2 ½ lb quinces", "1.0 kg"],
    ["500g sugar", "1.0 kg"],
    ["4 cups sugar", "4 cups sugar: 1.0 kg"],
    ["3 lemons", "3 lemons: 1.0 kg"],
    ["", "1.0 kg"],
  ])("%j is %j", (said, words) => {
    expect(amount(input({ said }))).toBe(words);
  });
});

describe("what an end fills", () => {
  it.each([
    ["10 pints", {}],
    ["7 glasses", { keep: "now" }],
    ["1 glass", { keep: "now", glasses: 1 }],
    ["no full jar", { expected: { count: 0, jars: [], part_kind: "pint" } }],
    [
      "12 jars",
      {
        expected: {
          count: 12,
          jars: [
            { count: 10, name: "pint" },
            { count: 2, name: "quart" },
          ],
        },
      },
    ],
    ["3 × 500 ml", { expected: { count: 3, jars: [{ count: 3, name: "500 ml" }] } }],
  ])("%s", (words, more) => {
    expect(filled(end(more))).toBe(words);
  });

  it("has one more ready for the jar that may not come full", () => {
    expect(ready(end({}))).toBe(13);
    expect(ready(end({ generous: { count: 12, jars: [], part_kind: "" } }))).toBe(12);
    expect(vessels(end({}))).toBe("10 pints; have 13 ready");
  });

  it("names every size, litres where no jar comes full, and glasses", () => {
    const jars = [
      { count: 10, name: "pint" },
      { count: 1, name: "quart" },
    ];
    expect(vessels(end({ expected: { count: 11, jars } }))).toMatch(/^10 pints, 1 quart;/);
    expect(vessels(end({ expected: { count: 0, jars: [] } }))).toMatch(/^5\.0 l;/);
    expect(vessels(end({ keep: "now" }))).toBe("7 × 250 ml, drunk now");
  });
});

describe("how it is kept", () => {
  it("says every figure there is, in one breath", () => {
    const process = { fill_c: 88, minutes: 20, heater: "bath" };
    const words = kept(end({ brix: about(11, 12, 13), ph: about(3.2, 3.4, 3.6), process }));
    expect(words).toBe(
      "11.0 to 13.0 °Bx; pH 3.2 to 3.6; filled at 88 °C, 20 min in boiling water; " +
        "keeps 12 to 24 months at 12 °C",
    );
  });

  it("knows steam, and degrees of the kitchen", () => {
    showIn("us");
    const process = { fill_c: 88, minutes: 25, heater: "steam" };
    expect(kept(end({ process }))).toMatch(/^filled at 190 °F, 25 min in steam; keeps/);
  });

  it("never leaves a stop out", () => {
    const findings = [
      { level: "warn", message: "The jars are old." },
      { level: "stop", message: "No tested time for this jar." },
    ];
    expect(kept(end({ findings }))).toMatch(/; But: No tested time for this jar\.$/);
    expect(kept(end({ findings: findings.slice(0, 1) }))).not.toMatch(/But/);
  });

  it("has words for every way of keeping", () => {
    for (const keep of ["shelf", "sugar", "dry", "chill", "freeze", "now"]) {
      expect(keptAs(keep).meant).not.toBe("");
      expect(keptAs(keep).stands).not.toBe("");
    }
  });
});

it("says what a kitchen lacks for a method", () => {
  const lacks = (of: string[]) => needs({ lacks: of } as unknown as MethodView);
  expect(lacks([])).toBe("");
  expect(lacks(["freeze_dryer"])).toBe("needs a freeze dryer");
  expect(lacks(["juicer", "canner"])).toBe("needs a juicer, canner");
});

it("writes a method as text, in the order of the work, deferring to the authorities", () => {
  const step = (title: string) => ({
    title,
    minutes: about(50, 60, 80),
    before: `${title} gently.`,
    look_for: "clear juice",
  });
  const text = asText({
    method: { name: "Damson syrup", school: "Clear", source: "ours", note: "Slow and clear." },
    inputs: [
      { ...input({ name: "damsons", said: "10 kg damsons" }), joins: "" },
      { ...input({ name: "sugar", said: "4 cups sugar" }), joins: "off the heat" },
    ],
    operations: [step("Steam"), step("Stir in sugar")],
    ends: [end({})],
  } as unknown as PlanView);
  const lines = text.split("\n");
  expect(lines.slice(0, 3)).toEqual(["Damson syrup", "Clear; ours", "Slow and clear."]);
  expect(lines).toContain("- sugar: 4 cups sugar: 1.0 kg, off the heat");
  expect(lines).toContain("1. Steam (1\u00a0h). Steam gently. Look for clear juice.");
  expect(text.indexOf("1. Steam")).toBeLessThan(text.indexOf("2. Stir in sugar"));
  expect(lines).toContain(
    "- Damson syrup: 10 pints; have 13 ready; keeps 12 to 24 months at 12 °C",
  );
  expect(lines.at(-1)).toBe(DEFER);
});
