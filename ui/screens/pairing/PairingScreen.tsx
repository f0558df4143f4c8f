// Pairing: opening Buvano to the network, inviting a device by address and code, and sending devices away again.
import { useRouter } from "expo-router";
import { useCallback, useEffect, useState } from "react";
import { Text, View } from "react-native";
import { useSWRConfig } from "swr";
import { PairingView } from "../../../contract/pairing.ts";
import { send } from "../../data/api.ts";
import { usePairing } from "../../data/hooks.ts";
import { offerUndo } from "../../data/undo.ts";
import { useAction } from "../../data/useAction.ts";
import { Button } from "../../parts/Button.tsx";
import { Drawer, DrawerRow } from "../../parts/Drawer.tsx";
import { Wifi, WifiOff } from "../../parts/icons.ts";
import { QrCode } from "../../parts/QrCode.tsx";
import { Screen } from "../../parts/Screen.tsx";
import { ApiProblemNote, Loaded, ProblemNote } from "../../parts/Status.tsx";
import { Body, Small, Strong } from "../../parts/Text.tsx";
import { SAY } from "../../sentences/pairing/pairing.ts";

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
    <Drawer label={SAY.inviteADevice} testID="invitation">
      <DrawerRow first>
        <Strong>{SAY.n1OnTheOtherDevice}</Strong>
        <View className="my-3 items-center">{address ? <QrCode text={address} label={SAY.qrCodeOfAddress(address)} /> : null}</View>
        <Body className="text-center" testID="pair-address">
          {address}
        </Body>
        {more.length > 0 ? <Small className="text-center">{SAY.orMore(more.join(", "))}</Small> : null}
      </DrawerRow>
      <DrawerRow>
        <Strong>{SAY.n2TypeThisCodeThere}</Strong>
        {valid ? (
          <View className="mt-2" role="status">
            <Text className="py-2 text-center font-heading text-[44px] tracking-[6px] text-ink" testID="pair-code">
              {view.code}
            </Text>
            <Small className="text-center">{SAY.worksForOneDeviceFor(left, String(left % 60).padStart(2, "0"))}</Small>
          </View>
        ) : (
          <View className="mt-2 gap-2">
            <Body>{view.paired ? SAY.pairedIsPairedNowA(view.paired) : SAY.noCodeIsValidAt}</Body>
            <Button strong label={SAY.showACode} busy={busy} onPress={onInvite} testID="invite" />
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
        offerUndo(SAY.nameIsUnpaired(name), async () => {
          await mutate("/pairing", await send("POST", `/pairing/${id}/restore`, PairingView), { revalidate: false });
        });
      },
      [mutate],
    ),
  );
  return (
    <Screen title={SAY.pairADevice} note={SAY.aTabletPhoneOrOther} back="/devices" testID="pairing">
      {act.problem ? <ApiProblemNote problem={act.problem} /> : null}
      <Loaded answer={answer} what={SAY.lookingAtTheNetwork}>
        {(view) => (
          <>
            {view.problem ? <ProblemNote message={view.problem.message} next={view.problem.next} /> : null}
            {view.network ? (
              <Invitation view={view} busy={act.busy} onInvite={() => act.run("invite")} />
            ) : (
              <Drawer label={SAY.network} testID="network-shut">
                <DrawerRow first className="gap-3">
                  <Body>{SAY.buvanoAnswersOnThisComputer}</Body>
                  <Button
                    strong
                    icon={Wifi}
                    label={SAY.openToMyNetwork}
                    busy={act.busy}
                    onPress={() => act.run("network", { open: true })}
                    testID="open-network"
                  />
                </DrawerRow>
              </Drawer>
            )}
            <Drawer label={SAY.pairedDevices} testID="paired-devices">
              {view.devices.length === 0 ? (
                <DrawerRow first>
                  <Body>{SAY.noneYet}</Body>
                </DrawerRow>
              ) : (
                view.devices.map((device, i) => (
                  <DrawerRow key={device.id} first={i === 0} testID="paired-device">
                    <Strong lines={1}>{device.name}</Strong>
                    <Small>{SAY.pairedPairedAtLastHereSeenAt(device.pairedAt, device.seenAt)}</Small>
                    <View className="mt-2 flex-row flex-wrap gap-2">
                      <Button label={SAY.seeIt} onPress={() => router.push(`/device/${device.id}`)} />
                      <Button
                        label={SAY.unpair}
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
                label={SAY.closeToTheNetwork}
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
