// What somebody saw in a program with their own eyes, and a page that helps to see it.
import { useCallback, useState } from "react";
import { View } from "react-native";
import { ProgramSummary } from "../../contract/program.ts";
import { Sighting, LookRequest, type Cell } from "../../contract/sighting.ts";
import { send } from "../data/api.ts";
import { who } from "../data/who.ts";
import { useAction } from "../data/useAction.ts";
import { Button } from "../parts/Button.tsx";
import { Choice } from "../parts/Choice.tsx";
import { Drawer, DrawerRow } from "../parts/Drawer.tsx";
import { TextField, useContractForm } from "../parts/form.tsx";
import { Download } from "../parts/icons.ts";
import { ApiProblemNote } from "../parts/Status.tsx";
import { Body } from "../parts/Text.tsx";
import { saveFrom } from "../web/download.ts";

export const PROBES = {
  odt: "Text document (.odt)",
  docx: "Text document (.docx)",
  rtf: "Rich text (.rtf)",
  svg: "Drawing (.svg)",
  html: "Web page (.html)",
  ass: "Subtitles (.ass)",
  txt: "Plain text (.txt)",
} as const;

export function LookDrawer({ cell, onSeen }: { cell: Cell; onSeen: (sighting: Sighting) => void }) {
  const form = useContractForm(LookRequest.pick({ who: true }).required(), { who: who.use() });
  /** What looking shows of the program: when it reads fonts, otherwise than was thought. */
  const [learnt, setLearnt] = useState<"always" | "start">();
  const { styleId, programId } = cell;
  const look = useAction(
    useCallback(
      async (saw: LookRequest["saw"], name: string) => {
        const early = saw === "there" && cell.state === "reopen";
        const late = saw === "not-there" && cell.state === "due" && cell.readsWhen === "always";
        setLearnt(cell.practice ? undefined : early ? "always" : late ? "start" : undefined);
        onSeen(await send("POST", `/cells/${styleId}/${programId}/look`, Sighting, { saw, who: name }));
      },
      [styleId, programId, cell.state, cell.readsWhen, cell.practice, onSeen],
    ),
  );
  const say = (saw: LookRequest["saw"]) => void form.handleSubmit(({ who: name }) => look.run(saw, name))();
  const learn = useAction(
    useCallback(async () => {
      await send("POST", `/programs/${programId}/learn`, ProgramSummary, { readsWhen: learnt });
      setLearnt(undefined);
    }, [programId, learnt]),
  );
  return (
    <Drawer label="Check it yourself" testID="look-drawer">
      {(look.problem ?? learn.problem) ? <ApiProblemNote problem={(look.problem ?? learn.problem)!} /> : null}
      <DrawerRow first>
        <TextField form={form} name="who" label="Your name" onChanged={who.set} hint="Kept with what was seen." testID="look-who" />
        <View className="flex-row flex-wrap gap-2">
          <Button label="It is there" busy={look.busy} onPress={() => say("there")} testID="saw-there" />
          <Button label="It is not listed" busy={look.busy} onPress={() => say("not-there")} testID="saw-not-there" />
          <Button label="It looks wrong" busy={look.busy} onPress={() => say("wrong")} testID="saw-wrong" />
        </View>
        {learnt ? (
          <View className="mt-3 items-start gap-2" role="status">
            <Body>
              {learnt === "always"
                ? `It appeared without ${cell.programName} being reopened.`
                : `${cell.programName} was thought to notice new fonts while it is open.`}
            </Body>
            <Button
              label={learnt === "always" ? "Remember that it notices by itself" : "Remember that it must be reopened"}
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
    <Drawer label="A page to try it with" testID="probe-drawer">
      <DrawerRow first className="gap-2">
        <Body>
          It sets every style of the family by the name {cell.programName} knows it by. Open it there, look, and export it as evidence.
        </Body>
        <View className="flex-row flex-wrap gap-2">
          <Choice label="Kind of page" words={PROBES} value={kind} onChange={(next) => next && setKind(next)} testID="probe-kind" />
          <Button
            icon={Download}
            label="Save the page"
            onPress={() => saveFrom(`/api/programs/${cell.programId}/probe?family=${cell.familyId}&kind=${kind}`)}
            testID="save-probe"
          />
        </View>
      </DrawerRow>
    </Drawer>
  );
}
