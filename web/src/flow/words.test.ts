import { expect, it } from "vitest";
import type { FlowLot, FlowOperation } from "@/api/types";
import { beads } from "@/flow/beads";
import type { Band } from "@/flow/layout";
import { bandColour, detail, groupColour, together, usualLabel } from "@/flow/words";

const exactly = (typ: number) => ({ lo: typ, typ, hi: typ, evidence: "typical" as const });

const juice = (key: string, ml: number): FlowLot => ({
  key,
  kind: "juice",
  name: `Damson juice, load ${key.at(-1)}`,
  mass_g: exactly(ml * 1.05),
  volume_ml: { lo: 0.9 * ml, typ: ml, hi: 1.1 * ml, evidence: "typical" },
  brix: exactly(13.4),
  ph: exactly(3),
  clarity: "clear",
});

it("adds up the loads of a lot", () => {
  const both = together([juice("juice-1", 2000), juice("juice-2", 3000)]);
  expect(both.volume).toEqual({ lo: 4500, typ: 5000, hi: 5500 });
  expect(both.mass).toBeCloseTo(5250);
});

it("says of juice its litres and sweetness, of what joins its kind", () => {
  expect(usualLabel([juice("juice-1", 2000)])).toEqual({ big: "2.0 l", small: "13.4 °Bx" });
  const water = { ...juice("water_simmer", 900), kind: "water", name: "Water", brix: null };
  expect(usualLabel([water])).toEqual({ big: "water", small: "945 g" });
  expect(usualLabel([])).toBeUndefined();
  const spice = { ...juice("spice_whole_steep", 40), kind: "added", name: "Whole spice" };
  expect(usualLabel([spice])).toEqual({ big: "whole spice", small: "42 g" });
});

it("tells everything of a lot in one line, and what is only inferred", () => {
  const words = detail([juice("juice-1", 2000), juice("juice-2", 3000)]);
  expect(words).toBe("Damson juice, 2 lots · 5.3 kg · 4.5 to 5.5 l · 13.4 °Bx · pH 3.0 · clear");
  const read = juice("water_steep", 1000);
  const inferred = {
    ...read,
    kind: "water",
    name: "Water, not measured",
    brix: null,
    ph: null,
    clarity: "",
    mass_g: { ...read.mass_g, evidence: "read" as const },
  };
  expect(detail([inferred])).toContain("inferred, not measured");
});

const step = (key: string, verb: string, minutes: number): FlowOperation => ({
  key,
  kind: verb,
  role: verb,
  verb,
  title: verb,
  minutes: exactly(minutes),
  takes: [],
  gives: [],
  step: key.split("-")[0] ?? "",
});

it("strings the loads of one step on one bead, cooling counted once", () => {
  const strung = beads([
    step("steam_juice-1", "steam", 60),
    step("steam_juice-2", "steam", 60),
    step("process-1", "process", 15),
    { ...step("cool-1", "cool", 720), step: "process" },
    step("process-2", "process", 15),
    { ...step("cool-2", "cool", 720), step: "process" },
  ]);
  expect(strung.map((b) => [b.verb, b.times, b.sum])).toEqual([
    ["steam", 2, 120],
    ["process", 2, 30],
    ["cool", 2, 720],
  ]);
});

const JUICE = "#7a3b6e";

it.each([
  ["steam", "juice", "var(--water)"],
  ["added", "juice", "#d99b2b"],
  ["fruit", "juice", JUICE],
  ["fruit", "pomace", "var(--pomace)"],
  ["juice", "loss", "var(--pomace)"],
])("what flows from %s into %s has its colour", (from, into, colour) => {
  const band = { source: { kind: from }, target: { kind: into } } as Band;
  const own = (group: { kind: string }) =>
    groupColour(group, group.kind === "added" ? "#d99b2b" : JUICE);
  expect(bandColour(band, own)).toBe(colour);
});

it("draws fruit darker than its juice, and water as water", () => {
  expect(groupColour({ kind: "juice" }, JUICE)).toBe(JUICE);
  expect(groupColour({ kind: "fruit" }, JUICE)).not.toBe(JUICE);
  expect(groupColour({ kind: "water" }, JUICE)).toBe("var(--water)");
});

it.each([
  ["pomace", { big: "2.1 kg", small: "pomace" }],
  ["loss", { big: "2.1 kg", small: "lost" }],
  ["mash", { big: "2.1 kg", small: "mash" }],
  ["fruit", { big: "2.1 kg", small: "" }],
])("labels %s by its mass and what it is", (kind, label) => {
  expect(usualLabel([{ ...juice("x", 2000), kind }])).toEqual(label);
});
