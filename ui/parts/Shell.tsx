// The frame: five tabs at the bottom of a phone, a rail at the left of a wide screen.
import { Link, usePathname, useRouter } from "expo-router";
import { useCallback, useState, type ReactNode } from "react";
import { Pressable, Text, View } from "react-native";
import { Eye, FlaskConical, Keyboard, LibraryBig, MonitorSmartphone, Sprout, type LucideIcon } from "./icons.ts";
import { KeysSheet } from "./KeysSheet.tsx";
import { useLibraryState } from "../data/hooks.ts";
import { usePalette } from "../theme/theme.ts";
import { usePageKeys } from "../web/keys.ts";
import { ActingBar } from "./ActingBar.tsx";
import { UndoBar } from "./UndoBar.tsx";
import { useWide } from "./useWide.ts";
import { SAY } from "../sentences/parts.ts";

interface Tab {
  href: "/" | "/families" | "/devices" | "/sightings" | "/bench";
  label: string;
  icon: LucideIcon;
  /** Addresses that belong to this tab. */
  under: RegExp;
}

const TABS: readonly Tab[] = [
  { href: "/", label: SAY.today, icon: Sprout, under: /^\/($|parcel|settings|where)/ },
  { href: "/families", label: SAY.families, icon: LibraryBig, under: /^\/(famil|job|licence)/ },
  {
    href: "/devices",
    label: SAY.devices,
    icon: MonitorSmartphone,
    under: /^\/(device|plan|place|practice|tablet|duplicates|like|pairing|program)/,
  },
  { href: "/sightings", label: SAY.sightings, icon: Eye, under: /^\/(sighting|cell|needs|check)/ },
  { href: "/bench", label: SAY.bench, icon: FlaskConical, under: /^\/bench/ },
];

function TabLink({ tab, wide, current }: { tab: Tab; wide: boolean; current: boolean }) {
  const palette = usePalette();
  const Icon = tab.icon;
  const edge = wide
    ? current
      ? "border-l-4 border-l-ink bg-drawer"
      : "border-l-4 border-l-transparent"
    : current
      ? "border-t-4 border-t-ink bg-paper"
      : "border-t-4 border-t-transparent";
  return (
    <Link
      href={tab.href}
      aria-current={current ? "page" : undefined}
      className={`${wide ? "w-full" : "flex-1"}`}
      testID={`tab-${tab.label}`}
    >
      <View className={`${wide ? "flex-row gap-3 px-4" : "px-1"} min-h-[56px] w-full items-center ${wide ? "" : "justify-center"} ${edge}`}>
        <Icon size={22} color={current ? palette.ink : palette.faded} aria-hidden />
        <Text className={`${wide ? "text-base" : "text-xs"} ${current ? "font-strong text-ink" : "font-text text-faded"}`}>
          {tab.label}
        </Text>
      </View>
    </Link>
  );
}

/** A page without tabs. */
export const Alone = ({ children }: { children: ReactNode }) => (
  <View className="h-full flex-1 bg-paper">
    <View role="main" className="min-h-0 flex-1">
      {children}
    </View>
  </View>
);

/** What is wrong with the library itself stands above every screen until it is mended. */
function LibraryTrouble() {
  const { data } = useLibraryState();
  if (!data?.problem) return null;
  const { message, next } = data.problem;
  return (
    <View role="alert" testID="library-trouble" className="border-b-2 border-b-persimmon bg-drawer px-4 py-3">
      <Text className="font-strong text-base text-ink">{message}</Text>
      <Text className="font-text text-base text-ink">{SAY.nextWhatYouHaveCan(next)}</Text>
    </View>
  );
}

/** Past the tabs, for whoever goes by the keyboard; seen only while it has the focus. */
function SkipLink() {
  return (
    <a
      href="#content"
      className="skip-link"
      data-testid="skip-link"
      onClick={(event) => {
        event.preventDefault();
        document.getElementById("content")?.focus();
      }}
    >
      {SAY.skipToTheContent}
    </a>
  );
}

export function Shell({ children }: { children: ReactNode }) {
  const wide = useWide();
  const path = usePathname();
  const router = useRouter();
  const [keys, setKeys] = useState(false);
  const help = useCallback(() => setKeys(true), []);
  const toTab = useCallback((place: number) => router.push(TABS[place]!.href), [router]);
  usePageKeys({ help, tab: toTab });
  const palette = usePalette();
  const over = keys ? <KeysSheet onClose={() => setKeys(false)} /> : null;
  const tabs = TABS.map((tab) => <TabLink key={tab.href} tab={tab} wide={wide} current={tab.under.test(path)} />);
  if (wide) {
    return (
      <View className="h-full flex-1 flex-row bg-paper">
        <SkipLink />
        <View role="navigation" aria-label={SAY.main} className="w-44 border-r border-edge bg-tab pt-5">
          <Text className="mb-4 px-4 font-heading text-2xl text-ink">{SAY.buvano}</Text>
          {tabs}
          <View className="flex-1" />
          <Pressable
            role="button"
            testID="keys"
            onPress={help}
            className="min-h-[48px] w-full flex-row items-center gap-3 px-5 active:opacity-60"
          >
            <Keyboard size={20} color={palette.faded} aria-hidden />
            <Text className="font-text text-base text-faded">{SAY.keys}</Text>
          </Pressable>
        </View>
        <View className="min-w-0 flex-1">
          <LibraryTrouble />
          <View role="main" id="content" tabIndex={-1} className="min-h-0 flex-1">
            {children}
          </View>
          <ActingBar />
          <UndoBar />
        </View>
        {over}
      </View>
    );
  }
  return (
    <View className="h-full flex-1 bg-paper">
      <SkipLink />
      <LibraryTrouble />
      <View role="main" id="content" tabIndex={-1} className="min-h-0 flex-1">
        {children}
      </View>
      <ActingBar />
      <UndoBar />
      <View role="navigation" aria-label={SAY.main} className="flex-row border-t border-edge bg-tab">
        {tabs}
      </View>
      {over}
    </View>
  );
}

/** List and detail: side by side when wide, the detail alone on a phone. */
export function Split({ list, detail, listFirst = false }: { list: ReactNode; detail: ReactNode; listFirst?: boolean }) {
  const wide = useWide();
  if (!wide) return <>{listFirst ? list : detail}</>;
  return (
    <View className="min-h-0 flex-1 flex-row">
      <View className="w-[440px] border-r border-edge">{list}</View>
      <View className="min-w-0 flex-1">{detail}</View>
    </View>
  );
}
