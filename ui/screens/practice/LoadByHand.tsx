// Loading a font file into a practice program that reads no folder: the wanted style, or any file; kept for next time when told so.
import { useCallback, useState } from "react";
import { View } from "react-native";
import { useSWRConfig } from "swr";
import { PracticeProgram } from "../../../contract/practice.ts";
import { send, upload } from "../../data/api.ts";
import { useAction } from "../../data/useAction.ts";
import { Button } from "../../parts/Button.tsx";
import { Drawer, DrawerRow } from "../../parts/Drawer.tsx";
import { ApiProblemNote } from "../../parts/Status.tsx";
import { Tick } from "../../parts/Tick.tsx";
import { DropArea } from "../../web/DropArea.tsx";
import { SAY } from "../../sentences/families/family.ts";

export function LoadByHand({ programId, styleId }: { programId: number; styleId: number | undefined }) {
  const { mutate } = useSWRConfig();
  const [keep, setKeep] = useState(true);
  const show = useCallback(
    (program: PracticeProgram) => mutate(`/practice/${programId}`, program, { revalidate: false }),
    [mutate, programId],
  );
  const load = useAction(
    useCallback(
      async (file?: File) => {
        const path = `/practice/${programId}/load`;
        if (file) await show(await upload(`${path}?keep=${keep ? "yes" : "no"}`, [{ name: file.name, file }], PracticeProgram));
        else await show(await send("POST", `${path}-style`, PracticeProgram, { styleId, keep }));
      },
      [programId, styleId, keep, show],
    ),
  );
  return (
    <Drawer label={SAY.itsOwnFonts} testID="load-by-hand">
      {load.problem ? <ApiProblemNote problem={load.problem} /> : null}
      <Tick first label={SAY.keepForNextTime} note={SAY.otherwiseTheFontIsGone} on={keep} onChange={setKeep} testID="load-keep" />
      <DropArea label={SAY.chooseAFontFile} multiple={false} onFiles={([file]) => file && load.run(file)}>
        {({ pick }) => (
          <DrawerRow>
            <View className="flex-row flex-wrap gap-2">
              {styleId !== undefined ? (
                <Button strong label={SAY.loadTheWantedStyle} busy={load.busy} onPress={() => load.run()} testID="load-style" />
              ) : null}
              <Button label={SAY.loadAFontFile} busy={load.busy} onPress={pick} testID="load-file" />
            </View>
          </DrawerRow>
        )}
      </DropArea>
    </Drawer>
  );
}
