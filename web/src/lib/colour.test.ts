import { readFileSync } from "node:fs";
import { expect, it } from "vitest";
import { contrast, mix, ofFruit, wordsOn } from "@/lib/colour";

const FRUITS = readFileSync(`${__dirname}/../../../src/elderberry/core/data/fruits.csv`, "utf8");
const COLOURS = [...new Set(FRUITS.match(/#[0-9a-f]{6}/gi) ?? [])];

it("knows the colours of the fruit", () => expect(COLOURS.length).toBeGreaterThan(15));

it.each(COLOURS)("words can be read on juice and fruit of %s", (colour) => {
  for (const ground of [colour, ofFruit(colour)])
    expect(contrast(ground, wordsOn(ground))).toBeGreaterThan(4.5);
});

/** What can be written with, and on what it is written. */
const WORDS = ["ink", "slate", "elder", "leaf", "brass", "hip"];
const GROUNDS = ["linen", "paper", "tag", "cold"];
const [LIGHT, DARK] = readFileSync(`${__dirname}/../styles.css`, "utf8")
  .split("prefers-color-scheme: dark")
  .map((css) => new Map([...css.matchAll(/--([\w-]+): (#[0-9a-f]{6})/g)].map((m) => [m[1], m[2]])));

it.each(WORDS.flatMap((w) => GROUNDS.map((g) => [w, g] as const)))(
  "%s can be read on %s, by day and by night",
  (word, ground) => {
    for (const colours of [LIGHT, DARK])
      expect(contrast(colours?.get(word) ?? "", colours?.get(ground) ?? "")).toBeGreaterThan(4.5);
  },
);

it("mixes from one end to the other", () => {
  expect(mix("#000000", "#ffffff", 0)).toBe("#000000");
  expect(mix("#000000", "#ffffff", 1)).toBe("#ffffff");
  expect(mix("#204060", "#406080", 0.5)).toBe("#305070");
});

it("draws fruit darker than its juice", () => {
  for (const colour of COLOURS)
    expect(contrast(ofFruit(colour), "#000000")).toBeLessThan(contrast(colour, "#000000") + 0.3);
});

it("reckons contrast as the guidelines do", () => {
  expect(contrast("#000000", "#ffffff")).toBeCloseTo(21);
  expect(contrast("#777777", "#ffffff")).toBeCloseTo(4.48, 2);
  expect(contrast("#808080", "#808080")).toBe(1);
});
