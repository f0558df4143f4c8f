// Loading a font file into a practice program that reads no folder: the wanted style, or any file; kept for next time when told so.
import { useCallback, useState } from "react";
import { View } from "react-native";
import { useSWRConfig } from "swr";
import { PracticeProgram } from "../../contract/practice.ts";
import { send, upload } from "../data/api.ts";
import { useAction } from "../data/useAction.ts";
import { Button } from "../parts/Button.tsx";
import { Drawer, DrawerRow } from "../parts/Drawer.tsx";
import { ApiProblemNote } from "../parts/Status.tsx";
import { Tick } from "../parts/Tick.tsx";
import { DropArea } from "../web/DropArea.tsx";

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
    <Drawer label="Its own fonts" testID="load-by-hand">
      {load.problem ? <ApiProblemNote problem={load.problem} /> : null}
      <Tick
        first
        label="Keep for next time"
        note="Otherwise the font is gone when the program closes."
        on={keep}
        onChange={setKeep}
        testID="load-keep"
      />
      <DropArea label="Choose a font file" multiple={false} onFiles={([file]) => file && load.run(file)}>
        {({ pick }) => (
          <DrawerRow>
            <View className="flex-row flex-wrap gap-2">
              {styleId !== undefined ? (
                <Button strong label="Load the wanted style" busy={load.busy} onPress={() => load.run()} testID="load-style" />
              ) : null}
              <Button label="Load a font file" busy={load.busy} onPress={pick} testID="load-file" />
            </View>
          </DrawerRow>
        )}
      </DropArea>
    </Drawer>
  );
}
