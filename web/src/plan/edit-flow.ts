import { useEditFlow } from "@/api/changes";
import type { FlowEdit, PlanView } from "@/api/types";
import { type Asked, flowOf } from "@/plan/asked";

export type Edit = Omit<FlowEdit, "steps" | "method_key" | "form">;

/** The flow of a plan as it is sent to be changed or asked about. */
export function flowSent(asked: Asked, plan: PlanView): FlowEdit {
  return {
    steps: flowOf(asked),
    method_key: plan.method.key,
    form: asked.form as "whole",
    act: "show",
  };
}

/** One change of the flow; what comes back becomes the flow of the plan. */
export function useFlow(asked: Asked, plan: PlanView, change: (next: Partial<Asked>) => void) {
  const edit = useEditFlow();
  return {
    error: edit.error,
    busy: edit.isPending,
    make: (what: Edit, then?: () => void) =>
      edit.mutate(
        { ...flowSent(asked, plan), ...what },
        {
          onSuccess: (flow) => {
            change({ flow: JSON.stringify(flow.steps), method: plan.method.key });
            then?.();
          },
        },
      ),
  };
}
