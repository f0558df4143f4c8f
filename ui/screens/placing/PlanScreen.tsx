// A plan: every step with its reason, shown before anything happens; carried out after, and taken back at will.
import { Link, useRouter, type Href } from "expo-router";
import { useCallback, useState } from "react";
import { View } from "react-native";
import { useSWRConfig } from "swr";
import { PlanView, type PlanItem, type PlanStep } from "../../../contract/placing.ts";
import { count, sizeWords } from "../../../core/words/words.ts";
import { send, type ApiProblem } from "../../data/api.ts";
import { endChoosing } from "../../data/choosing.ts";
import { usePlan } from "../../data/hooks.ts";
import {
  changesOf,
  choiceWords,
  OP_DONE,
  OP_WORDS,
  planCounts,
  planLines,
  planTitle,
  planWords,
  SITUATION_WORDS,
  stepsOf,
} from "../../data/plans.ts";
import { usePlanProgress } from "../../data/progress.ts";
import { useAction } from "../../data/useAction.ts";
import { Button } from "../../parts/Button.tsx";
import { Choice } from "../../parts/Choice.tsx";
import { Drawer, DrawerRow, DrawerTab } from "../../parts/Drawer.tsx";
import { Field } from "../../parts/Field.tsx";
import { Check, Eye, Undo2 } from "../../parts/icons.ts";
import { LinkRow } from "../../parts/LinkRow.tsx";
import { ListScreen } from "../../parts/Screen.tsx";
import { ApiProblemNote, ClearanceWarnings, Loaded, ProgressBar } from "../../parts/Status.tsx";
import { Body, Small, Strong } from "../../parts/Text.tsx";
import { planHref } from "./planning.ts";
import { SAY } from "../../sentences/placing/plan.ts";

const STATE_WORDS = (step: PlanStep): string =>
  step.state === "failed"
    ? SAY.failed
    : step.state === "done"
      ? OP_DONE[step.op]
      : step.state === "handed"
        ? SAY.handedOver
        : OP_WORDS[step.op];

/** Where a style that was placed is looked at: the first program that lists it. */
const checkedIn = (plan: PlanView) => (plan.state === "done" ? plan.programs.find((program) => program.next !== null) : undefined);

/** `byFile`: its style's name is that of others as well; what its file is called tells it. */
function Step({ step, href, byFile }: { step: PlanStep; href: Href | undefined; byFile: boolean }) {
  const colour = step.state === "failed" ? "text-warning" : step.state === "done" ? "text-verdigris" : "text-ink";
  const body = (
    <View className="w-full">
      <View className="flex-row items-baseline justify-between gap-3">
        <Strong lines={1} className={`min-w-0 flex-1 ${href ? "underline" : ""}`}>
          {byFile && step.original ? step.original : step.styleName}
        </Strong>
        <Small className={colour}>{STATE_WORDS(step)}</Small>
      </View>
      <Small>
        {step.original && step.original !== step.fileName && !byFile ? SAY.originalAsFileName(step.original, step.fileName) : step.fileName}
        , {sizeWords(step.bytes)}. {step.problem ? `${step.problem.message} ${step.problem.next}` : step.reason}
      </Small>
    </View>
  );
  return (
    <View className="mt-1 min-h-[44px] justify-center" testID="plan-step">
      {href ? (
        <Link href={href} className="w-full" testID="plan-step-link">
          {body}
        </Link>
      ) : (
        body
      )}
    </View>
  );
}

function Item({
  plan,
  item,
  onChoose,
}: {
  plan: PlanView;
  item: PlanItem;
  onChoose: (item: PlanItem, choice: string, all: boolean) => void;
}) {
  const situation = SITUATION_WORDS[item.situation];
  const open = plan.state === "drawn" && item.choices.length > 1;
  const looked = checkedIn(plan);
  const alike = plan.items.filter(
    (one) => one.situation === item.situation && one.chosen !== item.chosen && one.choices.includes(item.chosen),
  );
  return (
    <View className="border border-t-0 border-edge bg-drawer px-3 py-2" testID="plan-item">
      {situation ? <Small className={open ? "text-warning" : ""}>{situation}</Small> : null}
      {item.steps.map((step) => (
        <Step
          key={`${step.op}${step.slot}${step.fileName}`}
          step={step}
          byFile={item.situation === "names-clash"}
          href={looked && step.styleId !== null ? `/cell/${step.styleId}/${looked.programId}` : undefined}
        />
      ))}
      {open ? (
        <View className="my-2 gap-2">
          <Choice
            label={SAY.whatToDoWith(item.steps[0]?.styleName)}
            words={choiceWords(item)}
            value={item.chosen}
            onChange={(choice) => choice && onChoose(item, choice, false)}
            testID="plan-choice"
          />
          {alike.length > 0 && item.chosen !== item.choices[0] ? (
            <Button label={SAY.theSameForAlikeAlike(alike.length)} onPress={() => onChoose(item, item.chosen, true)} testID="choose-all" />
          ) : null}
        </View>
      ) : null}
    </View>
  );
}

/** How often a passcode is asked for, where one is. */
function Passcode({ plan, value, onChange, onDone, problem }: PasscodeProps) {
  const { asked, fontByFont } = plan.passcodes;
  if (asked === 0 || (plan.state !== "drawn" && plan.state !== "failed" && !plan.needsPasscode)) return null;
  const words = plan.needsPasscode
    ? SAY.thePasscodeIsAskedForOnce(plan.deviceName, asked, fontByFont)
    : SAY.deviceWillAskForThePasscode(plan.deviceName, asked, fontByFont);
  return (
    <Drawer label={SAY.passcode} testID="passcode-drawer">
      <DrawerRow first>
        <Body className="mb-2">{words}</Body>
        {plan.practicePasscode !== "" ? (
          <Small className="mb-2" testID="practice-passcode">
            {SAY.thisIsAPracticeDevice(plan.practicePasscode)}
          </Small>
        ) : null}
        {plan.needsPasscode ? (
          <Field
            label={SAY.passcodeOfDeviceName(plan.deviceName)}
            value={value}
            onChange={onChange}
            onDone={onDone}
            secret
            problem={problem ? `${problem.message} ${problem.next}` : undefined}
            testID="passcode"
          />
        ) : null}
      </DrawerRow>
    </Drawer>
  );
}
interface PasscodeProps {
  plan: PlanView;
  value: string;
  onChange: (value: string) => void;
  onDone: () => void;
  problem: ApiProblem | null;
}

function ByHand({ plan }: { plan: PlanView }) {
  if (plan.byHand.length === 0) return null;
  return (
    <Drawer label={SAY.onDeviceName(plan.deviceName)} testID="by-hand">
      {plan.byHand.map((step, i) => (
        <DrawerRow key={step} first={i === 0}>
          <Body>
            {i + 1}. {step}
          </Body>
        </DrawerRow>
      ))}
    </Drawer>
  );
}

type NextProgram = PlanView["programs"][number];
const NEXT_WORDS: Record<NonNullable<NextProgram["next"]>, (name: string) => string> = {
  check: (name) => SAY.checkInName(name),
  reopen: (name) => SAY.reopenNameAndCheck(name),
  load: (name) => SAY.loadIntoName(name),
};
/** One style is looked at where it is listed; several by one page for all of them. */
function nextHref(plan: PlanView, { programId, next }: NextProgram): Href {
  const styles = [...new Set(stepsOf(plan).flatMap((step) => (step.op === "copy" && step.styleId !== null ? [step.styleId] : [])))];
  const [only] = styles;
  if (only !== undefined && (styles.length === 1 || next === "load")) return `/cell/${only}/${programId}`;
  return `/check?program=${programId}`;
}
/** The program that takes the fewest steps to look in. */
const nextProgram = (plan: PlanView): NextProgram | undefined =>
  plan.programs.find((program) => program.next === "check") ?? plan.programs.find((program) => program.next !== null);

function Programs({ plan }: { plan: PlanView }) {
  return (
    <Drawer label={plan.state === "drawn" ? SAY.whatProgramsWillNeed : SAY.whatProgramsNeedNow}>
      {plan.programs.map((program, i) =>
        plan.state === "done" && program.next !== null ? (
          <LinkRow
            key={program.programId}
            first={i === 0}
            label={program.name}
            note={program.need}
            href={nextHref(plan, program)}
            testID={`next-${program.name}`}
          />
        ) : (
          <DrawerRow key={program.programId} first={i === 0}>
            <Strong>{program.name}</Strong>
            <Small>{program.need}</Small>
          </DrawerRow>
        ),
      )}
      {plan.programs.length === 0 ? (
        <DrawerRow first>
          <Small>{SAY.noProgramIsKnownOn(plan.deviceName)}</Small>
        </DrawerRow>
      ) : null}
    </Drawer>
  );
}

const isPasscode = (problem: ApiProblem | null): boolean => problem?.code.startsWith("passcode-") ?? false;

/** The next of several plans: at hand from the beginning, the first thing to do once this one is done. */
function NextPlan({ id, rest, strong }: { id: number; rest: readonly number[]; strong: boolean }) {
  const router = useRouter();
  const next = usePlan(id).data;
  if (!next) return null;
  return (
    <Button
      strong={strong}
      label={SAY.nextThePlanFor(next.deviceName)}
      onPress={() => router.push(planHref(id, rest))}
      testID="next-plan"
    />
  );
}

export function PlanScreen({ id, then = [] }: { id: number; then?: readonly number[] }) {
  const answer = usePlan(id);
  const router = useRouter();
  const { mutate } = useSWRConfig();
  const progress = usePlanProgress(id);
  const [passcode, setPasscode] = useState("");
  const show = useCallback((plan: PlanView) => mutate(`/plans/${id}`, plan, { revalidate: false }), [id, mutate]);
  const carryOut = useAction(
    useCallback(
      async (what: "do" | "undo") => {
        try {
          await show(await send("POST", `/plans/${id}/${what}`, PlanView, { passcode: passcode === "" ? undefined : passcode }));
          setPasscode("");
          endChoosing();
        } catch (problem) {
          // It may have been drawn anew.
          if ((problem as ApiProblem).code === "plan-outdated") await mutate(`/plans/${id}`);
          throw problem;
        }
      },
      [id, passcode, show, mutate],
    ),
  );
  const choose = useAction(
    useCallback(
      async (item: PlanItem, choice: string, all: boolean) => {
        await show(await send("POST", `/plans/${id}/choose`, PlanView, { key: item.key, choice, all }));
      },
      [id, show],
    ),
  );
  const [nextId, ...rest] = then;
  const plan = answer.data;
  const undoable = plan && (plan.state === "done" || plan.state === "failed") && stepsOf(plan).some((step) => step.state === "done");
  const changes = plan ? changesOf(plan) : 0;
  const following = plan && nextProgram(plan);
  const familyId = plan?.families[0]?.id;
  const problem = carryOut.problem ?? choose.problem;
  const undo = (
    <Button
      icon={Undo2}
      label={plan?.state === "failed" ? SAY.takeBackWhatWasDone : SAY.undo}
      busy={carryOut.busy}
      onPress={() => carryOut.run("undo")}
      testID="undo-plan"
    />
  );
  const action = !plan ? undefined : plan.state === "drawn" || plan.state === "failed" ? (
    <>
      {carryOut.busy && progress ? (
        <ProgressBar
          part={progress.total === 0 ? undefined : progress.done / progress.total}
          label={SAY.doneOfTotalSteps(progress.done, progress.total)}
        />
      ) : null}
      <Button
        strong
        icon={Check}
        label={
          plan.state === "failed"
            ? SAY.carryOutTheRest
            : plan.byHand.length > 0
              ? SAY.handOverToDeviceName(plan.deviceName)
              : `${planWords(plan).button} ${count(changes, "file")}`
        }
        busy={carryOut.busy}
        disabled={changes === 0}
        onPress={() => carryOut.run("do")}
        testID="do-plan"
      />
      {undoable && plan.byHand.length === 0 ? undo : null}
      {nextId === undefined ? null : <NextPlan id={nextId} rest={rest} strong={false} />}
    </>
  ) : (
    <>
      {nextId === undefined ? null : <NextPlan id={nextId} rest={rest} strong />}
      {plan.state === "handed" && plan.deviceSort === "practice" ? (
        <Button
          strong
          label={SAY.openDeviceName(plan.deviceName)}
          onPress={() => router.push(`/tablet-room/${plan.deviceId}`)}
          testID="to-tablet-room"
        />
      ) : null}
      {plan.state === "handed" ? (
        <Button icon={Undo2} label={SAY.takeItBack} busy={carryOut.busy} onPress={() => carryOut.run("undo")} testID="undo-plan" />
      ) : null}
      {plan.state === "done" && following?.next ? (
        <Button
          strong={then.length === 0}
          icon={Eye}
          label={NEXT_WORDS[following.next](following.name)}
          onPress={() => router.push(nextHref(plan, following))}
          testID="to-check"
        />
      ) : null}
      {plan.state === "done" ? (
        <Button
          strong={!following && then.length === 0}
          label={SAY.seeDeviceName(plan.deviceName)}
          onPress={() => router.push(`/device/${plan.deviceId}`)}
          testID="to-device"
        />
      ) : null}
      {plan.state === "done" && changes > 0 && plan.passcodes.asked <= 1 && !stepsOf(plan).some((step) => step.slot === "profile")
        ? undo
        : null}
      {plan.state === "undone" && familyId !== undefined ? (
        <Button strong label={SAY.backToTheFamily} onPress={() => router.push(`/family/${familyId}`)} />
      ) : null}
    </>
  );
  return (
    <ListScreen
      title={plan ? planTitle(plan) : SAY.plan}
      note={
        plan?.state === "drawn"
          ? SAY.nothingHasHappenedYet
          : plan?.state === "handed"
            ? SAY.itIsDoneOnceThe
            : plan
              ? planCounts(plan)
              : undefined
      }
      back="/devices"
      action={action}
      testID="plan"
      rows={plan ? planLines(plan) : []}
      keyOf={(line) => line.key}
      render={(line) =>
        "item" in line ? (
          <Item plan={plan!} item={line.item} onChoose={choose.run} />
        ) : (
          <View role="heading" aria-level={3} className="border-b border-edge pb-1 pt-4" testID="plan-heading">
            <Strong>{line.heading}</Strong>
          </View>
        )
      }
      footer={plan ? <Programs plan={plan} /> : undefined}
      header={
        <>
          {problem && !isPasscode(problem) ? <ApiProblemNote problem={problem} /> : null}
          <Loaded answer={answer} what={SAY.drawingThePlan}>
            {(value) => (
              <>
                <ClearanceWarnings warnings={value.warnings} />
                <Passcode
                  plan={value}
                  value={passcode}
                  onChange={setPasscode}
                  onDone={() => carryOut.run(value.state === "done" ? "undo" : "do")}
                  problem={isPasscode(problem) ? problem : null}
                />
                <ByHand plan={value} />
                {value.action === "place" ? <Small className="mb-2">{SAY.goesIntoFolder(value.folder)}</Small> : null}
                <DrawerTab label={SAY.files} note={planCounts(value)} />
                <View className="border-t border-edge" />
                {value.items.length === 0 ? (
                  <DrawerRow first className="border border-t-0 border-edge bg-drawer">
                    <Body>{SAY.nothingOfThisIsOn(value.deviceName)}</Body>
                  </DrawerRow>
                ) : null}
              </>
            )}
          </Loaded>
        </>
      }
    />
  );
}
