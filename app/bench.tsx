import { useLastUsed } from "../ui/data/lastUsed.ts";
import { Split } from "../ui/parts/Shell.tsx";
import { useWide } from "../ui/parts/useWide.ts";
import { BenchScreen } from "../ui/screens/bench/BenchScreen.tsx";
import { Nothing } from "../ui/parts/Nothing.tsx";
import { SheetScreen } from "../ui/screens/bench/SheetScreen.tsx";

export default function Bench() {
  const last = useLastUsed("sheet");
  const beside = useWide() && last !== null ? last : undefined;
  const nothing = (
    <Nothing
      words="Choose a sheet, or begin one with your words in every style."
      ways={[{ label: "Your words in every style", href: "/bench/pick" }]}
    />
  );
  return (
    <Split
      listFirst
      list={<BenchScreen currentId={beside} />}
      detail={beside === undefined ? nothing : <SheetScreen key={beside} id={beside} />}
    />
  );
}
