// What a cutting program's machine would follow: the text on its page as it stands, or a file that is given to it.
import { useCallback, useState } from "react";
import { View } from "react-native";
import { MachineView } from "../../../contract/cutting.ts";
import type { PracticeText } from "../../../contract/practice.ts";
import { send, upload } from "../../data/api.ts";
import { useAction } from "../../data/useAction.ts";
import { Button } from "../../parts/Button.tsx";
import { Drawer } from "../../parts/Drawer.tsx";
import { FolderOpen, Scissors } from "../../parts/icons.ts";
import { ApiProblemNote } from "../../parts/Status.tsx";
import { Body, Small, Strong } from "../../parts/Text.tsx";
import { DropArea } from "../../web/DropArea.tsx";
import { SAY } from "../../sentences/practice/practice.ts";

function Lines({ lines, of }: { lines: MachineView; of: string }) {
  const spare = Math.max(2, lines.widthMm * 0.02);
  const mark = Math.max(0.8, lines.widthMm / 70);
  return (
    <View testID="machine-lines" role="status">
      <svg
        role="img"
        aria-label={SAY.whatTheMachineCutsOf(of)}
        viewBox={`${-spare} ${-spare} ${lines.widthMm + 2 * spare} ${lines.heightMm + 2 * spare}`}
        style={{ display: "block", width: "100%", maxHeight: 360, background: "#ffffff" }}
      >
        <path d={lines.path} fill="none" stroke="#1d1a16" strokeWidth={1.2} vectorEffect="non-scaling-stroke" />
        {lines.crossings.map(({ x, y }, i) => (
          <circle key={i} cx={x} cy={y} r={mark} fill="none" stroke="#8a1d0f" strokeWidth={2} vectorEffect="non-scaling-stroke" />
        ))}
      </svg>
      <View className="mt-2">
        <Strong>{lines.crossed === 0 ? SAY.cleanNoLineCrossesAnother : SAY.theBladeCrossesItsOwn(lines.crossed)}</Strong>
        <Small>
          {SAY.itOutlinesLengthMmMmTo(of, lines.outlines, lines.lengthMm.toFixed(0), lines.widthMm.toFixed(1), lines.heightMm.toFixed(1))}
        </Small>
        {lines.crossed > 0 ? <Body className="mt-1">{SAY.joinTheLettersOnThe}</Body> : null}
      </View>
    </View>
  );
}

export function PracticeMachine({ programId, typed }: { programId: number; typed: PracticeText }) {
  const [shown, setShown] = useState<{ lines: MachineView; of: string }>();
  const page = useAction(
    useCallback(async () => {
      setShown({ lines: await send("POST", `/practice/${programId}/machine`, MachineView, typed), of: SAY.theTextOnThePage });
    }, [programId, typed]),
  );
  const file = useAction(
    useCallback(
      async ([one]: File[]) => {
        if (one)
          setShown({
            lines: await upload(`/practice/${programId}/machine-file`, [{ name: one.name, file: one }], MachineView),
            of: one.name,
          });
      },
      [programId],
    ),
  );
  const problem = page.problem ?? file.problem;
  return (
    <Drawer label={SAY.whatItsMachineCuts} testID="machine">
      <View className="p-3">
        {problem ? <ApiProblemNote problem={problem} /> : null}
        <DropArea label={SAY.chooseACutFileSvg} multiple={false} onFiles={file.run}>
          {({ pick }) => (
            <View className="mb-2 flex-row flex-wrap gap-2">
              <Button label={SAY.cutTheTextOnThe} icon={Scissors} busy={page.busy} onPress={page.run} testID="machine-page" />
              <Button label={SAY.cutAFileSvg} icon={FolderOpen} busy={file.busy} onPress={pick} testID="machine-file" />
            </View>
          )}
        </DropArea>
        {shown ? <Lines lines={shown.lines} of={shown.of} /> : <Small>{SAY.thisProgramSendsOutlinesAs}</Small>}
      </View>
    </Drawer>
  );
}
