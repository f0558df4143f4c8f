// Duplicates on a device: the copies side by side, which one to keep and why, and doing it for one group or for all.
import { useState } from "react";
import { View } from "react-native";
import type { DuplicateGroup } from "../../../contract/devices.ts";
import { type PlanRequest } from "../../../contract/placing.ts";
import { count, sizeWords } from "../../../core/words/words.ts";
import { when } from "../../data/devices.ts";
import { useDevice, useDuplicates } from "../../data/hooks.ts";
import { Button } from "../../parts/Button.tsx";
import { Drawer, DrawerRow } from "../../parts/Drawer.tsx";
import { RadioRow } from "../../parts/RadioRow.tsx";
import { Screen } from "../../parts/Screen.tsx";
import { ApiProblemNote, Empty, Loaded } from "../../parts/Status.tsx";
import { Body, Small, Strong } from "../../parts/Text.tsx";
import { usePlanning } from "../placing/planning.ts";
import { SAY } from "../../sentences/devices/duplicates.ts";

type Files = NonNullable<PlanRequest["files"]>;
type By = "remove" | "switch-off";

const HOW_WORDS: Record<DuplicateGroup["how"], string> = {
  "same-file": SAY.theSameFileInSeveral,
  versions: SAY.severalVersionsOfOneStyle,
  twins: SAY.oneStyleInTwoFormats,
  names: SAY.differentFontsUnderOneName,
};

/** The files of a group that go when one is kept: not those that came with the device, nor, while several are on, one that is off. */
const others = (group: DuplicateGroup, keep: number): Files =>
  group.files.flatMap(({ folder, fileName, movable, on }, i) =>
    i === keep || !movable || (group.inTheWay && !on) ? [] : [{ folder, fileName }],
  );

function Group({
  group,
  onDraw,
  busy,
  switches,
}: {
  group: DuplicateGroup;
  onDraw: (files: Files, by: By) => void;
  busy: boolean;
  switches: boolean;
}) {
  const [keep, setKeep] = useState(group.keep);
  const files = others(group, keep);
  return (
    <Drawer label={`${group.family}, ${group.style}`} note={group.inTheWay ? undefined : SAY.onlyOneIsOn} testID="duplicate-group">
      <DrawerRow first>
        <Strong>{HOW_WORDS[group.how]}</Strong>
        <Body>{SAY.keepTheOneInWhere(group.files[group.keep]!.where, group.reason)}</Body>
      </DrawerRow>
      <View role="radiogroup" aria-label={SAY.whichCopyOfFamilyStyle(group.family, group.style)}>
        {group.files.map((file, i) => (
          <View key={`${file.folder}/${file.fileName}`} className="border-t border-edge" testID="duplicate-file">
            <RadioRow
              first
              label={SAY.aCopy(i === keep, file.fileName)}
              note={SAY.whereACopyIs(file.where, file.on, i === group.keep)}
              chosen={i === keep}
              onPress={() => setKeep(i)}
            />
            <View className="px-3 pb-3 pl-11">
              <Small>
                {[
                  file.version || SAY.noVersion,
                  when(file.changedAt),
                  count(file.characters, "character"),
                  sizeWords(file.bytes),
                  `${file.outlines} outlines`,
                ].join(" · ")}
              </Small>
              {file.drawn ? <Small className="text-ink">{file.drawn}</Small> : null}
              {file.movable ? null : <Small>{SAY.itCameWithTheDevice}</Small>}
            </View>
          </View>
        ))}
      </View>
      <DrawerRow className="flex-row flex-wrap gap-2">
        {switches ? (
          <Button
            label={SAY.planTurningTheOtherOff}
            busy={busy}
            disabled={files.length === 0}
            onPress={() => onDraw(files, "switch-off")}
            testID="duplicate-off"
          />
        ) : null}
        <Button
          label={SAY.planTakingTheOtherOff}
          busy={busy}
          disabled={files.length === 0}
          onPress={() => onDraw(files, "remove")}
          testID="duplicate-remove"
        />
      </DrawerRow>
    </Drawer>
  );
}

export function DuplicatesScreen({ deviceId }: { deviceId: number }) {
  const answer = useDuplicates(deviceId);
  const device = useDevice(deviceId);
  const draw = usePlanning();
  const tidy = (files: Files, tidyBy: By) => draw.run({ deviceId, action: "tidy", files, tidyBy });
  const groups = answer.data ?? [];
  const all = groups.filter((group) => group.inTheWay).flatMap((group) => others(group, group.keep));
  return (
    <Screen
      title={device.data ? SAY.duplicatesOnName(device.data.name) : SAY.duplicates}
      note={SAY.nothingChangesYetThePlan}
      back={`/device/${deviceId}`}
      testID="duplicates"
      action={
        groups.length > 1 && all.length > 0 ? (
          <Button strong label={SAY.reviewRemovingAll(all.length)} busy={draw.busy} onPress={() => tidy(all, "remove")} testID="tidy-all" />
        ) : undefined
      }
    >
      {draw.problem ? <ApiProblemNote problem={draw.problem} /> : null}
      <Loaded answer={answer} what={SAY.comparingTheCopies}>
        {(value) =>
          value.length === 0 ? (
            <Empty title={SAY.noDuplicates}>
              <Body>{SAY.everyNameStandsForOne}</Body>
            </Empty>
          ) : (
            value.map((group) => (
              <Group key={group.key} group={group} onDraw={tidy} busy={draw.busy} switches={device.data?.switches ?? false} />
            ))
          )
        }
      </Loaded>
    </Screen>
  );
}
