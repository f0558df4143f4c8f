import { Slot, usePathname } from "expo-router";
import { StatusBar } from "expo-status-bar";
import { SafeAreaProvider } from "react-native-safe-area-context";
import { useEffect } from "react";
import { speakPlainly } from "../contract/refused.ts";
import { useServerEvents } from "../ui/data/events.ts";
import { Fallen } from "../ui/parts/Fallen.tsx";
import { Alone, Shell } from "../ui/parts/Shell.tsx";
import { SAY } from "../ui/sentences/parts.ts";
import { useInterfaceFonts } from "../ui/theme/fonts.ts";
import { cameBackTo } from "../ui/web/cameBack.ts";
import { warmUp } from "../ui/web/warm.ts";
import "../ui/theme/global.css";

speakPlainly();

/** As the page itself says it until this code has come. */
const Opening = () => (
  <p className="opening" role="status">
    {SAY.buvanoIsOpening}
  </p>
);

export default function Layout() {
  // A device on the network has this one page, and no tabs.
  const path = usePathname();
  const own = path === "/mine";
  // Of pages, too, that do not ask.
  cameBackTo(path);
  useEffect(warmUp, []);
  useServerEvents(!own);
  const ready = useInterfaceFonts();
  if (!ready) return <Opening />;
  return (
    <SafeAreaProvider>
      <StatusBar style="auto" />
      {own ? (
        <Alone>
          <Fallen at={path}>
            <Slot />
          </Fallen>
        </Alone>
      ) : (
        <Shell>
          <Fallen at={path}>
            <Slot />
          </Fallen>
        </Shell>
      )}
    </SafeAreaProvider>
  );
}
