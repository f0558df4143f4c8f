// What somebody saw in a program with their own eyes, and a page that helps to see it.
import { useCallback, useState } from "react";
import { View } from "react-native";
import { ProgramSummary } from "../../../contract/programs.ts";
import { LookAnswer, LookRequest, type Cell, type Sighting } from "../../../contract/sightings.ts";
import { send } from "../../data/api.ts";
import { who } from "../../data/who.ts";
import { useAction } from "../../data/useAction.ts";
import { Button } from "../../parts/Button.tsx";
import { Choice } from "../../parts/Choice.tsx";
import { Drawer, DrawerRow } from "../../parts/Drawer.tsx";
import { TextField, useContractForm } from "../../parts/form.tsx";
import { Download } from "../../parts/icons.ts";
import { ApiProblemNote } from "../../parts/Status.tsx";
import { Body } from "../../parts/Text.tsx";
import { saveFrom } from "../../web/download.ts";
import { SAY } from "../../sentences/sightings/cell.ts";

export const PROBES = {
  odt: SAY.textDocumentOdt,
  docx: SAY.textDocumentDocx,
  rtf: SAY.richTextRtf,
  svg: SAY.drawingSvg,
  html: SAY.webPageHtml,
  ass: SAY.subtitlesAss,
  txt: SAY.plainTextTxt,
} as const;

export function LookDrawer({ cell, onSeen }: { cell: Cell; onSeen: (sighting: Sighting) => void }) {
  const form = useContractForm(LookRequest.pick({ who: true }).required(), { who: who.use() });
  /** What looking shows of the program: when it reads fonts, otherwise than was thought. */
  const [learnt, setLearnt] = useState<"always" | "start">();
  /** What speaks against it, until somebody says how it was. */
  const [doubt, setDoubt] = useState("");
  const { styleId, programId } = cell;
  const look = useAction(
    useCallback(
      async (saw: LookRequest["saw"], name: string, despite: LookRequest["despite"] = "") => {
        setLearnt(undefined);
        setDoubt("");
        const { question, sighting } = await send("POST", `/cells/${styleId}/${programId}/look`, LookAnswer, { saw, who: name, despite });
        if (!sighting) return setDoubt(question);
        const early = despite === "sure" && cell.state === "reopen";
        const late = saw === "not-there" && cell.state === "due" && cell.readsWhen === "always";
        setLearnt(cell.practice ? undefined : early ? "always" : late ? "start" : undefined);
        onSeen(sighting);
      },
      [styleId, programId, cell.state, cell.readsWhen, cell.practice, onSeen],
    ),
  );
  const say = (saw: LookRequest["saw"], despite?: LookRequest["despite"]) =>
    void form.handleSubmit(({ who: name }) => look.run(saw, name, despite))();
  const learn = useAction(
    useCallback(async () => {
      await send("POST", `/programs/${programId}/learn`, ProgramSummary, { readsWhen: learnt });
      setLearnt(undefined);
    }, [programId, learnt]),
  );
  return (
    <Drawer label={SAY.checkItYourself} testID="look-drawer">
      {(look.problem ?? learn.problem) ? <ApiProblemNote problem={(look.problem ?? learn.problem)!} /> : null}
      <DrawerRow first>
        <TextField form={form} name="who" label={SAY.yourName} onChanged={who.set} hint={SAY.keptWithWhatWasSeen} testID="look-who" />
        <View className="flex-row flex-wrap gap-2">
          <Button label={SAY.itIsThere} busy={look.busy} onPress={() => say("there")} testID="saw-there" />
          <Button label={SAY.itIsNotListed} busy={look.busy} onPress={() => say("not-there")} testID="saw-not-there" />
          <Button label={SAY.itLooksWrong} busy={look.busy} onPress={() => say("wrong")} testID="saw-wrong" />
        </View>
        {doubt ? (
          <View className="mt-3 items-start gap-2" role="status" testID="look-doubt">
            <Body>{doubt}</Body>
            <Body>{SAY.wasItThereAnyway}</Body>
            <View className="flex-row flex-wrap gap-2">
              {cell.state === "reopen" && !cell.practice ? (
                <Button label={SAY.iReopenedItFirst} busy={look.busy} onPress={() => say("there", "reopened")} testID="look-reopened" />
              ) : null}
              <Button label={SAY.iSawItAnyway} busy={look.busy} onPress={() => say("there", "sure")} testID="look-sure" />
              <Button label={SAY.iAmNotSure} onPress={() => setDoubt("")} testID="look-unsure" />
            </View>
          </View>
        ) : null}
        {learnt ? (
          <View className="mt-3 items-start gap-2" role="status">
            <Body>
              {learnt === "always" ? SAY.itAppearedWithoutProgramNameBeing(cell.programName) : SAY.programSeemedToNotice(cell.programName)}
            </Body>
            <Button
              label={learnt === "always" ? SAY.rememberThatItNoticesBy : SAY.rememberThatItMustBe}
              busy={learn.busy}
              onPress={learn.run}
              testID="learn"
            />
          </View>
        ) : null}
      </DrawerRow>
    </Drawer>
  );
}

export function ProbeDrawer({ cell }: { cell: Cell }) {
  const [kind, setKind] = useState<keyof typeof PROBES>("odt");
  return (
    <Drawer label={SAY.aPageToTryIt} testID="probe-drawer">
      <DrawerRow first className="gap-2">
        <Body>{SAY.itSetsEveryStyleOf(cell.programName)}</Body>
        <View className="flex-row flex-wrap gap-2">
          <Choice label={SAY.kindOfPage} words={PROBES} value={kind} onChange={(next) => next && setKind(next)} testID="probe-kind" />
          <Button
            icon={Download}
            label={SAY.saveThePage}
            onPress={() => saveFrom(`/api/programs/${cell.programId}/probe?family=${cell.familyId}&kind=${kind}`)}
            testID="save-probe"
          />
        </View>
      </DrawerRow>
    </Drawer>
  );
}
