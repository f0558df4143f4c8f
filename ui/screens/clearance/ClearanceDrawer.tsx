// A family's clearance: what was read, set right by hand, opened by a bought licence, ended by a term.
import { useRouter } from "expo-router";
import { useCallback } from "react";
import { View } from "react-native";
import {
  CorrectionRequest,
  FamilyClearance,
  type EvidenceOfUse,
  type LicenceRequest,
  type LicenceView,
  type UseClearance,
} from "../../../contract/clearance.ts";
import { ANSWER_WORDS } from "../../../core/clearance/uses.ts";
import { money } from "../../../core/words/money.ts";
import { count } from "../../../core/words/words.ts";
import { Done, send, upload } from "../../data/api.ts";
import { useClearance } from "../../data/hooks.ts";
import { offerUndo } from "../../data/undo.ts";
import { useAction } from "../../data/useAction.ts";
import { Button } from "../../parts/Button.tsx";
import { LinkRow } from "../../parts/LinkRow.tsx";
import { Choice } from "../../parts/Choice.tsx";
import { ClearanceTable } from "../../parts/Clearance.tsx";
import { Drawer, DrawerRow } from "../../parts/Drawer.tsx";
import { TextField, useContractForm } from "../../parts/form.tsx";
import { Plus } from "../../parts/icons.ts";
import { ApiProblemNote, Loaded } from "../../parts/Status.tsx";
import { Body, Lead, Small, Strong } from "../../parts/Text.tsx";
import { DropArea } from "../../web/DropArea.tsx";
import { SAY } from "../../sentences/clearance/clearance.ts";

/** A person's own reading of one use, with a note. */
function Correct({ familyId, one }: { familyId: number; one: UseClearance }) {
  const { use } = one;
  const form = useContractForm(CorrectionRequest, { use, answer: one.by === "person" ? one.answer : null, note: one.note });
  const answer = form.watch("answer");
  const save = useAction(
    useCallback((request: CorrectionRequest) => send("POST", `/families/${familyId}/clearance`, FamilyClearance, request), [familyId]),
  );
  return (
    <View className="mt-2 gap-2 border-t border-edge pt-3">
      <Small className="text-ink">{SAY.isThatNotRightSay}</Small>
      {save.problem ? <ApiProblemNote problem={save.problem} /> : null}
      <Choice
        label={SAY.yourOwnReading}
        none={SAY.asItsPapersSay}
        words={ANSWER_WORDS}
        value={answer ?? undefined}
        onChange={(said) => form.setValue("answer", said ?? null)}
        testID="correct-answer"
      />
      <TextField form={form} name="note" label={SAY.whyForLater} placeholder={SAY.askedItsMakerByLetter} testID="correct-note" />
      <View className="flex-row">
        <Button
          label={answer === null ? SAY.leaveItToItsPapers : SAY.keepMyReading}
          busy={save.busy}
          disabled={answer === null && one.by !== "person"}
          onPress={() => void form.handleSubmit(save.run)()}
          testID="keep-correction"
        />
      </View>
    </View>
  );
}

const KIND_WORDS: Record<LicenceView["kind"], string> = {
  personal: SAY.personalLicence,
  commercial: SAY.commercialLicence,
  "time-limited": SAY.licenceWithAnEnd,
  other: SAY.licence,
};

function Licence({ licence }: { licence: LicenceView }) {
  const remove = useAction(
    useCallback(async () => {
      await send("POST", `/licences/${licence.id}/remove`, Done);
      offerUndo(SAY.theLicenceWasRemoved, () => send("POST", `/licences/${licence.id}/bring-back`, Done));
    }, [licence.id]),
  );
  const receipt = useAction(
    useCallback(
      async (files: File[]) => {
        const [file] = files;
        if (file) await upload(`/licences/${licence.id}/receipt`, [{ name: file.name, file }], Done);
      },
      [licence.id],
    ),
  );
  const facts = [
    licence.seats !== null && count(licence.seats, "seat"),
    licence.boughtOn && SAY.boughtOnBoughtOn(licence.boughtOn),
    licence.priceMinor !== null && licence.currency && money(licence.priceMinor, licence.currency),
    licence.orderNumber && `order ${licence.orderNumber}`,
  ].filter(Boolean);
  const problem = remove.problem ?? receipt.problem;
  return (
    <DrawerRow testID="licence">
      {problem ? <ApiProblemNote problem={problem} /> : null}
      <Strong>{KIND_WORDS[licence.kind]}</Strong>
      {facts.length > 0 ? <Small>{facts.join(" · ")}</Small> : null}
      {licence.termView ? (
        <Small className={licence.termView.state === "over" ? "text-warning" : "text-ink"}>{licence.termView.words}</Small>
      ) : null}
      {licence.note ? <Body className="mt-1">{licence.note}</Body> : null}
      {licence.receiptName ? (
        <a href={`/api/licences/${licence.id}/receipt`} style={{ display: "block", padding: "12px 0", color: "inherit" }}>
          <Small className="text-ink underline">{SAY.receiptReceiptName(licence.receiptName)}</Small>
        </a>
      ) : null}
      <DropArea label={SAY.chooseTheReceipt} multiple={false} onFiles={receipt.run}>
        {({ pick }) => (
          <View className="mt-2 flex-row flex-wrap gap-2">
            <Button
              label={licence.receiptName ? SAY.anotherReceipt : SAY.addTheReceipt}
              busy={receipt.busy}
              onPress={pick}
              testID="add-receipt"
            />
            <Button label={SAY.removeTheLicence} busy={remove.busy} onPress={remove.run} testID="remove-licence" />
          </View>
        )}
      </DropArea>
    </DrawerRow>
  );
}

/** A term a paper speaks of, recorded with one tap: it lets everything stand that the papers allow, and ends it. */
function SuggestedTerm({
  familyId,
  suggestion,
  uses,
}: {
  familyId: number;
  suggestion: FamilyClearance["suggestedTerms"][number];
  uses: readonly UseClearance[];
}) {
  const record = useAction(
    useCallback(async () => {
      const said = uses.filter((one) => one.answer === "yes" || one.answer === "credit").map((one) => [one.use, one.answer]);
      const request: LicenceRequest = {
        kind: "time-limited",
        answers: Object.fromEntries(said) as LicenceRequest["answers"],
        seats: null,
        boughtOn: null,
        priceMinor: null,
        currency: "",
        orderNumber: "",
        note: suggestion.sentence,
        term: suggestion.term,
      };
      await send("POST", `/families/${familyId}/licences`, FamilyClearance, request);
    }, [familyId, suggestion, uses]),
  );
  return (
    <DrawerRow testID="suggested-term">
      {record.problem ? <ApiProblemNote problem={record.problem} /> : null}
      <Body>“{suggestion.sentence}”</Body>
      <Small className="mb-2">{SAY.itStandsInWhereOnce(suggestion.where)}</Small>
      <View className="flex-row">
        <Button
          label={
            "days" in suggestion.term ? SAY.countDaysDaysFromPlacing(suggestion.term.days) : SAY.noteTheEndUntil(suggestion.term.until)
          }
          busy={record.busy}
          onPress={record.run}
          testID="record-term"
        />
      </View>
    </DrawerRow>
  );
}

/** Leaves a sentence out of clearance wherever its paper lies, with undo; or lets it count again. */
const leave = async ({ text, sentence }: EvidenceOfUse, out: boolean): Promise<void> => {
  await send("POST", "/sentences/leave-out", Done, { text, sentence, out });
  if (out) offerUndo(SAY.theSentenceIsLeftOut, () => send("POST", "/sentences/leave-out", Done, { text, sentence, out: false }));
};

export function ClearanceDrawer({ familyId }: { familyId: number }) {
  const answer = useClearance(familyId);
  const router = useRouter();
  const leaving = useAction(leave);
  return (
    <Drawer label={SAY.clearance} note={answer.data?.term?.words} testID="clearance">
      <Loaded answer={answer} what={SAY.readingItsPapers}>
        {(value) => (
          <>
            <DrawerRow first>
              <Lead className={value.lapsed ? "text-warning" : ""} testID="clearance-headline">
                {value.headline}
              </Lead>
              {value.unread.map((words) => (
                <Small key={words} className="mt-1 text-warning">
                  {words}
                </Small>
              ))}
            </DrawerRow>
            {leaving.problem ? <ApiProblemNote problem={leaving.problem} /> : null}
            <ClearanceTable
              uses={value.uses}
              onLeave={leaving.run}
              more={(one) => <Correct key={one.use + one.by} familyId={familyId} one={one} />}
            />
            {value.suggestedTerms.map((suggestion) => (
              <SuggestedTerm key={suggestion.sentence} familyId={familyId} suggestion={suggestion} uses={value.uses} />
            ))}
            {value.licences.map((licence) => (
              <Licence key={licence.id} licence={licence} />
            ))}
            {value.creditLine ? (
              <DrawerRow>
                <Small>{SAY.creditLine}</Small>
                <Body testID="credit-line">{value.creditLine}</Body>
              </DrawerRow>
            ) : null}
            {value.lapsed || value.uses.some(({ answer: said }) => said === "no" || said === "not-stated") ? (
              <LinkRow href={`/alike/${familyId}`} label={SAY.lookAlikesThatAreCleared} testID="alike-cleared-link" />
            ) : null}
            <DrawerRow>
              <View className="flex-row">
                <Button
                  icon={Plus}
                  label={SAY.recordALicence}
                  onPress={() => router.push(`/licence?family=${familyId}`)}
                  testID="record-licence"
                />
              </View>
            </DrawerRow>
          </>
        )}
      </Loaded>
    </Drawer>
  );
}
