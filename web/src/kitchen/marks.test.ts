import { afterEach, expect, it } from "vitest";
import { asMarks, marksText } from "@/kitchen/marks";
import { showIn } from "@/lib/units";

afterEach(() => showIn("metric"));

it.each(["metric", "us", "imperial"])("in %s marks are read as they are shown", (system) => {
  showIn(system);
  const marks = [250, 500.5, 1000];
  const again = asMarks(marksText(marks));
  expect(again).toHaveLength(3);
  for (const [n, ml] of marks.entries()) expect((again as number[])[n]).toBeCloseTo(ml, -1);
});

it("takes commas, spaces and semicolons, and leaves out what is empty", () => {
  expect(asMarks("250 500; 750,")).toEqual([250, 500, 750]);
  expect(asMarks("")).toBeNull();
  expect(asMarks(null)).toBeNull();
  expect(marksText(null)).toBe("");
});

it("sends what is no list of figures as it was typed, to be refused at its field", () => {
  expect(asMarks("half way")).toBe("half way");
});
