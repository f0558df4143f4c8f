// Pairing: opening Buvano to the network, inviting a device by address and code, and sending devices away again.
import { useRouter } from "expo-router";
import { useCallback, useEffect, useState } from "react";
import { Text, View } from "react-native";
import { useSWRConfig } from "swr";
import { PairingView } from "../../contract/pairing.ts";
import { send } from "../data/api.ts";
import { when } from "../data/devices.ts";
import { usePairing } from "../data/hooks.ts";
import { offerUndo } from "../data/undo.ts";
import { useAction } from "../data/useAction.ts";
import { Button } from "../parts/Button.tsx";
import { Drawer, DrawerRow } from "../parts/Drawer.tsx";
import { Wifi, WifiOff } from "../parts/icons.ts";
import { QrCode } from "../parts/QrCode.tsx";
import { Screen } from "../parts/Screen.tsx";
import { ApiProblemNote, Loaded, ProblemNote } from "../parts/Status.tsx";
import { Body, Small, Strong } from "../parts/Text.tsx";

/** Seconds until a moment, counted down. */
function useSecondsUntil(iso: string | null): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    if (iso === null) return;
    const timer = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(timer);
  }, [iso]);
  return iso === null ? 0 : Math.max(0, Math.ceil((Date.parse(iso) - now) / 1000));
}

function Invitation({ view, onInvite, busy }: { view: PairingView; onInvite: () => void; busy: boolean }) {
  const left = useSecondsUntil(view.expiresAt);
  const [address, ...more] = view.addresses;
  const valid = view.code !== null && left > 0;
  return (
    <Drawer label="Invite a device" testID="invitation">
      <DrawerRow first>
        <Strong>1. On the other device, open this address</Strong>
        <View className="my-3 items-center">{address ? <QrCode text={address} label={`QR code of ${address}`} /> : null}</View>
        <Body className="text-center" testID="pair-address">
          {address}
        </Body>
        {more.length > 0 ? <Small className="text-center">Or: {more.join(", ")}</Small> : null}
      </DrawerRow>
      <DrawerRow>
        <Strong>2. Type this code there</Strong>
        {valid ? (
          <View className="mt-2" role="status">
            <Text className="py-2 text-center font-heading text-[44px] tracking-[6px] text-ink" testID="pair-code">
              {view.code}
            </Text>
            <Small className="text-center">
              Good for one device, for {Math.floor(left / 60)}:{String(left % 60).padStart(2, "0")} more.
            </Small>
          </View>
        ) : (
          <View className="mt-2 gap-2">
            <Body>{view.paired ? `${view.paired} is paired now. A new device needs a new code.` : "No code is valid at the moment."}</Body>
            <Button strong label="Show a code" busy={busy} onPress={onInvite} testID="invite" />
          </View>
        )}
      </DrawerRow>
    </Drawer>
  );
}

export function PairingScreen() {
  const answer = usePairing();
  const router = useRouter();
  const { mutate } = useSWRConfig();
  const act = useAction(
    useCallback(
      async (path: string, body?: object) => {
        await mutate("/pairing", await send("POST", `/pairing/${path}`, PairingView, body), { revalidate: false });
      },
      [mutate],
    ),
  );
  const unpair = useAction(
    useCallback(
      async (id: number, name: string) => {
        await mutate("/pairing", await send("POST", `/pairing/${id}/revoke`, PairingView), { revalidate: false });
        offerUndo(`${name} is unpaired.`, async () => {
          await mutate("/pairing", await send("POST", `/pairing/${id}/restore`, PairingView), { revalidate: false });
        });
      },
      [mutate],
    ),
  );
  return (
    <Screen
      title="Pair a device"
      note="A tablet, phone or other computer on your network opens Buvano, sees what is wanted on it, and says what it has."
      back="/devices"
      testID="pairing"
    >
      {act.problem ? <ApiProblemNote problem={act.problem} /> : null}
      <Loaded answer={answer} what="Looking at the network">
        {(view) => (
          <>
            {view.problem ? <ProblemNote message={view.problem.message} next={view.problem.next} /> : null}
            {view.network ? (
              <Invitation view={view} busy={act.busy} onInvite={() => act.run("invite")} />
            ) : (
              <Drawer label="Network" testID="network-shut">
                <DrawerRow first className="gap-3">
                  <Body>
                    Buvano answers on this computer only. Opened to the network, other devices reach one page of it: where they show a code
                    and then do their own work, nothing else. Use it on a network you trust; what is sent there is not encrypted.
                  </Body>
                  <Button
                    strong
                    icon={Wifi}
                    label="Open to my network"
                    busy={act.busy}
                    onPress={() => act.run("network", { open: true })}
                    testID="open-network"
                  />
                </DrawerRow>
              </Drawer>
            )}
            <Drawer label="Paired devices" testID="paired-devices">
              {view.devices.length === 0 ? (
                <DrawerRow first>
                  <Body>None yet.</Body>
                </DrawerRow>
              ) : (
                view.devices.map((device, i) => (
                  <DrawerRow key={device.id} first={i === 0} testID="paired-device">
                    <Strong lines={1}>{device.name}</Strong>
                    <Small>
                      Paired {when(device.pairedAt)}, last here {when(device.seenAt)}
                    </Small>
                    <View className="mt-2 flex-row flex-wrap gap-2">
                      <Button label="See it" onPress={() => router.push(`/device/${device.id}`)} />
                      <Button
                        label="Unpair"
                        hint={device.name}
                        busy={unpair.busy}
                        onPress={() => unpair.run(device.id, device.name)}
                        testID="revoke"
                      />
                    </View>
                  </DrawerRow>
                ))
              )}
            </Drawer>
            {view.network ? (
              <Button
                icon={WifiOff}
                label="Close to the network"
                busy={act.busy}
                onPress={() => act.run("network", { open: false })}
                testID="close-network"
              />
            ) : null}
          </>
        )}
      </Loaded>
    </Screen>
  );
}
