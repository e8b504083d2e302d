import { expect, it } from "vitest";
import { figures } from "@/kitchen/figures";

const FRESH = { kind: "pot", name: "", litres: null, count: 1 };

it("takes of a row what can be changed and nothing else", () => {
  const row = { id: 3, name: "Wide pot", kind: "pot", litres: 9, count: 1, position: 4 };
  expect(figures(row, FRESH)).toEqual({ kind: "pot", name: "Wide pot", litres: 9, count: 1 });
});

it("sends what a row does not know as unknown", () => {
  expect(figures({ id: 3, name: "Jug" }, FRESH)).toEqual({
    kind: null,
    name: "Jug",
    litres: null,
    count: null,
  });
});
