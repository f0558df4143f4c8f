import { Slot, usePathname } from "expo-router";
import { StatusBar } from "expo-status-bar";
import { SafeAreaProvider } from "react-native-safe-area-context";
import { useServerEvents } from "../ui/data/events.ts";
import { Alone, Shell } from "../ui/parts/Shell.tsx";
import { useInterfaceFonts } from "../ui/theme/fonts.ts";
import "../ui/theme/global.css";

export default function Layout() {
  // A device on the network has this one page, and no tabs.
  const own = usePathname() === "/mine";
  useServerEvents(!own);
  const ready = useInterfaceFonts();
  if (!ready) return null;
  return (
    <SafeAreaProvider>
      <StatusBar style="auto" />
      {own ? (
        <Alone>
          <Slot />
        </Alone>
      ) : (
        <Shell>
          <Slot />
        </Shell>
      )}
    </SafeAreaProvider>
  );
}
