// Duplicates on a device: the copies side by side, which one to keep and why, and doing it for one group or for all.
import { useRouter } from "expo-router";
import { useCallback, useState } from "react";
import { View } from "react-native";
import type { DuplicateGroup } from "../../contract/device.ts";
import { PlanView, type PlanRequest } from "../../contract/plan.ts";
import { count, sizeWords } from "../../core/words/words.ts";
import { send } from "../data/api.ts";
import { when } from "../data/devices.ts";
import { useDevice, useDuplicates } from "../data/hooks.ts";
import { useAction } from "../data/useAction.ts";
import { Button } from "../parts/Button.tsx";
import { Drawer, DrawerRow } from "../parts/Drawer.tsx";
import { RadioRow } from "../parts/RadioRow.tsx";
import { Screen } from "../parts/Screen.tsx";
import { ApiProblemNote, Empty, Loaded } from "../parts/Status.tsx";
import { Body, Small, Strong } from "../parts/Text.tsx";

type Files = NonNullable<PlanRequest["files"]>;
type By = "remove" | "switch-off";

const HOW_WORDS: Record<DuplicateGroup["how"], string> = {
  "same-file": "The same file in several places",
  versions: "Several versions of one style",
  twins: "One style in two formats",
  names: "Different fonts under one name",
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
    <Drawer label={`${group.family}, ${group.style}`} note={group.inTheWay ? undefined : "Only one is on"} testID="duplicate-group">
      <DrawerRow first>
        <Strong>{HOW_WORDS[group.how]}</Strong>
        <Body>
          Keep the one in {group.files[group.keep]!.where}: {group.reason}
        </Body>
      </DrawerRow>
      <View role="radiogroup" aria-label={`Which copy of ${group.family}, ${group.style} to keep`}>
        {group.files.map((file, i) => (
          <View key={`${file.folder}/${file.fileName}`} className="border-t border-edge" testID="duplicate-file">
            <RadioRow
              first
              label={`${i === keep ? "Keep" : "Give up"}: ${file.fileName}`}
              note={`${file.where}, ${file.on ? "on" : "off"}${i === group.keep ? " — recommended" : ""}`}
              chosen={i === keep}
              onPress={() => setKeep(i)}
            />
            <View className="px-3 pb-3 pl-11">
              <Small>
                {[
                  file.version || "no version",
                  when(file.changedAt),
                  count(file.characters, "character"),
                  sizeWords(file.bytes),
                  `${file.outlines} outlines`,
                ].join(" · ")}
              </Small>
              {file.drawn ? <Small className="text-ink">{file.drawn}</Small> : null}
              {file.movable ? null : <Small>It came with the device and cannot be taken off.</Small>}
            </View>
          </View>
        ))}
      </View>
      <DrawerRow className="flex-row flex-wrap gap-2">
        {switches ? (
          <Button
            label="Plan turning the other off"
            busy={busy}
            disabled={files.length === 0}
            onPress={() => onDraw(files, "switch-off")}
            testID="duplicate-off"
          />
        ) : null}
        <Button
          label="Plan taking the other off"
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
  const router = useRouter();
  const draw = useAction(
    useCallback(
      async (files: Files, tidyBy: By) => {
        const request: PlanRequest = { deviceId, action: "tidy", files, tidyBy };
        const plan = await send("POST", "/plans", PlanView, request);
        router.push(`/plan/${plan.id}`);
      },
      [deviceId, router],
    ),
  );
  const groups = answer.data ?? [];
  const all = groups.filter((group) => group.inTheWay).flatMap((group) => others(group, group.keep));
  return (
    <Screen
      title={device.data ? `Duplicates on ${device.data.name}` : "Duplicates"}
      note="Nothing changes yet: the plan that follows shows every step first, and can be taken back."
      back={`/device/${deviceId}`}
      testID="duplicates"
      action={
        groups.length > 1 && all.length > 0 ? (
          <Button
            strong
            label={`Review removing ${count(all.length, "duplicate")}`}
            busy={draw.busy}
            onPress={() => draw.run(all, "remove")}
            testID="tidy-all"
          />
        ) : undefined
      }
    >
      {draw.problem ? <ApiProblemNote problem={draw.problem} /> : null}
      <Loaded answer={answer} what="Comparing the copies">
        {(value) =>
          value.length === 0 ? (
            <Empty title="No duplicates">
              <Body>Every name stands for one font on this device.</Body>
            </Empty>
          ) : (
            value.map((group) => (
              <Group key={group.key} group={group} onDraw={draw.run} busy={draw.busy} switches={device.data?.switches ?? false} />
            ))
          )
        }
      </Loaded>
    </Screen>
  );
}
