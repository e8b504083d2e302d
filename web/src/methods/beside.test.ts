import { expect, it } from "vitest";
import { beside } from "@/methods/beside";

type Step = [name: string, words: string];
const rows = (one: Step[], other: Step[]) =>
  beside(
    one,
    other,
    ([name]) => name,
    ([, words]) => words,
  ).map((r) => [r.one?.[0] ?? "", r.other?.[0] ?? "", r.same]);

it("puts what is called alike in one row, in order", () => {
  const one: Step[] = [
    ["sort", "a"],
    ["steam", "b"],
    ["fill", "c"],
  ];
  const other: Step[] = [
    ["sort", "a"],
    ["mash", "x"],
    ["press", "y"],
    ["fill", "d"],
  ];
  expect(rows(one, other)).toEqual([
    ["sort", "sort", true],
    ["steam", "", false],
    ["", "mash", false],
    ["", "press", false],
    ["fill", "fill", false],
  ]);
});

it("leaves nothing out, whatever the two are", () => {
  const names = ["a", "b", "c", "a", "b"];
  for (let cut = 0; cut <= names.length; cut++) {
    const one = names.slice(cut).map((n): Step => [n, n]);
    const other = names.slice(0, cut).map((n): Step => [n, n]);
    const made = rows(one, other);
    expect(made.map((r) => r[0]).filter(Boolean)).toEqual(one.map(([n]) => n));
    expect(made.map((r) => r[1]).filter(Boolean)).toEqual(other.map(([n]) => n));
  }
  expect(rows([], [])).toEqual([]);
});
