// A drawer: square corners, a thin ruled edge, and a label tab where it is named.
import type { ReactNode } from "react";
import { Text, View } from "react-native";

interface Props {
  label?: string;
  note?: string;
  children: ReactNode;
  className?: string;
  testID?: string;
}

/** The tab a drawer is named by. */
export function DrawerTab({ label, note, testID }: { label: string; note?: string; testID?: string }) {
  return (
    <View className="flex-row items-end justify-between gap-3" testID={testID}>
      <View className="max-w-[80%] border border-b-0 border-edge bg-tab px-3 py-1">
        <Text role="heading" aria-level={2} numberOfLines={2} className="font-heading text-sm text-ink">
          {label}
        </Text>
      </View>
      {note ? <Text className="shrink font-text text-sm text-faded">{note}</Text> : null}
    </View>
  );
}

export function Drawer({ label, note, children, className = "", testID }: Props) {
  return (
    <View testID={testID} className={`mb-4 ${className}`}>
      {label ? <DrawerTab label={label} note={note} /> : null}
      <View className="border border-edge bg-drawer">{children}</View>
    </View>
  );
}

/** One line of a drawer, ruled off from the one above. */
export function DrawerRow({
  children,
  first,
  className = "",
  testID,
}: {
  children: ReactNode;
  first?: boolean;
  className?: string;
  testID?: string;
}) {
  return (
    <View testID={testID} className={`px-3 py-3 ${first ? "" : "border-t border-edge"} ${className}`}>
      {children}
    </View>
  );
}
