import { afterEach, expect, it } from "vitest";
import { showIn } from "@/lib/format";
import { FIRST, flowOf, request } from "@/plan/asked";

afterEach(() => showIn("metric"));

it("asks for what was typed and leaves out what was not", () => {
  expect(request(FIRST)).toMatchObject({
    fruit_key: "damson",
    fruit_kg: 10,
    brix: null,
    loads: null,
    steps: [],
    said: [],
    lot_id: null,
    jar_kinds: [],
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
  expect(sent.jar_kinds).toEqual(["pint", "quart"]);
  expect([sent.lot_id, sent.brix]).toEqual([12, 15.8]);
});

it("sends a figure that is none as it is, to be refused at its field", () => {
  expect(request({ ...FIRST, kg: "plenty" }).fruit_kg).toBeNaN();
});

it("weighs in pounds where the kitchen does", () => {
  showIn("us");
  expect(request(FIRST).fruit_kg).toBeCloseTo(4.536, 3);
});

it("reads an edited flow from the address, and nothing from a broken one", () => {
  const steps = [{ kind: "mash", takes: ["fruit"], gives: ["mash"], params: {} }];
  expect(flowOf({ ...FIRST, flow: JSON.stringify(steps) })).toEqual(steps);
  expect(flowOf({ ...FIRST, flow: "[{" })).toEqual([]);
});
