import { describe, expect, it } from "vitest";
import { hasWords, inSentence } from "@/lib/words";

describe("a title inside a sentence", () => {
  it.each([
    ["Steam juice", "steam juice"],
    ["Heat to 85 °C", "heat to 85 °C"],
    ["", ""],
  ])("%s becomes %s", (title, words) => {
    expect(inSentence(title)).toBe(words);
  });
});

describe("finding by words", () => {
  it.each([
    ["", true],
    ["damson", true],
    ["CELLAR damson", true],
    ["dams cell", true],
    ["  damson   cellar ", true],
    ["damson loft", false],
  ])("%j finds it: %s", (words, found) => {
    expect(hasWords(words, "Damson syrup", "the cellar")).toBe(found);
  });
});
