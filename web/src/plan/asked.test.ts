import { expect, it } from "vitest";
import { endOf, FIRST, fromAddress, request, toAddress, withEnd, withLine } from "@/plan/asked";

it("asks for the lines as they were written, and for nothing that was not said", () => {
  expect(request(FIRST)).toMatchObject({
    inputs: [{ line: "10 kg damsons", brix: null, lot_id: null, key: null }],
    ends: [{ key: "fill", keep: "", jar_kinds: [], closure: "", lid: "" }],
    loads: null,
    steps: [],
    said: [],
  });
});

it("leaves out lines that cannot be read yet", () => {
  const asked = { ...FIRST, lines: withLine(FIRST, { text: "3 moonberries" }) };
  const sent = request(asked, (line) => !line.text.includes("moon"));
  expect(sent.inputs.map((i) => i.line)).toEqual(["10 kg damsons"]);
});

it("takes jars, readings and lots along", () => {
  const lines = withLine(FIRST, { text: "the rest", lot: 12, brix: "15.8" });
  const ends = withEnd({ ...FIRST, lines }, "fill", { jars: "pint quart", keep: "freeze" });
  const sent = request({ ...FIRST, lines, ends, said: ["peel_waxed"] });
  expect(sent.inputs[1]).toMatchObject({ lot_id: 12, brix: 15.8 });
  expect(sent.ends?.[0]).toMatchObject({ keep: "freeze", jar_kinds: ["pint", "quart"] });
  expect(sent.said).toEqual(["peel_waxed"]);
});

it("has the first end first, whatever was asked of the others", () => {
  const ends = withEnd(FIRST, "fill_2", { keep: "chill" });
  expect(request({ ...FIRST, ends }).ends?.map((e) => e.key)).toEqual(["fill", "fill_2"]);
  expect(endOf({ ...FIRST, ends }, "fill_2").keep).toBe("chill");
});

it.each([
  ["jars 12 half_pint", { goal: { by: "jars", count: 12, jar: "half_pint" } }],
  ["litres 3.5", { goal: { by: "litres", count: 3.5, jar: "" } }],
  ["all", { all_there_is: true }],
  ["jars none", {}],
])("works back from %s", (goal, wanted) => {
  const sent = request({ ...FIRST, goal });
  expect({
    ...(sent.goal ? { goal: sent.goal } : {}),
    ...(sent.all_there_is ? { all_there_is: true } : {}),
  }).toEqual(wanted);
});

it("comes back from its address as it was", () => {
  const asked = { ...FIRST, lines: withLine(FIRST, { text: "sugar to 46 Brix" }), goal: "all" };
  expect(fromAddress(new URLSearchParams(toAddress(asked)))).toEqual(asked);
  expect(toAddress(FIRST)).toEqual({});
  expect(fromAddress(new URLSearchParams({ plan: "[{" }))).toEqual(FIRST);
});

it("opens links that name one fruit", () => {
  const one = fromAddress(new URLSearchParams("fruit=sea_buckthorn&kg=4&form=frozen&keep=chill"));
  expect(one.lines[0]?.text).toBe("4 kg sea buckthorn, frozen");
  expect(endOf(one, "fill").keep).toBe("chill");
  expect(fromAddress(new URLSearchParams("lot=7")).lines[0]).toMatchObject({
    lot: 7,
    text: "the rest",
  });
});
