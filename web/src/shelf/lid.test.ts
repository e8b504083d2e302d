import { describe, expect, it } from "vitest";
import type { JarView } from "@/api/types";
import { levelOf, lidOf, shortName } from "@/shelf/lid";

const jar = (more: Partial<JarView>) =>
  ({ lid: "", seal: "sealed", fill_ml: 473, nominal_ml: 473, left_ml: null, ...more }) as JarView;

describe("a jar as it is drawn", () => {
  it("has the lid that was chosen, else a bright one where it sealed", () => {
    expect(lidOf(jar({ lid: "#334455" }))).toBe("#334455");
    expect(lidOf(jar({}))).toBe("var(--brass)");
    expect(lidOf(jar({ seal: "failed" }))).toBe("var(--tag)");
  });

  it("is as full as it was filled, or as what is left in it", () => {
    expect(levelOf(jar({}))).toBeCloseTo(0.92);
    expect(levelOf(jar({ fill_ml: 236.5 }))).toBeCloseTo(0.46);
    expect(levelOf(jar({ left_ml: 0 }))).toBe(0);
    expect(levelOf(jar({ left_ml: 120 }))).toBeLessThan(levelOf(jar({ left_ml: 240 })));
  });

  it.each([
    ["Damson juice", "damson"],
    ["Quince jelly", "quince jelly"],
    ["Juice of rhubarb", "juice of rhubarb"],
  ])("%s is called %s in a row of many", (label, name) => {
    expect(shortName(label)).toBe(name);
  });
});
