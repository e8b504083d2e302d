import { describe, expect, it } from "vitest";
import { part } from "@/bench/pictures/drawn";
import { SUMS, sumOf } from "@/bench/questions";
import { asked, type Question } from "@/bench/sums";

/** Everything that can be chosen at a sum, one choice taken otherwise at a time. */
function waysOf(question: Question): Record<string, string>[] {
  const usual = Object.fromEntries(question.choices({}).map((c) => [c.key, c.usual]));
  const others = question
    .choices(usual)
    .flatMap((c) => (c.options ?? []).map((o) => ({ ...usual, [c.key]: o.value })));
  return [usual, ...others];
}

describe.each(SUMS)("$key, however it is asked", (question) => {
  it("has each figure once, within what it can be dragged over", () => {
    for (const chosen of waysOf(question)) {
      const fields = question.fields(chosen);
      expect(new Set(fields.map((f) => f.key)).size).toBe(fields.length);
      for (const field of fields) {
        expect(field.usual, field.key).toBeGreaterThanOrEqual(field.from);
        expect(field.usual, field.key).toBeLessThanOrEqual(field.to);
      }
    }
  });

  it("moves a figure that it has, and forgets none that it has not", () => {
    for (const chosen of waysOf(question)) {
      const keys = question.fields(chosen).map((f) => f.key);
      const known = waysOf(question).flatMap((w) => question.fields(w).map((f) => f.key));
      if (question.moves && keys.length) expect(known).toContain(question.moves);
      for (const choice of question.choices(chosen))
        for (const gone of choice.forgets ?? []) expect(known).toContain(gone);
    }
  });

  it("has what is usual among what can be chosen", () => {
    for (const chosen of waysOf(question))
      for (const choice of question.choices(chosen))
        if (choice.options) expect(choice.options.map((o) => o.value)).toContain(choice.usual);
  });

  it("asks the server for nothing that is only of the page", () => {
    const onPage = question.choices({}).filter((c) => c.onPage);
    const address = new URLSearchParams(
      onPage.map((c) => [c.key, c.options?.at(-1)?.value ?? c.usual]),
    );
    for (const choice of onPage) expect(asked(question, address)).not.toHaveProperty(choice.key);
  });
});

it("lies on the plank once each, and an unknown one is the first", () => {
  expect(new Set(SUMS.map((s) => s.key)).size).toBe(SUMS.length);
  expect(SUMS.map((s) => sumOf(s.key))).toEqual(SUMS);
  expect(sumOf("horoscope")).toBe(SUMS[0]);
  expect(sumOf(undefined)).toBe(SUMS[0]);
});

describe("a part of a picture", () => {
  it.each([
    [5, 10, 0.5],
    [12, 10, 1],
    [-3, 10, 0],
    [undefined, 10, 0],
    [0.3, undefined, 0.3],
  ])("%s of %s is %s", (value, of, share) => {
    expect(part(value, of)).toBeCloseTo(share, 9);
  });
});
