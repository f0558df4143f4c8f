// A practice device can be made difficult, to see what happens then.
import { useCallback } from "react";
import { useSWRConfig } from "swr";
import { DeviceDetail, type PracticeState, type PracticeStateChange } from "../../../contract/devices.ts";
import { send } from "../../data/api.ts";
import { useAction } from "../../data/useAction.ts";
import { useOpen } from "../../data/page.ts";
import { Button } from "../../parts/Button.tsx";
import { Drawer, DrawerRow } from "../../parts/Drawer.tsx";
import { ApiProblemNote } from "../../parts/Status.tsx";
import { Body } from "../../parts/Text.tsx";
import { Tick } from "../../parts/Tick.tsx";
import { SAY } from "../../sentences/practice/practice.ts";

const FAULTS: readonly { key: keyof PracticeStateChange; label: string; note: string }[] = [
  { key: "away", label: SAY.cannotBeReached, note: SAY.turnedOffOrTakenAlong },
  { key: "readOnly", label: SAY.nothingMayBeWritten, note: SAY.itsFontFoldersAreRead },
  { key: "full", label: SAY.full, note: SAY.thereIsNoRoomLeft },
  { key: "locksOpenFonts", label: SAY.openProgramsHoldOnTo, note: SAY.aFontInUseCannot },
];

export function PracticeFaults({ device, state }: { device: DeviceDetail; state: PracticeState }) {
  const { mutate } = useSWRConfig();
  const any = FAULTS.some(({ key }) => state[key]);
  const [open, setOpen] = useOpen("faults");
  const { id } = device;
  const change = useAction(
    useCallback(
      async (next: PracticeStateChange) => {
        await mutate(`/devices/${id}`, await send("POST", `/devices/${id}/practice`, DeviceDetail, next), { revalidate: false });
      },
      [id, mutate],
    ),
  );
  return (
    <Drawer label={SAY.forPractising} testID="practice-faults">
      <DrawerRow first>
        <Body>{SAY.itsPasscodeIsPasscode(state.passcode, any)}</Body>
        {!open && !any ? (
          <Button className="mt-2" label={SAY.makeItDifficult} onPress={() => setOpen(true)} testID="make-difficult" />
        ) : null}
      </DrawerRow>
      {change.problem ? <ApiProblemNote problem={change.problem} /> : null}
      {open || any
        ? FAULTS.map(({ key, label, note }) => (
            <Tick
              key={key}
              label={label}
              note={note}
              on={state[key]}
              onChange={(on) => change.run({ [key]: on })}
              testID={`fault-${key}`}
            />
          ))
        : null}
    </Drawer>
  );
}
