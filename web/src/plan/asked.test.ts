import { afterEach, expect, it } from "vitest";
import { showIn } from "@/lib/format";
import { FIRST, flowOf, request } from "@/plan/asked";

afterEach(() => showIn("metric"));

it("asks for what was typed and leaves out what was not", () => {
  expect(request(FIRST)).toMatchObject({
    inputs: [{ material: "damson", grams: 10000, brix: null, lot_id: null }],
    ends: [{ keep: "shelf", jar_kinds: [] }],
    loads: null,
    steps: [],
    said: [],
  });
});

it("takes words apart and figures as they are", () => {
  const sent = request({
    ...FIRST,
    said: "peel_waxed lid_used_before",
    jars: "pint quart",
    lot: "12",
    brix: "15.8",
  });
  expect(sent.said).toEqual(["peel_waxed", "lid_used_before"]);
  expect(sent.ends?.[0]?.jar_kinds).toEqual(["pint", "quart"]);
  expect(sent.inputs[0]).toMatchObject({ lot_id: 12, brix: 15.8 });
  expect(request({ ...FIRST, acid: "9" }).inputs[1]).toEqual({
    material: "citric_acid",
    grams: 9,
  });
});

it("sends a figure that is none as it is, to be refused at its field", () => {
  expect(request({ ...FIRST, kg: "plenty" }).inputs[0]?.grams).toBeNaN();
});

it("weighs in pounds where the kitchen does", () => {
  showIn("us");
  expect(request(FIRST).inputs[0]?.grams).toBeCloseTo(4535.9, 0);
});

it("reads an edited flow from the address, and nothing from a broken one", () => {
  const steps = [{ kind: "mash", takes: ["fruit"], gives: ["mash"], params: {} }];
  expect(flowOf({ ...FIRST, flow: JSON.stringify(steps) })).toEqual(steps);
  expect(flowOf({ ...FIRST, flow: "[{" })).toEqual([]);
});
