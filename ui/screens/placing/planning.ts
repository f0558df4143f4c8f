// Drawing a plan: whatever is to change on a device is shown step by step first.
import { useRouter } from "expo-router";
import { useCallback } from "react";
import { PlanView, type PlanRequest } from "../../../contract/placing.ts";
import { send } from "../../data/api.ts";
import { useAction } from "../../data/useAction.ts";

/** Draws a plan and leads to it. */
export function usePlanning() {
  const router = useRouter();
  return useAction(
    useCallback(
      async (request: PlanRequest) => {
        const plan = await send("POST", "/plans", PlanView, request);
        router.push(`/plan/${plan.id}`);
      },
      [router],
    ),
  );
}
