// What documents need: every font of theirs and where it is, one tap to have the missing ones placed.
import { useRouter } from "expo-router";
import { useCallback, useState } from "react";
import { View } from "react-native";
import { JobDetail } from "../../../contract/jobs.ts";
import { DocumentsTaken, type DocumentNeeds, type Need, type NeedPlace, type NeedsPlanRequest } from "../../../contract/documents.ts";
import { PlanView } from "../../../contract/placing.ts";
import { count, listWords } from "../../../core/words/words.ts";
import { Done, send, upload } from "../../data/api.ts";
import { useDevices, useNeeds } from "../../data/hooks.ts";
import { offerUndo } from "../../data/undo.ts";
import { useAction } from "../../data/useAction.ts";
import { useOpen } from "../../data/page.ts";
import { Button } from "../../parts/Button.tsx";
import { Choice } from "../../parts/Choice.tsx";
import { Drawer, DrawerRow } from "../../parts/Drawer.tsx";
import { FileSearch } from "../../parts/icons.ts";
import { LinkRow } from "../../parts/LinkRow.tsx";
import { PLACE_WORDS, PlaceMark } from "../../parts/PlaceMark.tsx";
import { Screen } from "../../parts/Screen.tsx";
import { ApiProblemNote, Empty, Loaded, ProblemNote } from "../../parts/Status.tsx";
import { Body, Small, Strong } from "../../parts/Text.tsx";
import { DropArea } from "../../web/DropArea.tsx";
import { SAY } from "../../sentences/documents/needs.ts";

/** What is to be done about first. */
const ORDER: readonly NeedPlace[] = ["nowhere", "other-style", "unnamed", "parcel", "library", "off", "here"];
/** Can be placed as it is. */
const AT_HAND: readonly NeedPlace[] = ["library", "off", "parcel"];
const shows = ({ hidden }: Need): boolean => hidden === "";
const missing = (needs: readonly Need[]): Need[] => needs.filter((need) => shows(need) && AT_HAND.includes(need.place));
/** So many of a document are shown before somebody asks for the rest. */
const SHOWN_AT_FIRST = 12;

function Font({ need, first }: { need: Need; first: boolean }) {
  return (
    <View className={first ? "" : "border-t border-edge"} testID="need">
      <DrawerRow first>
        <View className="flex-row flex-wrap items-start justify-between gap-x-3 gap-y-1">
          <Strong className="min-w-0 shrink">{need.name || SAY.aFontWithoutAName}</Strong>
          <PlaceMark place={need.place} />
        </View>
        <Body className="mt-1">{need.sentence}</Body>
        {need.letters > 0 ? <Small className="mt-1">{SAY.whereItSetsText(need.words, need.letters, need.pages)}</Small> : null}
        {need.hidden ? <Small>{SAY.noneOfItsTextShows(need.hidden)}</Small> : null}
        {need.carried && need.place !== "here" ? <Small>{SAY.theDocumentCarriesItIt}</Small> : null}
        {need.orElse.length > 0 && need.place !== "here" ? (
          <Small>{SAY.whereItIsMissingThe(listWords(need.orElse.slice(0, 3), "or"))}</Small>
        ) : null}
      </DrawerRow>
      {need.place === "other-style" && need.familyId !== null ? (
        <LinkRow label={SAY.lookAtTheFamily} href={`/family/${need.familyId}`} />
      ) : null}
      {need.place === "nowhere" ? (
        <LinkRow label={SAY.findOneLikeIt} note={SAY.fromAPictureOfIt} href="/bench/match" testID="match-instead" />
      ) : null}
      {need.parcelId !== null ? <LinkRow label={SAY.lookIntoTheParcel} href={`/parcel/${need.parcelId}`} /> : null}
    </View>
  );
}

function Document({ document, deviceId }: { document: DocumentNeeds; deviceId: number | undefined }) {
  const router = useRouter();
  const [all, setAll] = useOpen(`document ${document.id}`);
  const job = useAction(
    useCallback(async () => {
      const made = await send("POST", `/documents/${document.id}/job${deviceId === undefined ? "" : `?device=${deviceId}`}`, JobDetail);
      router.push(`/job/${made.id}`);
    }, [document.id, deviceId, router]),
  );
  const forget = useAction(
    useCallback(async () => {
      await send("POST", `/documents/${document.id}/remove`, Done);
      offerUndo(SAY.nameWasRemoved(document.name), () => send("POST", `/documents/${document.id}/bring-back`, Done));
    }, [document.id, document.name]),
  );
  const needs = [...document.needs].sort(
    (a, b) => Number(!shows(a)) - Number(!shows(b)) || ORDER.indexOf(a.place) - ORDER.indexOf(b.place) || b.letters - a.letters,
  );
  const visible = all ? needs : needs.slice(0, SHOWN_AT_FIRST);
  const counts = ORDER.flatMap((place) => {
    const some = needs.filter((need) => need.place === place).length;
    return some > 0 ? [`${some} ${PLACE_WORDS[place].toLowerCase()}`] : [];
  });
  return (
    <Drawer label={document.name} note={document.kind} testID="document">
      <DrawerRow first>
        <Body>{needs.length === 0 ? SAY.noTextInItIs : `${count(needs.length, "font")}: ${listWords(counts)}.`}</Body>
        {document.unread > 0 ? <Body className="text-warning">{SAY.itsLastUnreadWereNot(document.unread)}</Body> : null}
        {document.madeBy ? <Small lines={1}>{SAY.madeByMadeBy(document.madeBy)}</Small> : null}
        {job.problem ? <ApiProblemNote problem={job.problem} /> : null}
        <View className="mt-2 flex-row flex-wrap gap-2">
          {needs.some((need) => need.familyId !== null) ? (
            <Button label={SAY.makeItAJob} hint={document.name} busy={job.busy} onPress={job.run} testID="needs-job" />
          ) : null}
          <Button label={SAY.remove} hint={document.name} busy={forget.busy} onPress={forget.run} testID="needs-forget" />
        </View>
      </DrawerRow>
      {visible.map((need, i) => (
        <Font key={`${need.name}/${i}`} need={need} first={false} />
      ))}
      {needs.length > visible.length ? (
        <DrawerRow>
          <Button label={SAY.showMore(needs.length, visible.length)} onPress={() => setAll(true)} />
        </DrawerRow>
      ) : null}
    </Drawer>
  );
}

/** The one button for everything that is missing. */
function PlaceAll({ documents, deviceId, deviceName }: { documents: readonly DocumentNeeds[]; deviceId: number; deviceName: string }) {
  const router = useRouter();
  const plan = useAction(
    useCallback(
      async (request: NeedsPlanRequest) => router.push(`/plan/${(await send("POST", "/documents/plan", PlanView, request)).id}`),
      [router],
    ),
  );
  const wanted = documents.flatMap(({ needs }) => missing(needs));
  if (wanted.length === 0) return null;
  const names = new Set(wanted.map(({ found }) => found));
  const fromParcels = new Set(wanted.filter(({ place }) => place === "parcel").map(({ found }) => found));
  return (
    <View className="mb-4 gap-2">
      {plan.problem ? <ApiProblemNote problem={plan.problem} /> : null}
      <Button
        strong
        label={SAY.planPlacingSizeOnDeviceName(names.size, deviceName)}
        busy={plan.busy}
        onPress={() => plan.run({ documentIds: documents.map(({ id }) => id), deviceId })}
        testID="needs-plan"
      />
      {fromParcels.size > 0 ? <Small>{SAY.sizeOfThemWillBe(fromParcels.size)}</Small> : null}
    </View>
  );
}

export function NeedsScreen() {
  const [chosen, setChosen] = useState<string>();
  const devices = useDevices().data ?? [];
  const answer = useNeeds(chosen);
  const [problems, setProblems] = useState<DocumentsTaken["problems"]>([]);
  const take = useAction(
    useCallback(async (files: readonly File[]) => {
      setProblems([]);
      const sent = files.map((file) => ({ name: file.name, file }));
      setProblems((await upload("/documents", sent, DocumentsTaken)).problems);
    }, []),
  );
  return (
    <DropArea label={SAY.chooseDocuments} onFiles={(files) => files.length > 0 && take.run(files)}>
      {({ over, pick }) => (
        <Screen title={SAY.whatDoesADocumentNeed} back="/sightings" testID="needs">
          <View className={`mb-4 items-center gap-3 border-2 border-dashed p-5 ${over ? "border-persimmon bg-drawer" : "border-edge"}`}>
            <Body className="text-center">{over ? SAY.letGoAndItIs : SAY.dropAPdfOfficeDocument}</Body>
            <Button
              strong={!answer.data?.documents.length}
              icon={FileSearch}
              label={SAY.readADocument}
              busy={take.busy}
              onPress={pick}
              testID="needs-pick"
            />
          </View>
          {take.busy ? <Small className="mb-3">{SAY.readingWhatTheyNeed}</Small> : null}
          {take.problem ? <ApiProblemNote problem={take.problem} /> : null}
          {problems.map(({ fileName, message, next }) => (
            <ProblemNote key={fileName} message={`${fileName}: ${message}`} next={next} />
          ))}
          <Loaded answer={answer} what={SAY.lookingForItsFonts}>
            {({ documents, device }) =>
              documents.length === 0 ? (
                <Empty title={SAY.noDocumentYet}>
                  <Body>{SAY.forEachFontYouAre}</Body>
                </Empty>
              ) : (
                <>
                  {devices.length > 0 && device ? (
                    <View className="mb-3 flex-row flex-wrap items-center gap-2">
                      <Small>{SAY.seenFrom}</Small>
                      <Choice
                        label={SAY.device}
                        words={Object.fromEntries(devices.map((one) => [String(one.id), one.name]))}
                        value={chosen ?? String(device.id)}
                        onChange={setChosen}
                        testID="needs-device"
                      />
                    </View>
                  ) : null}
                  {device ? <PlaceAll documents={documents} deviceId={device.id} deviceName={device.name} /> : null}
                  {documents.map((document) => (
                    <Document key={document.id} document={document} deviceId={device?.id} />
                  ))}
                </>
              )
            }
          </Loaded>
        </Screen>
      )}
    </DropArea>
  );
}
