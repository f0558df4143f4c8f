// All fonts of a job on one device: placed, turned on or off, taken off together, always through a plan; or carried in a kit.
import { useState } from "react";
import { View } from "react-native";
import type { JobDetail } from "../../../contract/jobs.ts";
import { type PlanRequest } from "../../../contract/placing.ts";
import { useDevices } from "../../data/hooks.ts";
import { Button } from "../../parts/Button.tsx";
import { Choice } from "../../parts/Choice.tsx";
import { Drawer, DrawerRow } from "../../parts/Drawer.tsx";
import { Luggage, MonitorUp } from "../../parts/icons.ts";
import { ApiProblemNote } from "../../parts/Status.tsx";
import { saveFrom } from "../../web/download.ts";
import { PlaceSheet } from "../placing/PlaceSheet.tsx";
import { usePlanning } from "../placing/planning.ts";
import { SAY } from "../../sentences/jobs/job.ts";

const ACTIONS: readonly { action: PlanRequest["action"]; label: string; switches: boolean }[] = [
  { action: "switch-on", label: SAY.turnThemOn, switches: true },
  { action: "switch-off", label: SAY.turnThemOff, switches: true },
  { action: "remove", label: SAY.takeThemOff, switches: false },
];

export function JobDevices({ job }: { job: JobDetail }) {
  const devices = useDevices();
  const [chosen, setChosen] = useState<string>();
  const wanted = chosen ?? String(job.deviceIds[0] ?? devices.data?.[0]?.id ?? "");
  const device = devices.data?.find((one) => String(one.id) === wanted);
  const [placing, setPlacing] = useState(false);
  const draw = usePlanning();
  if (!devices.data || job.families.length === 0) return null;
  return (
    <Drawer label={SAY.allItsFontsOnA} testID="job-devices">
      {draw.problem ? <ApiProblemNote problem={draw.problem} /> : null}
      <DrawerRow first className="gap-2">
        <Choice
          label={SAY.onWhichDevice}
          words={Object.fromEntries(devices.data.map((one) => [String(one.id), one.name]))}
          value={wanted}
          onChange={setChosen}
          testID="job-device"
        />
        <View className="flex-row flex-wrap gap-2">
          <Button icon={MonitorUp} label={SAY.placeThem} onPress={() => setPlacing(true)} testID="job-place" />
          {ACTIONS.filter((one) => !one.switches || device?.switches).map(({ action, label }) => (
            <Button
              key={action}
              label={label}
              disabled={draw.busy || !device}
              onPress={() => device && draw.run({ deviceId: device.id, action, jobId: job.id })}
              testID={`job-${action}`}
            />
          ))}
          <Button
            icon={Luggage}
            label={SAY.kitToCarry}
            onPress={() => saveFrom(`/api/kit?families=${job.families.map((family) => family.id).join(",")}`)}
            testID="job-kit"
          />
        </View>
      </DrawerRow>
      {placing ? <PlaceSheet title={SAY.placeAllOf(job.name)} what={{ jobId: job.id }} onClose={() => setPlacing(false)} /> : null}
    </Drawer>
  );
}
