import { Slot } from "expo-router";
import { StatusBar } from "expo-status-bar";
import { SafeAreaProvider } from "react-native-safe-area-context";
import { useServerEvents } from "../ui/data/events.ts";
import { Shell } from "../ui/parts/Shell.tsx";
import { useInterfaceFonts } from "../ui/theme/fonts.ts";
import "../ui/theme/global.css";

export default function Layout() {
  useServerEvents();
  const ready = useInterfaceFonts();
  if (!ready) return null;
  return (
    <SafeAreaProvider>
      <StatusBar style="auto" />
      <Shell>
        <Slot />
      </Shell>
    </SafeAreaProvider>
  );
}
