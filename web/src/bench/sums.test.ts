import { describe, expect, it } from "vitest";
import { asked, chosenIn, figuresIn, SUMS, sumOf } from "@/bench/sums";

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

  it("begins with the first where there is none of that name", () => {
    expect(sumOf("alchemy").key).toBe("sweeten");
  });
});
