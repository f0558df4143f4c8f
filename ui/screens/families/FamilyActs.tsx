// What can be done with several families at once: place, tag, and on a sheet of its own everything else. Each ends what was chosen, and says
// what it did with a way back.
import { useRouter } from "expo-router";
import { useCallback, useEffect, useState } from "react";
import { FamilyActed, NewTag, type ChosenFamilies, type FamilyAct } from "../../../contract/families.ts";
import { JobFamiliesChanged } from "../../../contract/jobs.ts";
import { MOST_CHECKED } from "../../../contract/quick-check.ts";
import { count, listWords } from "../../../core/words/words.ts";
import { Done, send } from "../../data/api.ts";
import { useChosenFamilies } from "../../data/chosen.ts";
import type { Choosing } from "../../data/choosing.ts";
import { useJobs } from "../../data/hooks.ts";
import { offerUndo } from "../../data/undo.ts";
import { useAction } from "../../data/useAction.ts";
import { useWords } from "../../data/words.ts";
import { Button } from "../../parts/Button.tsx";
import { ChooseBar } from "../../parts/ChooseBar.tsx";
import { Drawer, DrawerRow } from "../../parts/Drawer.tsx";
import { TextField, useContractForm } from "../../parts/form.tsx";
import { Briefcase, Eye, FlaskConical, Luggage, MonitorUp, Pin, Power, Tag, Trash2 } from "../../parts/icons.ts";
import { ActRow } from "../../parts/LinkRow.tsx";
import { Sheet } from "../../parts/Sheet.tsx";
import { ApiProblemNote, Waiting } from "../../parts/Status.tsx";
import { saveFrom } from "../../web/download.ts";
import { MOST_COMPARED, useNewSheet } from "../bench/newSheet.ts";
import { PlaceSheet } from "../placing/PlaceSheet.tsx";
import { usePlanning } from "../placing/planning.ts";
import { SAY } from "../../sentences/families/families.ts";

const families = (n: number): string => count(n, "family", "families");
/** A kit is one file: so many families fit in it. */
const MOST_IN_KIT = 200;

interface Props {
  ids: readonly number[];
  chosen: ChosenFamilies | undefined;
  onClose: () => void;
  onDone: () => void;
}

/** Acts, says so, and offers the way back. */
function useActing(onDone: () => void) {
  return useAction(
    useCallback(
      async (request: FamilyAct) => {
        const { sentence, changed, historyId } = await send("POST", "/families/act", FamilyActed, request);
        onDone();
        if (historyId !== null) return offerUndo(sentence, () => send("POST", `/history/${historyId}/undo`, Done));
        if (changed.length === 0 || request.act === "remove") return offerUndo(SAY.nothingNeededChanging, null);
        const back: FamilyAct = { ...request, ids: changed, on: !request.on };
        offerUndo(sentence, () => send("POST", "/families/act", FamilyActed, back));
      },
      [onDone],
    ),
  );
}

function TagSheet({ ids, chosen, onClose, onDone }: Props) {
  const form = useContractForm(NewTag, { tag: "" });
  const act = useActing(onDone);
  const tags = chosen?.tags ?? [];
  const add = () => void form.handleSubmit(({ tag }) => act.run({ act: "tag", ids: [...ids], tag, on: true }))();
  return (
    <Sheet title={SAY.tagIds(ids.length)} onClose={onClose} testID="tag-sheet">
      {act.problem ? <ApiProblemNote problem={act.problem} /> : null}
      {tags.length > 0 ? (
        <Drawer label={SAY.yourTags}>
          {tags.map((tag, i) => {
            const all = tag.families === ids.length;
            return (
              <ActRow
                key={tag.id}
                first={i === 0}
                icon={Tag}
                label={tag.name}
                note={all ? SAY.onAllOfThemTake : tag.families > 0 ? SAY.onFamiliesOfThemPut(tag.families) : SAY.putItOn}
                disabled={act.busy}
                onPress={() => act.run({ act: "tag", ids: [...ids], tag: tag.name, on: !all })}
                testID={`tag-${tag.name}`}
              />
            );
          })}
        </Drawer>
      ) : null}
      <TextField form={form} name="tag" label={SAY.aNewTag} onDone={add} placeholder={SAY.spring} testID="new-tag" />
      <Button label={SAY.putItOn} busy={act.busy} onPress={add} testID="add-tag" />
    </Sheet>
  );
}

function JobRows({ ids, onDone }: Pick<Props, "ids" | "onDone">) {
  const jobs = useJobs().data ?? [];
  const router = useRouter();
  const put = useAction(
    useCallback(
      async (jobId: number, name: string) => {
        const path = `/jobs/${jobId}/families`;
        const { changed } = await send("POST", path, JobFamiliesChanged, { ids: [...ids], wanted: true });
        onDone();
        const sentence = changed.length > 0 ? SAY.changedPutIntoName(changed.length, name) : SAY.allOfThemAreIn(name);
        offerUndo(sentence, changed.length > 0 ? () => send("POST", path, JobFamiliesChanged, { ids: changed, wanted: false }) : null);
      },
      [ids, onDone],
    ),
  );
  return (
    <Drawer label={SAY.putIntoAJob}>
      {put.problem ? <ApiProblemNote problem={put.problem} /> : null}
      {jobs.map((job, i) => (
        <ActRow
          key={job.id}
          first={i === 0}
          icon={Briefcase}
          label={job.name}
          note={SAY.familyIdsInIt(job.familyIds.length)}
          disabled={put.busy}
          onPress={() => put.run(job.id, job.name)}
          testID={`into-job-${job.name}`}
        />
      ))}
      <ActRow
        first={jobs.length === 0}
        icon={Briefcase}
        label={SAY.aNewJob}
        note={SAY.withTheseFamiliesInIt}
        onPress={() => router.push("/job/new?families=chosen")}
        testID="into-new-job"
      />
    </Drawer>
  );
}

function MoreSheet({ ids, chosen, onClose, onDone }: Props) {
  const router = useRouter();
  const [words] = useWords();
  const act = useActing(onDone);
  const plan = usePlanning();
  const compare = useNewSheet();
  const problem = act.problem ?? plan.problem ?? compare.problem;
  const there = (chosen?.devices ?? []).filter((device) => device.on + device.off > 0);
  const allPinned = chosen !== undefined && chosen.pinned === chosen.families;
  const stays = listWords(there.map((device) => device.name));
  return (
    <Sheet title={families(ids.length)} note={chosen ? count(chosen.styles, "style") : undefined} onClose={onClose} testID="more-sheet">
      {problem ? <ApiProblemNote problem={problem} /> : null}
      <Drawer label={SAY.inTheLibrary}>
        <ActRow
          first
          icon={Pin}
          label={allPinned ? SAY.unpin : SAY.pin}
          note={chosen && chosen.pinned > 0 && !allPinned ? SAY.pinnedOfThemArePinned(chosen.pinned) : undefined}
          disabled={act.busy || !chosen}
          onPress={() => act.run({ act: "pin", ids: [...ids], on: !allPinned })}
          testID="act-pin"
        />
        <ActRow
          icon={FlaskConical}
          label={SAY.compareOnTheBench}
          note={ids.length > MOST_COMPARED ? SAY.aNewSheetWithThe(MOST_COMPARED) : SAY.aNewSheetWithA}
          disabled={compare.busy || !chosen}
          onPress={() => compare.run(words.trim().slice(0, 60) || families(ids.length), chosen?.mains ?? [])}
          testID="act-compare"
        />
        {ids.length <= MOST_IN_KIT ? (
          <ActRow
            icon={Luggage}
            label={SAY.saveAKit}
            note={SAY.oneZipForAMachine}
            onPress={() => saveFrom(`/api/kit?families=${ids.join(",")}`)}
            testID="act-kit"
          />
        ) : null}
        <ActRow
          icon={Trash2}
          label={SAY.removeFromTheLibrary}
          note={there.length > 0 ? SAY.staysOnStaysTakeIt(stays) : SAY.itCanBeBroughtBack}
          disabled={act.busy}
          onPress={() => act.run({ act: "remove", ids: [...ids] })}
          testID="act-remove"
        />
      </Drawer>
      <JobRows ids={ids} onDone={onDone} />
      {there.map((device) => (
        <Drawer key={device.id} label={SAY.onName(device.name)} note={count(device.on + device.off, "file")}>
          {device.switches && device.on > 0 ? (
            <ActRow
              first
              icon={Power}
              label={SAY.turnOff}
              note={SAY.onOn(device.on)}
              disabled={plan.busy}
              onPress={() => plan.run({ deviceId: device.id, action: "switch-off", familyIds: [...ids] })}
              testID={`turn-off-${device.name}`}
            />
          ) : null}
          {device.switches && device.off > 0 ? (
            <ActRow
              first={device.on === 0}
              icon={Power}
              label={SAY.turnOn}
              note={SAY.offOff(device.off)}
              disabled={plan.busy}
              onPress={() => plan.run({ deviceId: device.id, action: "switch-on", familyIds: [...ids] })}
              testID={`turn-on-${device.name}`}
            />
          ) : null}
          <ActRow
            first={!device.switches}
            icon={Trash2}
            label={SAY.takeOff}
            disabled={plan.busy}
            onPress={() => plan.run({ deviceId: device.id, action: "remove", familyIds: [...ids] })}
            testID={`take-off-${device.name}`}
          />
          <ActRow
            icon={Eye}
            label={SAY.checkInItsPrograms}
            note={ids.length <= MOST_CHECKED ? SAY.onePageForWhatIs : SAY.moreThanMostCheckedOnePage(MOST_CHECKED)}
            onPress={() => {
              onClose();
              const only = ids.length <= MOST_CHECKED ? `&families=${ids.join()}` : "";
              router.push(`/check?device=${device.id}${only}`);
            }}
            testID={`check-${device.name}`}
          />
        </Drawer>
      ))}
      {chosen ? null : (
        <DrawerRow first>
          <Waiting what={SAY.findingWhereTheyAre} />
        </DrawerRow>
      )}
    </Sheet>
  );
}

type Open = "place" | "tag" | "more" | undefined;

export function FamilyActs({ choosing, total, onAll }: { choosing: Choosing; total: number; onAll: () => void }) {
  const { chosen: picked, end } = choosing;
  const [open, setOpen] = useState<Open>();
  const [ids, setIds] = useState<readonly number[]>([]);
  useEffect(() => setIds([...(picked?.keys ?? [])].map(Number)), [picked]);
  const chosen = useChosenFamilies(ids, open !== undefined);
  const close = useCallback(() => setOpen(undefined), []);
  const done = useCallback(() => {
    setOpen(undefined);
    end();
  }, [end]);
  if (!picked) return null;
  const none = ids.length === 0;
  const sheet = { ids, chosen, onClose: close, onDone: done };
  return (
    <>
      <ChooseBar
        words={none ? SAY.chooseFamilies : SAY.idsChosen(ids.length)}
        all={ids.length < total ? { label: SAY.allTotal(total), onPress: onAll } : undefined}
        onEnd={end}
      >
        <Button
          strong
          icon={MonitorUp}
          label={SAY.place}
          disabled={none}
          onPress={() => setOpen("place")}
          className="flex-1"
          testID="act-place"
        />
        <Button icon={Tag} label={SAY.tag} disabled={none} onPress={() => setOpen("tag")} className="flex-1" testID="act-tag" />
        <Button
          label={SAY.more}
          hint={SAY.whatCanBeDoneWith}
          disabled={none}
          onPress={() => setOpen("more")}
          className="flex-1"
          testID="act-more"
        />
      </ChooseBar>
      {open === "place" ? (
        <PlaceSheet title={SAY.placeIds(ids.length)} what={{ familyIds: [...ids] }} devices={chosen?.devices} onClose={close} />
      ) : null}
      {open === "tag" ? <TagSheet {...sheet} /> : null}
      {open === "more" ? <MoreSheet {...sheet} /> : null}
    </>
  );
}
