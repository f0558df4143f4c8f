// Choosing where a family goes, and where it is taken off. What that would do is shown on the plans that follow.
import { SORT_WORDS } from "../../data/devices.ts";
import { useFamily } from "../../data/hooks.ts";
import { Button } from "../../parts/Button.tsx";
import { Drawer } from "../../parts/Drawer.tsx";
import { Luggage, Tablet } from "../../parts/icons.ts";
import { ActRow, LinkRow } from "../../parts/LinkRow.tsx";
import { InRow, Screen } from "../../parts/Screen.tsx";
import { saveFrom } from "../../web/download.ts";
import { PlaceChoices, ShowPlan, usePlacing } from "./PlaceForm.tsx";
import { SAY } from "../../sentences/placing/place.ts";

export function PlaceScreen({ familyId }: { familyId: number }) {
  const family = useFamily(familyId, "");
  const placements = family.data?.placements ?? [];
  const there = [...new Set(placements.map((placement) => placement.deviceId))];
  const placing = usePlacing({ what: { familyIds: [familyId] }, many: false });
  const { chosen, plan, draw } = placing;
  const holding = chosen.filter(({ id }) => there.includes(id));
  const on = placements.some((placement) => placement.on && holding.some(({ id }) => id === placement.deviceId));
  const switching = holding.filter((device) => device.switches);
  return (
    <Screen
      title={SAY.place(family.data?.name)}
      note={SAY.nothingChangesYetTheNext}
      back={`/family/${familyId}`}
      testID="place-screen"
      action={
        <>
          <ShowPlan placing={placing} />
          {holding.length > 0 ? (
            <InRow>
              {switching.length > 0 ? (
                <Button
                  label={on ? SAY.planTurningItOff : SAY.planTurningItOn}
                  disabled={plan.busy}
                  onPress={() => draw(on ? "switch-off" : "switch-on", switching)}
                  className="flex-1"
                  testID="draw-switch"
                />
              ) : null}
              <Button
                label={SAY.planTakingItOff}
                disabled={plan.busy}
                onPress={() => draw("remove", holding)}
                className="flex-1"
                testID="draw-removal"
              />
            </InRow>
          ) : null}
        </>
      }
    >
      <PlaceChoices
        placing={placing}
        noteOf={(device) => {
          const what = device.programs.map((program) => program.name).join(", ") || SORT_WORDS[device.sort];
          return there.includes(device.id) ? SAY.thereAlready(what) : what;
        }}
      />
      <Drawer label={SAY.onADeviceThatIs}>
        <LinkRow
          first
          href={`/tablet?family=${familyId}`}
          icon={Tablet}
          label={SAY.aTabletByAProfile}
          note={SAY.aFileThatTheTablet}
          testID="to-tablet"
        />
        <ActRow
          icon={Luggage}
          label={SAY.aMachineWithoutAConnection}
          note={SAY.oneZipFontsPapersProfiles}
          onPress={() => saveFrom(`/api/kit?families=${familyId}`)}
          testID="save-kit"
        />
      </Drawer>
    </Screen>
  );
}
