import { beforeAll, expect, it, vi } from "vitest";
import type { PlanView } from "@/api/types";
import { FIRST } from "@/plan/asked";

let flowSent: typeof import("@/plan/edit-flow").flowSent;

beforeAll(async () => {
  vi.stubGlobal("window", { location: { origin: "http://here.test" } });
  ({ flowSent } = await import("@/plan/edit-flow"));
});

const plan = (form: string) =>
  ({ method: { key: "steam_juiced" }, inputs: form ? [{ form }] : [] }) as unknown as PlanView;

it("asks for the flow of a plan as it stands, of what goes in first", () => {
  const flow = [{ kind: "steam_juice", takes: ["fruit"] }] as typeof FIRST.flow;
  expect(flowSent({ ...FIRST, flow }, plan("frozen"))).toEqual({
    steps: flow,
    method_key: "steam_juiced",
    form: "frozen",
    act: "show",
  });
});

it("takes what nobody has said of its form for whole", () => {
  expect(flowSent(FIRST, plan("")).form).toBe("whole");
  expect(flowSent(FIRST, plan("")).steps).toEqual(FIRST.flow);
});
