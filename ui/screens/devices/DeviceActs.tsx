// What can be done with several fonts of a device: turned on or off, taken off. A plan shows it first.
import { useState } from "react";
import type { DeviceDetail } from "../../../contract/devices.ts";
import type { PlanRequest } from "../../../contract/placing.ts";
import { fontOfKey } from "../../data/devices.ts";
import type { Choosing } from "../../data/choosing.ts";
import { Button } from "../../parts/Button.tsx";
import { ChooseBar } from "../../parts/ChooseBar.tsx";
import { Power, Trash2 } from "../../parts/icons.ts";
import { ApiProblemNote } from "../../parts/Status.tsx";
import { usePlanning } from "../placing/planning.ts";
import { SAY } from "../../sentences/devices/device.ts";

export function DeviceActs({ device, choosing, onAll }: { device: DeviceDetail; choosing: Choosing; onAll: () => void }) {
  const { chosen, end } = choosing;
  const plan = usePlanning();
  const [asked, setAsked] = useState<PlanRequest["action"]>();
  if (!chosen) return null;
  const files = [...chosen.keys].map(fontOfKey);
  const none = files.length === 0;
  const act = (action: PlanRequest["action"]) => {
    setAsked(action);
    plan.run({ deviceId: device.id, action, files });
  };
  const busy = (action: PlanRequest["action"]) => plan.busy && asked === action;
  return (
    <ChooseBar
      words={none ? SAY.chooseFonts : SAY.filesChosen(files.length)}
      all={files.length < device.total ? { label: SAY.allTotal(device.total), onPress: onAll } : undefined}
      onEnd={end}
    >
      {plan.problem ? <ApiProblemNote problem={plan.problem} /> : null}
      {device.switches ? (
        <>
          <Button
            icon={Power}
            label={SAY.turnOff}
            disabled={none}
            busy={busy("switch-off")}
            onPress={() => act("switch-off")}
            className="flex-1"
            testID="fonts-off"
          />
          <Button
            icon={Power}
            label={SAY.turnOn}
            disabled={none}
            busy={busy("switch-on")}
            onPress={() => act("switch-on")}
            className="flex-1"
            testID="fonts-on"
          />
        </>
      ) : null}
      <Button
        icon={Trash2}
        label={SAY.takeOff}
        disabled={none}
        busy={busy("remove")}
        onPress={() => act("remove")}
        className="flex-1"
        testID="fonts-remove"
      />
    </ChooseBar>
  );
}
