// A line of a drawer that leads somewhere, or does something at once.
import { Link, type Href } from "expo-router";
import { Pressable, View } from "react-native";
import { usePalette } from "../theme/theme.ts";
import { ChevronRight, type LucideIcon } from "./icons.ts";
import { Small, Strong } from "./Text.tsx";

interface Props {
  label: string;
  note?: string;
  icon?: LucideIcon;
  first?: boolean;
  testID?: string;
}

function Content({ label, note, icon: Icon, leads }: Props & { leads: boolean }) {
  const palette = usePalette();
  return (
    <View className="min-h-[56px] w-full flex-row items-center gap-3 px-3 py-2">
      {Icon ? <Icon size={22} color={palette.ink} aria-hidden /> : null}
      <View className="min-w-0 flex-1">
        <Strong>{label}</Strong>
        {note ? <Small>{note}</Small> : null}
      </View>
      {leads ? <ChevronRight size={20} color={palette.faded} aria-hidden /> : null}
    </View>
  );
}

export function LinkRow({ href, ...props }: Props & { href: Href }) {
  return (
    <Link href={href} testID={props.testID} className={`w-full ${props.first ? "" : "border-t border-edge"}`}>
      <Content {...props} leads />
    </Link>
  );
}

export function ActRow({ onPress, disabled, ...props }: Props & { onPress: () => void; disabled?: boolean }) {
  return (
    <Pressable
      role="button"
      testID={props.testID}
      disabled={disabled}
      aria-disabled={disabled}
      onPress={onPress}
      className={`w-full active:opacity-60 ${disabled ? "opacity-60" : ""} ${props.first ? "" : "border-t border-edge"}`}
    >
      <Content {...props} leads={false} />
    </Pressable>
  );
}
