import { describe, expect, it } from "vitest";
import { SUMS, sumOf } from "@/bench/questions";
import { asked, chosenIn, figuresIn, openedFrom } from "@/bench/sums";

const at = (address: string) => new URLSearchParams(address);

describe("a sum in the address", () => {
  it.each(SUMS)("$key is whole without a word in it", (question) => {
    const figures = figuresIn(question, at(""));
    for (const field of question.fields(chosenIn(question, at("")))) {
      expect(figures[field.key]).toBe(field.usual);
      expect(field.from).toBeLessThan(field.to);
      expect(field.usual).toBeGreaterThanOrEqual(field.from);
      expect(field.usual).toBeLessThanOrEqual(field.to);
    }
  });

  it("has the figures that were typed, in base units", () => {
    const found = asked(sumOf("sweeten"), at("volume_ml=1500&brix=10.5&target=60&material=honey"));
    expect(found).toEqual({ volume_ml: 1500, brix: 10.5, target: 60, material: "honey" });
  });

  it("takes what is usual in the place of what is no figure", () => {
    expect(asked(sumOf("blend"), at("first=a+lot&target=")).first).toBe(60);
  });

  it("asks for what the stop is a stop at", () => {
    const labels = (stop: string) =>
      sumOf("boil-down")
        .fields({ stop })
        .map((f) => f.quantity);
    expect(labels("depth").at(-1)).toBe("depth_cm");
    expect(labels("temp").at(-1)).toBe("temp_c");
  });

  it("says nothing of a drop that was not tried", () => {
    expect(asked(sumOf("cold-plate"), at(""))).not.toHaveProperty("drop");
    expect(asked(sumOf("cold-plate"), at("drop=coats+a+spoon")).drop).toBe("coats a spoon");
  });

  it("asks either for the Brix or for the boil", () => {
    expect(asked(sumOf("thermometer"), at(""))).toEqual({ brix: 65 });
    expect(asked(sumOf("thermometer"), at("by=reads&reads_c=104"))).toEqual({ reads_c: 104 });
  });

  it("asks for a pH only where one was read", () => {
    expect(asked(sumOf("sharpen"), at(""))).not.toHaveProperty("ph");
    expect(asked(sumOf("sharpen"), at("known=read&ph=3.9")).ph).toBe(3.9);
    expect(asked(sumOf("sharpen"), at("known=read"))).not.toHaveProperty("known");
  });

  it("sends a household's own way of stretching only where it is said", () => {
    expect(asked(sumOf("citrus"), at(""))).not.toHaveProperty("own_peel");
    const own = asked(sumOf("citrus"), at("ours=own&own_peel=60&school=own"));
    expect(own).toMatchObject({ own_peel: 60, own_acid: 45, school: "own" });
    expect(own).not.toHaveProperty("ours");
  });

  it("asks for a line as it was written", () => {
    expect(asked(sumOf("measures"), at("text=3+cups+honey"))).toEqual({ text: "3 cups honey" });
  });

  it("knows the step that it was opened from", () => {
    expect(openedFrom(at("batch=3&step=41&brix=20"))).toEqual({ batch: "3", step: "41" });
    expect(openedFrom(at("brix=20"))).toBeNull();
  });

  it("begins with the first where there is none of that name", () => {
    expect(sumOf("alchemy").key).toBe("sweeten");
  });
});
