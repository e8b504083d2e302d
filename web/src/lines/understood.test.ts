import { afterEach, describe, expect, it } from "vitest";
import type { LineView } from "@/api/types";
import { showIn } from "@/lib/units";
import { understood } from "@/lines/understood";

afterEach(() => showIn("metric"));

const grams = (typ: number) => ({ lo: typ, typ, hi: typ });
const line = (read: Partial<LineView>): LineView => ({
  line: "",
  called: "sugar",
  how: "mass",
  ...read,
});

describe("a line as it was understood", () => {
  it.each<[string, Partial<LineView>]>([
    ["sugar · 840 g", { mass_g: grams(840) }],
    ["damsons", { called: "damsons", form: "whole" }],
    ["lemons, juice · 60 g", { called: "lemons", form: "juice", mass_g: grams(60) }],
    ["apples, purée", { called: "apples", form: "puree" }],
    ["read as quinces · 2.0 kg", { called: "quinces", guessed: true, mass_g: grams(2000) }],
    ["sugar · 80 % of its weight", { how: "share", share: 0.8, per: "g/g" }],
    ["sugar · 500 g to the litre", { how: "share", share: 500, per: "g/l" }],
    ["citric acid · 2 g a jar", { called: "citric acid", how: "share", share: 2, per: "g/jar" }],
    ["sugar · to 46.0 °Bx", { how: "target", target: "brix", value: 46 }],
    ["lemon · to pH 3.40", { called: "lemon", how: "target", target: "ph", value: 3.4 }],
    ["lemon · to 12.0 g/l acid", { called: "lemon", how: "target", target: "acid_g_l", value: 12 }],
    ["water · up to 2.5 l", { called: "water", how: "target", target: "volume_ml", value: 2500 }],
    ["water · to cover", { called: "water", how: "target", target: "cover" }],
    ["syrup · to fill the jars", { called: "syrup", how: "target", target: "fill" }],
    ["sugar · the rest", { how: "target", target: "rest" }],
    ["sugar · as last time", { how: "target", target: "last", value: 0 }],
    ["sugar · stronger than last time", { how: "target", target: "last", value: 1 }],
    ["sugar · milder than last time", { how: "target", target: "last", value: -1 }],
    ["sugar · to taste", { how: "to_taste" }],
    ["honey · off the heat", { called: "honey", where: "off_heat" }],
    [
      "cinnamon · at the simmer · strained out",
      { called: "cinnamon", where: "simmer", leaves: true },
    ],
    [
      "salt · 18 g · kinds differ by the cup: weigh it",
      { called: "salt", mass_g: grams(18), differs: true },
    ],
  ])("%s", (words, read) => {
    expect(understood(line(read))).toBe(words);
  });

  it("is in the kitchen's units", () => {
    showIn("us");
    expect(understood(line({ mass_g: grams(907.2) }))).toBe("sugar · 2.0 lb");
    expect(understood(line({ how: "target", target: "volume_ml", value: 1892.7 }))).toBe(
      "sugar · up to 2.0 qt",
    );
  });
});
