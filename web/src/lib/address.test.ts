import { expect, test } from "vitest";
import { changed } from "@/lib/address";

const before = new URLSearchParams({ brix: "10", find: "damson" });

test("what is not named stays as it is", () => {
  expect(changed(before, { target: "60" }).toString()).toBe("brix=10&find=damson&target=60");
});

test("nothing takes it out of the address", () => {
  expect(changed(before, { find: "", brix: null }).toString()).toBe("");
  expect(before.get("find")).toBe("damson");
});
