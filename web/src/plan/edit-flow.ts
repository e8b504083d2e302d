import { useEditFlow } from "@/api/changes";
import type { FlowEdit, PlanView } from "@/api/types";
import type { Asked } from "@/plan/asked";

export type Edit = Omit<FlowEdit, "steps" | "method_key" | "form">;

/** The flow of a plan as it is sent to be changed or asked about. */
export function flowSent(asked: Asked, plan: PlanView): FlowEdit {
  return {
    steps: asked.flow,
    method_key: plan.method.key,
    form: (plan.inputs[0]?.form || "whole") as "whole",
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
            change({ flow: flow.steps as Asked["flow"], method: plan.method.key });
            then?.();
          },
        },
      ),
  };
}
