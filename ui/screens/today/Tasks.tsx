// What to do next: one line for each kind of thing, however many families it concerns, with its one action.
import { useRouter, type Href } from "expo-router";
import { useCallback } from "react";
import { listWords } from "../../../core/words/words.ts";
import { FamilyIds } from "../../../contract/families.ts";
import type { Today, TodayTask } from "../../../contract/today.ts";
import { get } from "../../data/api.ts";
import { useChoosing } from "../../data/choosing.ts";
import { useAction } from "../../data/useAction.ts";
import { Drawer } from "../../parts/Drawer.tsx";
import { Eye, MonitorUp, RefreshCw, ScrollText, TriangleAlert, type LucideIcon } from "../../parts/icons.ts";
import { ActRow, LinkRow } from "../../parts/LinkRow.tsx";
import { ApiProblemNote } from "../../parts/Status.tsx";
import { SAY } from "../../sentences/today/today.ts";

type Group = Today["groups"][number];

/** The first names, and how many more there are. */
function namesOf(group: Group): string {
  const names = group.families.slice(0, 3).map((family) => family.name);
  const more = group.total - names.length;
  return more > 0 ? SAY.namesAndMoreMore(names.join(", "), more) : listWords(names);
}

const GROUP_WORDS: Record<string, { icon: LucideIcon; words: (n: number) => string }> = {
  sound: { icon: TriangleAlert, words: (n) => SAY.lookAtNWithDamaged(n) },
  cleared: { icon: ScrollText, words: (n) => SAY.sayWhatTheLicenceOf(n) },
  placed: { icon: MonitorUp, words: (n) => SAY.placeNOnADevice(n) },
};

/** Families that wait at one station. Placing chooses all of them, so that the next tap places them. */
function GroupRow({ group, first }: { group: Group; first: boolean }) {
  const router = useRouter();
  const { put } = useChoosing("families");
  const choose = useAction(
    useCallback(async () => {
      const { ids } = await get(`/families/ids?at=${group.station}`, FamilyIds);
      put(ids.map(String));
      router.push(`/families?at=${group.station}`);
    }, [group.station, put, router]),
  );
  const known = GROUP_WORDS[group.station];
  if (!known) return null;
  const { icon, words } = known;
  const [only] = group.families;
  const testID = `task-${group.station}`;
  if (group.total === 1 && only)
    return (
      <LinkRow
        first={first}
        icon={icon}
        label={words(1)}
        note={`${only.name}: ${only.words}`}
        href={`/family/${only.id}`}
        testID={testID}
      />
    );
  if (group.station !== "placed")
    return (
      <LinkRow
        first={first}
        icon={icon}
        label={words(group.total)}
        note={namesOf(group)}
        href={`/families?at=${group.station}`}
        testID={testID}
      />
    );
  return (
    <>
      {choose.problem ? <ApiProblemNote problem={choose.problem} /> : null}
      <ActRow
        first={first}
        icon={icon}
        label={words(group.total)}
        note={namesOf(group)}
        onPress={choose.run}
        disabled={choose.busy}
        testID={testID}
      />
    </>
  );
}

const TASK_WORDS: Record<TodayTask["state"], { icon: LucideIcon; words: (task: TodayTask) => string; href: (task: TodayTask) => Href }> = {
  swapped: {
    icon: TriangleAlert,
    words: ({ families: n, programName }) => SAY.programNameDrawsAnotherFontFor(programName, n),
    href: ({ programId }) => `/sightings?program=${programId}&state=swapped`,
  },
  reopen: {
    icon: RefreshCw,
    words: ({ families: n, programName }) => SAY.reopenProgramNameN(programName, n),
    href: ({ programId }) => `/check?program=${programId}`,
  },
  due: {
    icon: Eye,
    words: ({ families: n, programName }) => SAY.checkNInProgramName(n, programName),
    href: ({ programId }) => `/check?program=${programId}`,
  },
};

export function Tasks({ groups, tasks }: Pick<Today, "groups" | "tasks">) {
  if (groups.length + tasks.length === 0) return null;
  return (
    <Drawer label={SAY.whatToDoNext} testID="tasks">
      {groups.map((group, i) => (
        <GroupRow key={group.station} group={group} first={i === 0} />
      ))}
      {tasks.map((task, i) => {
        const { icon, words, href } = TASK_WORDS[task.state];
        return (
          <LinkRow
            key={`${task.programId}/${task.state}`}
            first={groups.length === 0 && i === 0}
            icon={icon}
            label={words(task)}
            note={SAY.onDeviceName(task.deviceName)}
            href={href(task)}
            testID={`task-${task.state}-${task.programName}`}
          />
        );
      })}
    </Drawer>
  );
}
