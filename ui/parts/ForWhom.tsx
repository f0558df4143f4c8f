// For whom fonts are placed: this account alone, or everyone on the device.
import { View } from "react-native";
import type { Account } from "../../contract/device.ts";
import { Drawer } from "./Drawer.tsx";
import { RadioRow } from "./RadioRow.tsx";

interface Props {
  account: Account;
  onChange: (account: Account) => void;
  /** What placing for everyone asks for. */
  everyone: string;
}

export function ForWhom({ account, onChange, everyone }: Props) {
  return (
    <View role="radiogroup" aria-label="For whom">
      <Drawer label="For whom">
        <RadioRow
          first
          label="For me"
          note="Only this account's programs find it."
          chosen={account === "me"}
          onPress={() => onChange("me")}
        />
        <RadioRow
          first={false}
          label="For everyone"
          note={everyone}
          chosen={account === "everyone"}
          onPress={() => onChange("everyone")}
          testID="for-everyone"
        />
      </Drawer>
    </View>
  );
}
