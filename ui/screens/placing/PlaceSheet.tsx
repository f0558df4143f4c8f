// Where several families or styles go: for whom, and on which device. The plan follows.
import { useState } from "react";
import type { ChosenFamilies } from "../../../contract/families.ts";
import type { PlanRequest } from "../../../contract/placing.ts";
import { Drawer } from "../../parts/Drawer.tsx";
import { ForWhom } from "../../parts/ForWhom.tsx";
import { MonitorUp } from "../../parts/icons.ts";
import { ActRow } from "../../parts/LinkRow.tsx";
import { Sheet } from "../../parts/Sheet.tsx";
import { ApiProblemNote, Waiting } from "../../parts/Status.tsx";
import { usePlanning } from "./planning.ts";
import { SAY } from "../../sentences/placing/place.ts";

interface Props {
  title: string;
  what: Pick<PlanRequest, "familyIds" | "styleIds">;
  devices: ChosenFamilies["devices"] | undefined;
  onClose: () => void;
}

export function PlaceSheet({ title, what, devices, onClose }: Props) {
  const [account, setAccount] = useState<"me" | "everyone">("me");
  const plan = usePlanning();
  return (
    <Sheet title={title} note={SAY.nothingChangesYetThePlan} onClose={onClose} testID="place-sheet">
      {plan.problem ? <ApiProblemNote problem={plan.problem} /> : null}
      {devices ? (
        <Drawer label={SAY.onWhichDevice}>
          {devices.map((device, i) => (
            <ActRow
              key={device.id}
              first={i === 0}
              icon={MonitorUp}
              label={device.name}
              note={device.on + device.off > 0 ? SAY.offOfThemThereAlready(device.on, device.off) : SAY.noneOfThemThereYet}
              disabled={plan.busy}
              onPress={() => plan.run({ deviceId: device.id, action: "place", account, ...what })}
              testID={`place-on-${device.name}`}
            />
          ))}
        </Drawer>
      ) : (
        <Waiting what={SAY.lookingAtTheDevices} />
      )}
      <ForWhom account={account} onChange={setAccount} everyone={SAY.whereADeviceHasAccounts} />
    </Sheet>
  );
}
