// Practice devices among the devices: brought out at one tap, which says what that did and how it is taken back.
import { useCallback } from "react";
import { z } from "zod";
import { DeviceSummary } from "../../../contract/devices.ts";
import { Settings } from "../../../contract/settings.ts";
import { listWords } from "../../../core/words/words.ts";
import { get, send } from "../../data/api.ts";
import { offerUndo } from "../../data/undo.ts";
import { useAction } from "../../data/useAction.ts";
import { SAY } from "../../sentences/practice/practice.ts";

export function useBringOut() {
  return useAction(
    useCallback(async () => {
      await send("POST", "/settings", Settings, { practice: true });
      const devices = (await get("/devices", z.array(DeviceSummary))).filter(({ sort }) => sort === "practice");
      const programs = devices.reduce((sum, device) => sum + device.programs.length, 0);
      offerUndo(SAY.practiceDevicesAreHere(listWords(devices.map(({ name }) => name)), programs), () =>
        send("POST", "/settings", Settings, { practice: false }),
      );
    }, []),
  );
}
