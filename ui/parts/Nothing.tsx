// An empty place beside a list, or an address that leads nowhere: what belongs there, and ways on.
import { Link, type Href } from "expo-router";
import { View } from "react-native";
import { Small, Strong } from "./Text.tsx";

interface Props {
  words: string;
  ways?: readonly { label: string; href: Href }[];
}

export function Nothing({ words, ways = [] }: Props) {
  return (
    <View className="flex-1 items-center justify-center gap-3 bg-paper p-8">
      <Small className="max-w-sm text-center">{words}</Small>
      {ways.map(({ label, href }) => (
        <Link key={label} href={href}>
          <View className="min-h-[44px] justify-center px-3">
            <Strong className="underline">{label}</Strong>
          </View>
        </Link>
      ))}
    </View>
  );
}
