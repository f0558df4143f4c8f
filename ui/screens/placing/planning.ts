// Drawing plans: whatever is to change on a device is shown step by step first.
import { useRouter } from "expo-router";
import { useCallback } from "react";
import { PlanView, type PlanRequest } from "../../../contract/placing.ts";
import { send } from "../../data/api.ts";
import { useAction } from "../../data/useAction.ts";

/** Where a plan is looked at; `then` follow one after the other. */
export const planHref = (id: number, then: readonly number[]) =>
  then.length === 0 ? (`/plan/${id}` as const) : (`/plan/${id}?then=${then.join(",")}` as const);

/** Draws a plan, or one for each of several devices, and leads to the first. */
export function usePlanning() {
  const router = useRouter();
  return useAction(
    useCallback(
      async (request: PlanRequest | readonly PlanRequest[]) => {
        const ids: number[] = [];
        for (const one of [request].flat()) ids.push((await send("POST", "/plans", PlanView, one)).id);
        const [first, ...then] = ids;
        if (first !== undefined) router.push(planHref(first, then));
      },
      [router],
    ),
  );
}
