import { describe, expect, it } from "vitest";
import {
  type Group,
  groupOf,
  type LotIn,
  layOut,
  type OperationIn,
  type Room,
} from "@/flow/layout";

const WIDE: Room = { along: 660, across: 250, box: 104, slim: 16, step: 30, gap: 38, margin: 62 };
const TALL: Room = { along: 0, across: 330, box: 74, slim: 16, step: 40, gap: 26, margin: 60 };

const lot = (key: string, kind: string, mass: number): LotIn => ({ key, kind, mass });
const op = (takes: string[], gives: string[]): OperationIn => ({ takes, gives });

/** Two steam loads into jars. */
const STEAMED = {
  lots: [
    lot("fruit", "fruit", 10_000),
    ...[1, 2].flatMap((n) => [
      lot(`steam-${n}`, "steam", 800),
      lot(`juice-${n}`, "juice", 2600),
      lot(`pomace-${n}`, "pomace", 3200),
    ]),
    lot("hot", "juice", 5200),
    lot("jars", "jars", 5200),
  ],
  operations: [
    ...[1, 2].map((n) => op(["fruit", `steam-${n}`], [`juice-${n}`, `pomace-${n}`])),
    op(["juice-1", "juice-2"], ["hot"]),
    op(["hot"], ["jars"]),
    op(["jars"], []),
  ],
};

/** Drained, pressed again, poured together, strained: nine columns with a branch and losses. */
const TWICE = {
  lots: [
    lot("fruit", "fruit", 6000),
    lot("sorted", "fruit", 5760),
    lot("sortings", "loss", 240),
    lot("mash", "mash", 5760),
    lot("juice", "juice", 2800),
    lot("pomace", "pomace", 2960),
    lot("water_press_again", "water", 1900),
    lot("second", "juice", 1940),
    lot("spent", "pomace", 2920),
    lot("blend", "juice", 4740),
    lot("clear", "juice", 4690),
    lot("lees", "loss", 50),
    lot("hot", "juice", 4690),
    lot("jars", "jars", 4690),
  ],
  operations: [
    op(["fruit"], ["sorted", "sortings"]),
    op(["sorted"], ["mash"]),
    op(["mash"], ["juice", "pomace"]),
    op(["pomace", "water_press_again"], ["second", "spent"]),
    op(["juice", "second"], ["blend"]),
    op(["blend"], ["clear", "lees"]),
    op(["clear"], ["hot"]),
    op(["hot"], ["jars"]),
  ],
};

const FLOWS = { STEAMED, TWICE };
const ROOMS = { WIDE, TALL };

const named = (groups: Group[], key: string): Group => {
  const found = groups.find((g) => g.key === key);
  if (!found) throw new Error(`no ${key}`);
  return found;
};

const overlap = (a: Group, b: Group): boolean =>
  a.along < b.along + b.length - 0.01 &&
  b.along < a.along + a.length - 0.01 &&
  a.across < b.across + b.thickness - 0.01 &&
  b.across < a.across + a.thickness - 0.01;

describe.each(Object.entries(FLOWS))("%s", (_, flow) => {
  describe.each(Object.entries(ROOMS))("in a %s room", (name, room) => {
    const layout = layOut(flow.lots, flow.operations, room);

    it("keeps every piece in the room", () => {
      for (const g of layout.groups) {
        expect(g.along).toBeGreaterThanOrEqual(0);
        expect(g.along + g.length).toBeLessThanOrEqual(layout.along + 0.01);
        expect(g.across).toBeGreaterThanOrEqual(0);
        expect(g.across + g.thickness).toBeLessThanOrEqual(layout.across + 0.01);
      }
    });

    it("lays no piece over another", () => {
      layout.groups.forEach((a, i) => {
        for (const b of layout.groups.slice(i + 1))
          expect(overlap(a, b), `${a.key} over ${b.key}`).toBe(false);
      });
    });

    it("makes thickness the mass, one scale for all that is in line", () => {
      const inLine = layout.groups.filter((g) => g.lane > 0 && g.thickness > 1.5);
      const scales = inLine.map((g) => g.thickness / g.mass);
      for (const scale of scales) expect(scale).toBeCloseTo(scales[0] ?? 0, 6);
    });

    it("lets everything flow onwards", () => {
      for (const band of layout.bands) expect(band.source.column).toBeLessThan(band.target.column);
    });

    it("leaves no piece without a band but what stands alone", () => {
      const met = new Set(layout.bands.flatMap((b) => [b.source.key, b.target.key]));
      expect(layout.groups.map((g) => g.key).filter((k) => !met.has(k))).toEqual([]);
    });

    it(`fits a ${name} room`, () => {
      if (room.along) expect(layout.along).toBe(room.along);
      else expect(layout.along).toBeGreaterThan(400);
    });
  });
});

it("names a group by all loads and draws of it", () => {
  expect(["juice-2-late", "juice-10", "hot"].map(groupOf)).toEqual(["juice", "juice", "hot"]);
});

it("gathers loads into strands that fill their group", () => {
  const { groups } = layOut(STEAMED.lots, STEAMED.operations, WIDE);
  const juice = named(groups, "juice");
  expect(juice.strands.map((s) => s.key)).toEqual(["juice-1", "juice-2"]);
  expect(juice.strands.at(-1)?.to).toBeCloseTo(juice.thickness, 6);
});

it("keeps wide boxes while there is room, and slims what only passes through", () => {
  const few = layOut(STEAMED.lots, STEAMED.operations, WIDE).groups;
  expect(few.filter((g) => g.slim)).toEqual([]);
  const many = layOut(TWICE.lots, TWICE.operations, WIDE).groups;
  expect(many.filter((g) => g.slim).map((g) => g.key)).toEqual(
    expect.arrayContaining(["sorted", "mash", "blend", "clear", "sortings", "lees"]),
  );
  for (const key of ["fruit", "juice", "second", "jars"]) expect(named(many, key).slim).toBe(false);
});

it("runs a second pressing under the line it will join", () => {
  const { groups } = layOut(TWICE.lots, TWICE.operations, WIDE);
  expect(named(groups, "second").across).toBeGreaterThan(named(groups, "juice").across);
  expect(named(groups, "spent").across).toBeGreaterThan(named(groups, "second").across);
  expect(named(groups, "water_press_again").across).toBeLessThan(WIDE.margin);
  expect(named(groups, "water_press_again").column).toBe(named(groups, "second").column - 1);
});
