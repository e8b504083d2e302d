import { beforeEach, expect, it, vi } from "vitest";
import type { HobSlot } from "@/api/types";
import { ringing, silence } from "@/frame/ringing";

const NOON = new Date("2026-10-03T12:00:00Z").getTime();
const slot = (more: Partial<HobSlot> = {}): HobSlot =>
  ({ step_id: 7, kind: "steam_juice", due_at: "2026-10-03T12:00:00Z", ...more }) as HobSlot;

beforeEach(() => {
  const kept = new Map<string, string>();
  vi.stubGlobal("localStorage", {
    getItem: (key: string) => kept.get(key) ?? null,
    setItem: (key: string, value: string) => kept.set(key, value),
  });
});

it("rings from its minute on, until somebody looks", () => {
  expect(ringing(slot(), NOON - 1)).toBe(false);
  expect(ringing(slot(), NOON)).toBe(true);
  silence(slot());
  expect(ringing(slot(), NOON + 60_000)).toBe(false);
});

it("rings again once more time was given and has run out", () => {
  silence(slot());
  expect(ringing(slot({ due_at: "2026-10-03T12:10:00Z" }), NOON + 600_000)).toBe(true);
});

it("stays silent for what cools by itself and for what has no clock", () => {
  expect(ringing(slot({ role: "cool" }), NOON)).toBe(false);
  expect(ringing(slot({ due_at: null }), NOON)).toBe(false);
});

it("does not mind a store that holds something else", () => {
  localStorage.setItem("heard", "{not json");
  expect(ringing(slot(), NOON)).toBe(true);
});

it("remembers only the last few", () => {
  for (let step = 0; step < 60; step++) silence(slot({ step_id: step }));
  expect(JSON.parse(localStorage.getItem("heard") ?? "[]").length).toBeLessThanOrEqual(41);
});
