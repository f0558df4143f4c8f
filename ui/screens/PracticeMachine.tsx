// What a cutting program's machine would follow: the text on its page as it stands, or a file that is given to it.
import { useCallback, useState } from "react";
import { View } from "react-native";
import { MachineView } from "../../contract/cut.ts";
import type { PracticeText } from "../../contract/practice.ts";
import { count } from "../../core/words/words.ts";
import { send, upload } from "../data/api.ts";
import { useAction } from "../data/useAction.ts";
import { Button } from "../parts/Button.tsx";
import { Drawer } from "../parts/Drawer.tsx";
import { FolderOpen, Scissors } from "../parts/icons.ts";
import { ApiProblemNote } from "../parts/Status.tsx";
import { Body, Small, Strong } from "../parts/Text.tsx";
import { DropArea } from "../web/DropArea.tsx";

function Lines({ lines, of }: { lines: MachineView; of: string }) {
  const spare = Math.max(2, lines.widthMm * 0.02);
  const mark = Math.max(0.8, lines.widthMm / 70);
  return (
    <View testID="machine-lines" role="status">
      <svg
        role="img"
        aria-label={`What the machine cuts of ${of}`}
        viewBox={`${-spare} ${-spare} ${lines.widthMm + 2 * spare} ${lines.heightMm + 2 * spare}`}
        style={{ display: "block", width: "100%", maxHeight: 360, background: "#ffffff" }}
      >
        <path d={lines.path} fill="none" stroke="#1d1a16" strokeWidth={1.2} vectorEffect="non-scaling-stroke" />
        {lines.crossings.map(({ x, y }, i) => (
          <circle key={i} cx={x} cy={y} r={mark} fill="none" stroke="#8a1d0f" strokeWidth={2} vectorEffect="non-scaling-stroke" />
        ))}
      </svg>
      <View className="mt-2">
        <Strong>
          {lines.crossed === 0 ? "Clean: no line crosses another." : `The blade crosses its own lines at ${count(lines.crossed, "place")}.`}
        </Strong>
        <Small>
          {`${of}: ${count(lines.outlines, "outline")}, ${lines.lengthMm.toFixed(0)} mm to cut, ${lines.widthMm.toFixed(1)} × ${lines.heightMm.toFixed(1)} mm.`}
        </Small>
        {lines.crossed > 0 ? (
          <Body className="mt-1">Join the letters on the bench with Cut, and give that file to this program.</Body>
        ) : null}
      </View>
    </View>
  );
}

export function PracticeMachine({ programId, typed }: { programId: number; typed: PracticeText }) {
  const [shown, setShown] = useState<{ lines: MachineView; of: string }>();
  const page = useAction(
    useCallback(async () => {
      setShown({ lines: await send("POST", `/practice/${programId}/machine`, MachineView, typed), of: "The text on the page" });
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
    <Drawer label="What its machine cuts" testID="machine">
      <View className="p-3">
        {problem ? <ApiProblemNote problem={problem} /> : null}
        <DropArea label="Choose a cut file (SVG)" multiple={false} onFiles={file.run}>
          {({ pick }) => (
            <View className="mb-2 flex-row flex-wrap gap-2">
              <Button label="Cut the text on the page" icon={Scissors} busy={page.busy} onPress={page.run} testID="machine-page" />
              <Button label="Cut a file (SVG)" icon={FolderOpen} busy={file.busy} onPress={pick} testID="machine-file" />
            </View>
          )}
        </DropArea>
        {shown ? <Lines lines={shown.lines} of={shown.of} /> : <Small>This program sends outlines as they stand; nothing is joined.</Small>}
      </View>
    </Drawer>
  );
}
