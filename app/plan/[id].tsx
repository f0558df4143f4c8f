import { useListParam, useNumberParam } from "../../ui/parts/params.ts";
import { PlanScreen } from "../../ui/screens/placing/PlanScreen.tsx";

export default function Plan() {
  const id = useNumberParam("id") ?? 0;
  const then = (useListParam("then") ?? "").split(",").filter(Boolean).map(Number);
  return <PlanScreen key={id} id={id} then={then} />;
}
