// A family on its way to a tablet: what the profile holds, and the tablet's own steps.
import { count } from "../../../core/words/words.ts";
import { useTablet } from "../../data/hooks.ts";
import { Button } from "../../parts/Button.tsx";
import { Drawer, DrawerRow } from "../../parts/Drawer.tsx";
import { Download } from "../../parts/icons.ts";
import { Screen } from "../../parts/Screen.tsx";
import { ClearanceWarnings, Loaded } from "../../parts/Status.tsx";
import { Body, Small, Strong } from "../../parts/Text.tsx";
import { saveFrom } from "../../web/download.ts";
import { SAY } from "../../sentences/placing/tablet.ts";

function Steps({ label, steps }: { label: string; steps: readonly string[] }) {
  return (
    <Drawer label={label}>
      {steps.map((step, i) => (
        <DrawerRow key={step} first={i === 0}>
          <Body>
            {i + 1}. {step}
          </Body>
        </DrawerRow>
      ))}
    </Drawer>
  );
}

export function TabletScreen({ familyId }: { familyId: number }) {
  const answer = useTablet(familyId);
  const view = answer.data;
  return (
    <Screen
      title={view ? SAY.familyNameOnATablet(view.familyName) : SAY.onATablet}
      note={SAY.aProfileHoldsTheFonts}
      back={`/family/${familyId}`}
      testID="tablet"
      action={
        view && view.fonts.length > 0 ? (
          <Button
            strong
            icon={Download}
            label={SAY.saveTheProfileBytes(view.bytes)}
            onPress={() => saveFrom(`/api/families/${familyId}/profile`)}
            testID="save-profile"
          />
        ) : undefined
      }
    >
      <Loaded answer={answer} what={SAY.makingTheProfile}>
        {(value) => (
          <>
            <ClearanceWarnings warnings={value.warnings} />
            <Steps label={SAY.onTheTablet} steps={value.steps} />
            <Drawer label={SAY.inTheProfile} note={count(value.fonts.length, "style")}>
              {value.fonts.length === 0 ? (
                <DrawerRow first>
                  <Body>{SAY.noStyleOfThisFamily}</Body>
                </DrawerRow>
              ) : null}
              {value.fonts.map((font, i) => (
                <DrawerRow key={font.fileName} first={i === 0} testID="profile-font">
                  <Strong lines={1}>{font.name}</Strong>
                  <Small>{font.fileName}</Small>
                </DrawerRow>
              ))}
              {value.left.map((font) => (
                <DrawerRow key={font.name + font.reason}>
                  <Strong lines={1}>{SAY.leftOutName(font.name)}</Strong>
                  <Small>{font.reason}</Small>
                </DrawerRow>
              ))}
            </Drawer>
            <Steps label={SAY.toTakeItOffAgain} steps={value.removal} />
          </>
        )}
      </Loaded>
    </Screen>
  );
}
