import { expect, it } from "vitest";
import type { JarView } from "@/api/types";
import { stacks } from "@/shelf/stack";

const jar = (id: number, more: Partial<JarView> = {}): JarView =>
  ({
    id,
    code: `DA-26-01-0${id}`,
    label: "Damson juice",
    place: "Cellar shelf",
    batch_id: 1,
    kind: "pint",
    kind_name: "pint",
    part_filled: false,
    seal: "sealed",
    best_by: { lo: "2027-03-01", typ: "2027-10-01", hi: "2028-03-01" },
    ...more,
  }) as JarView;

it("stacks jars that are alike, in the order they came", () => {
  const found = stacks([jar(1), jar(2), jar(3, { kind: "quart" }), jar(4)]);
  expect(found.map((s) => s.jars.map((j) => j.id))).toEqual([[1, 2, 4], [3]]);
});

it.each([
  ["another batch", { batch_id: 2 }],
  ["a part-filled one", { part_filled: true }],
  ["a seal that failed", { seal: "failed" }],
  ["another best-by", { best_by: { lo: "2027-03-01", typ: "2027-05-01", hi: "2028-03-01" } }],
] as [string, Partial<JarView>][])("keeps %s apart", (_, more) => {
  expect(stacks([jar(1), jar(2, more)])).toHaveLength(2);
});
