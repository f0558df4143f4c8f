// What evidence showed, and what has to be answered before it is recorded.
import { View } from "react-native";
import type { EvidenceAnswer, EvidenceFont, Sighting } from "../../../contract/sightings.ts";
import { Button } from "../../parts/Button.tsx";
import { Drawer, DrawerRow } from "../../parts/Drawer.tsx";
import { ResultMark, StateMark } from "../../parts/Marks.tsx";
import { Body, Small, Strong } from "../../parts/Text.tsx";
import { useIntoView } from "../../web/intoView.ts";
import { SAY } from "../../sentences/sightings/cell.ts";

const RESULT_LABELS: Record<Sighting["means"], string> = {
  eye: SAY.whatWasSeen,
  file: SAY.whatTheEvidenceShows,
  device: SAY.whatTheDeviceFound,
};

function Fonts({ fonts }: { fonts: readonly EvidenceFont[] }) {
  return fonts.map((font) => (
    <DrawerRow key={font.name + font.type}>
      <Strong>{font.name || SAY.aFontWithoutAName}</Strong>
      <Small>
        {font.type}, {font.embedded ? (font.subset ? SAY.embeddedInPart : "embedded") : SAY.onlyNamedNotEmbedded}
      </Small>
    </DrawerRow>
  ));
}

export function Result({ sighting }: { sighting: Sighting }) {
  const place = useIntoView();
  return (
    <View ref={place} role="status">
      <Drawer label={RESULT_LABELS[sighting.means]} testID="evidence-result">
        <DrawerRow first>
          <ResultMark result={sighting.result} />
          <Body className="mt-2">{sighting.sentence}</Body>
        </DrawerRow>
        <Fonts fonts={sighting.fonts} />
      </Drawer>
    </View>
  );
}

const OPEN_WORDS = { "cannot-tell": SAY.cannotTell, "not-in-it": SAY.notInIt } as const;

/** What a file says that was not recorded: it does not tell, or may not belong here. */
export function Doubt({
  answer,
  busy,
  onSure,
  onAnother,
}: {
  answer: EvidenceAnswer;
  busy: boolean;
  onSure: () => void;
  onAnother: () => void;
}) {
  const word = answer.state === "cannot-tell" || answer.state === "not-in-it" ? OPEN_WORDS[answer.state] : SAY.notRecordedYet;
  return (
    <Drawer label={SAY.whatTheEvidenceShows} testID="evidence-doubt">
      <DrawerRow first>
        <StateMark state="due" words={word} />
        <View role="status">
          <Body className="mt-2">{answer.question || answer.reason}</Body>
          {answer.next ? <Body className="mt-1">{answer.next}</Body> : null}
        </View>
        {answer.question ? (
          <View className="mt-3 flex-row flex-wrap gap-2">
            <Button
              label={answer.state === "not-in-it" ? SAY.recordAsSwapped : SAY.recordIt}
              busy={busy}
              onPress={onSure}
              testID="evidence-sure"
            />
            <Button label={SAY.itIsAnotherFile} onPress={onAnother} testID="evidence-another" />
          </View>
        ) : null}
      </DrawerRow>
      <Fonts fonts={answer.fonts} />
    </Drawer>
  );
}
