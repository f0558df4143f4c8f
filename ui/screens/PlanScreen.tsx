// A plan: every step with its reason, shown before anything happens; carried out after, and taken back at will.
import { useRouter } from "expo-router";
import { Check, Undo2 } from "../parts/icons.ts";
import { useCallback } from "react";
import { View } from "react-native";
import { useSWRConfig } from "swr";
import { PlanView, type PlanStep } from "../../contract/plan.ts";
import { count, sizeWords } from "../../core/words/words.ts";
import { send } from "../data/api.ts";
import { usePlan } from "../data/hooks.ts";
import { useAction } from "../data/useAction.ts";
import { Button } from "../parts/Button.tsx";
import { Drawer, DrawerRow } from "../parts/Drawer.tsx";
import { Screen } from "../parts/Screen.tsx";
import { ApiProblemNote, ClearanceWarnings, Loaded } from "../parts/Status.tsx";
import { Body, Small, Strong } from "../parts/Text.tsx";

const OP_WORDS: Record<PlanStep["op"], string> = {
  copy: "Copy",
  keep: "Already so",
  leave: "Leave out",
  remove: "Take off",
  "switch-on": "Switch on",
  "switch-off": "Switch off",
};
const OP_DONE: Record<PlanStep["op"], string> = {
  copy: "Copied",
  keep: "Already so",
  leave: "Left out",
  remove: "Taken off",
  "switch-on": "Switched on",
  "switch-off": "Switched off",
};

/** What each kind of plan is called before it is done, after, and on its button. */
const ACTION_WORDS: Record<PlanView["action"], (names: string, device: string) => { todo: string; done: string; button: string }> = {
  place: (names, device) => ({ todo: `Place ${names} on ${device}`, done: `Placed on ${device}`, button: "Place" }),
  remove: (names, device) => ({ todo: `Take ${names} off ${device}`, done: `Taken off ${device}`, button: "Take off" }),
  "switch-on": (names, device) => ({ todo: `Switch ${names} on on ${device}`, done: `Switched on on ${device}`, button: "Switch on" }),
  "switch-off": (names, device) => ({ todo: `Switch ${names} off on ${device}`, done: `Switched off on ${device}`, button: "Switch off" }),
};
const wordsOf = (plan: PlanView) => ACTION_WORDS[plan.action](plan.families.map((family) => family.name).join(", "), plan.deviceName);

function title(plan: PlanView): string {
  if (plan.state === "undone") return "Taken back";
  return plan.state === "done" ? wordsOf(plan).done : wordsOf(plan).todo;
}

function counts(plan: PlanView): string {
  if (plan.state === "drawn") return `${count(plan.fontsBefore, "placed font")} now, ${plan.fontsAfter} after.`;
  return `${count(plan.fontsBefore, "placed font")} before, now ${plan.fontsAfter}.`;
}

function Steps({ plan }: { plan: PlanView }) {
  return (
    <Drawer label="Files" note={counts(plan)}>
      {plan.steps.length === 0 ? (
        <DrawerRow first>
          <Body>Nothing of this family is on {plan.deviceName}.</Body>
        </DrawerRow>
      ) : (
        plan.steps.map((step, i) => (
          <DrawerRow key={step.styleId + step.account} first={i === 0} testID="plan-step">
            <View className="flex-row items-baseline justify-between gap-3">
              <Strong lines={1} className="min-w-0 flex-1">
                {step.styleName}
              </Strong>
              <Small className={step.state === "failed" ? "text-warning" : step.state === "done" ? "text-verdigris" : "text-ink"}>
                {step.state === "failed" ? "Failed" : step.state === "done" ? OP_DONE[step.op] : OP_WORDS[step.op]}
              </Small>
            </View>
            <Small>
              {step.fileName}, {sizeWords(step.bytes)}. {step.problem ? `${step.problem.message} ${step.problem.next}` : step.reason}
            </Small>
          </DrawerRow>
        ))
      )}
    </Drawer>
  );
}

export function PlanScreen({ id }: { id: number }) {
  const answer = usePlan(id);
  const router = useRouter();
  const { mutate } = useSWRConfig();
  const carryOut = useAction(
    useCallback(
      async (what: "do" | "undo") => {
        const plan = await send("POST", `/plans/${id}/${what}`, PlanView);
        await mutate(`/plans/${id}`, plan, { revalidate: false });
      },
      [id, mutate],
    ),
  );
  const plan = answer.data;
  const changes = plan?.steps.filter((step) => step.op !== "keep" && step.op !== "leave").length ?? 0;
  const doWords = plan ? `${wordsOf(plan).button} ${count(changes, "file")}` : "";
  const familyId = plan?.families[0]?.id;
  const action = !plan ? undefined : plan.state === "drawn" || plan.state === "failed" ? (
    <Button
      strong
      icon={Check}
      label={plan.state === "failed" ? "Carry out the rest" : doWords}
      busy={carryOut.busy}
      disabled={changes === 0}
      onPress={() => carryOut.run("do")}
      testID="do-plan"
    />
  ) : (
    <>
      {plan.state === "done" ? (
        <Button strong label="See it in the practice room" onPress={() => router.push(`/device/${plan.deviceId}`)} testID="to-device" />
      ) : null}
      {plan.state === "done" && changes > 0 ? (
        <Button icon={Undo2} label="Undo" busy={carryOut.busy} onPress={() => carryOut.run("undo")} testID="undo-plan" />
      ) : null}
      {plan.state === "undone" && familyId !== undefined ? (
        <Button strong label="Back to the family" onPress={() => router.push(`/family/${familyId}`)} />
      ) : null}
    </>
  );
  return (
    <Screen
      title={plan ? title(plan) : "Plan"}
      note={plan?.state === "drawn" ? "Nothing has happened yet." : plan ? counts(plan) : undefined}
      back="/devices"
      action={action}
      testID="plan"
    >
      {carryOut.problem ? <ApiProblemNote problem={carryOut.problem} /> : null}
      <Loaded answer={answer} what="Drawing the plan">
        {(value) => (
          <>
            <ClearanceWarnings warnings={value.warnings} />
            {value.action === "place" ? <Small className="mb-2">Goes into: {value.folder}</Small> : null}
            <Steps plan={value} />
            <Drawer label={value.state === "drawn" ? "What programs will need" : "What programs need now"}>
              {value.programs.map((program, i) => (
                <DrawerRow key={program.programId} first={i === 0}>
                  <Strong>{program.name}</Strong>
                  <Small>{program.need}</Small>
                </DrawerRow>
              ))}
            </Drawer>
          </>
        )}
      </Loaded>
    </Screen>
  );
}
