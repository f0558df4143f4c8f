// A picture of known words as evidence: it is shown with the likeliest font's outlines laid over it, and the likeness of those that come next.
import { useCallback, useEffect, useState } from "react";
import { View } from "react-native";
import Svg, { Image, Path } from "react-native-svg";
import { PictureResult, type Cell, type Sighting } from "../../../contract/sightings.ts";
import { TELLING_WORDS } from "../../../core/evidence/telling.ts";
import { upload } from "../../data/api.ts";
import { useAction } from "../../data/useAction.ts";
import { Button } from "../../parts/Button.tsx";
import { Drawer, DrawerRow } from "../../parts/Drawer.tsx";
import { Field } from "../../parts/Field.tsx";
import { ApiProblemNote } from "../../parts/Status.tsx";
import { Body, Small } from "../../parts/Text.tsx";
import { usePalette } from "../../theme/theme.ts";
import { DropArea } from "../../web/DropArea.tsx";
import { SAY } from "../../sentences/sightings/cell.ts";

interface Props {
  cell: Cell;
  /** A picture that was given elsewhere on the screen; taken once. */
  given: File | undefined;
  onSeen: (sighting: Sighting) => void;
}

export function PictureDrawer({ cell, given, onSeen }: Props) {
  const palette = usePalette();
  const [words, setWords] = useState(TELLING_WORDS);
  const [shown, setShown] = useState<{ result: PictureResult; url: string }>();
  const { styleId, programId } = cell;
  const give = useAction(
    useCallback(
      async (file: File) => {
        setShown(undefined);
        const path = `/cells/${styleId}/${programId}/picture?${new URLSearchParams({ words })}`;
        const result = await upload(path, [{ name: file.name, file }], PictureResult);
        setShown({ result, url: URL.createObjectURL(file) });
        if (result.sighting) onSeen(result.sighting);
      },
      [styleId, programId, words, onSeen],
    ),
  );
  const { run } = give;
  const [taken, setTaken] = useState<File>();
  useEffect(() => {
    if (!given || given === taken) return;
    setTaken(given);
    run(given);
  }, [given, taken, run]);
  return (
    <Drawer label={SAY.aPictureOfIt} testID="picture-drawer">
      {give.problem ? <ApiProblemNote problem={give.problem} /> : null}
      <DropArea label={SAY.chooseAPicture} multiple={false} onFiles={([file]) => file && give.run(file)}>
        {({ pick }) => (
          <DrawerRow first>
            <Field label={SAY.wordsInThePictureOne} hint={SAY.setThemLargeInThe} value={words} onChange={setWords} testID="picture-words" />
            <View className="items-start">
              <Button label={SAY.addAPicture} busy={give.busy} disabled={words.trim() === ""} onPress={pick} testID="give-picture" />
            </View>
          </DrawerRow>
        )}
      </DropArea>
      {shown ? (
        <DrawerRow testID="picture-result">
          <View role="status">
            <Body className="mb-2">{shown.result.sentence}</Body>
          </View>
          <View className="w-full border border-edge" style={{ aspectRatio: shown.result.width / shown.result.height }}>
            <Svg
              width="100%"
              height="100%"
              viewBox={`0 0 ${shown.result.width} ${shown.result.height}`}
              role="img"
              aria-label={SAY.thePictureWithLaidOver(shown.result.scores[0]?.name)}
            >
              <Image href={shown.url} width={shown.result.width} height={shown.result.height} />
              <Path d={shown.result.frame} fill="none" stroke={palette.persimmon} strokeWidth={shown.result.width / 400} />
              <Path d={shown.result.overlay} fill={palette.verdigris} fillOpacity={0.55} fillRule="nonzero" />
            </Svg>
          </View>
          <Small className="mt-2">{shown.result.scores.map(({ name, score }) => `${name} ${Math.round(score * 100)} %`).join(" · ")}</Small>
        </DrawerRow>
      ) : null}
    </Drawer>
  );
}
