// For whom fonts are placed: this account alone, or everyone on the device.
import { View } from "react-native";
import type { Account } from "../../contract/devices.ts";
import { Drawer } from "./Drawer.tsx";
import { RadioRow } from "./RadioRow.tsx";
import { SAY } from "../sentences/parts.ts";

interface Props {
  account: Account;
  onChange: (account: Account) => void;
  /** What placing for everyone asks for. */
  everyone: string;
}

export function ForWhom({ account, onChange, everyone }: Props) {
  return (
    <View role="radiogroup" aria-label={SAY.forWhom}>
      <Drawer label={SAY.forWhom}>
        <RadioRow
          first
          label={SAY.forMe2}
          note={SAY.onlyThisAccountsProgramsFind}
          chosen={account === "me"}
          onPress={() => onChange("me")}
          testID="for-me"
        />
        <RadioRow
          first={false}
          label={SAY.forEveryone2}
          note={everyone}
          chosen={account === "everyone"}
          onPress={() => onChange("everyone")}
          testID="for-everyone"
        />
      </Drawer>
    </View>
  );
}
