import { expect, it } from "vitest";
import type { Group } from "@/flow/layout";
import { crowdedOut, heightsOfSides, oneLine, rest, rowsOfSides } from "@/flow/side-labels";

const side = (key: string, along: number): Group => ({
  key,
  kind: "added",
  column: 0,
  lane: 0,
  slim: false,
  mass: 1,
  along,
  length: 10,
  across: 0,
  thickness: 2,
  strands: [],
});

const label = (g: Group) => ({ big: g.key, small: "40 g" });

it("keeps words in one row where they do not meet", () => {
  const rows = rowsOfSides([side("steam", 0), side("honey", 300)], label);
  expect([...rows.values()]).toEqual([0, 0]);
});

it("never lets two words of a row run into each other", () => {
  const sides = [0, 12, 60, 70, 130, 135, 140, 300].map((at, n) => side(`spice ${n}`, at));
  const rows = rowsOfSides(sides, label);
  for (const a of sides)
    for (const b of sides)
      if (a.along < b.along && rows.get(a.key) === rows.get(b.key))
        expect(a.along + oneLine(label(a))).toBeLessThanOrEqual(b.along);
  expect(rows.size).toBe(sides.length);
});

it("speaks of nothing but what joins from the side", () => {
  const juice = { ...side("juice", 0), kind: "juice" };
  expect(rowsOfSides([juice], label).size).toBe(0);
});

it("leaves out the words of a narrow piece that has another close beside it", () => {
  const piece = (key: string, across: number, thickness: number): Group => ({
    ...side(key, 0),
    kind: "fruit",
    length: 70,
    across,
    thickness,
  });
  const pear = piece("pear", 200, 20);
  const berry = piece("raspberry", 250, 6);
  const main = piece("damson", 60, 100);
  expect([...crowdedOut([main, pear, berry], label)]).toEqual(["pear"]);
  expect(crowdedOut([main, pear, { ...berry, along: 90 }], label).size).toBe(0);
});

it("says how it is known on a line of its own, and counts its room", () => {
  const known = (g: Group) => ({ big: g.key, small: "13.2 °Bx", known: "partly read" });
  expect(rest(known(side("juice", 0)))).toEqual(["13.2 °Bx", "partly read"]);
  expect(rest({ big: "14 kg", small: "", known: "measured" })).toEqual(["measured"]);
  const narrow = { ...side("juice", 0), kind: "juice", across: 60, thickness: 20 };
  const beside = { ...side("pomace", 0), kind: "pomace", across: 165, thickness: 90 };
  expect([...crowdedOut([narrow, beside], known)]).toEqual(["juice"]);
  expect(crowdedOut([narrow, beside], label).size).toBe(0);
});

it("sets the words of a standing ribbon over their own pieces", () => {
  const heights = heightsOfSides([side("water", 0), side("honey", 90)], label, true);
  expect([...heights]).toEqual([
    ["water", -6],
    ["honey", 84],
  ]);
});

it("is as long as what is said of it, and no longer", () => {
  const known = { big: "1.2 l", small: "7.0 °Bx", known: "measured" };
  expect(oneLine(known)).toBe(oneLine(known, ["7.0 °Bx", "measured"]));
  expect(oneLine(known, ["7.0 °Bx"])).toBeLessThan(oneLine(known));
  expect(oneLine(known, ["7.0 °Bx"])).toBe(oneLine({ big: "1.2 l", small: "7.0 °Bx" }));
});
