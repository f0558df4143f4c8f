import { useNumberParam } from "../../../ui/parts/params.ts";
import { GlyphsScreen } from "../../../ui/screens/glyphs/GlyphsScreen.tsx";

export default function Glyphs() {
  const id = useNumberParam("id") ?? 0;
  return <GlyphsScreen key={id} styleId={id} />;
}
