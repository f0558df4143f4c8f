// Where a font that a document needs is: a drawer in several conditions. Shape and word, never colour alone.
import { View } from "react-native";
import Svg, { G, Line, Path, Rect } from "react-native-svg";
import type { NeedPlace } from "../../contract/documents.ts";
import { usePalette } from "../theme/theme.ts";
import { Small } from "./Text.tsx";
import { SAY } from "../sentences/parts.ts";

export const PLACE_WORDS: Record<NeedPlace, string> = {
  here: SAY.here,
  off: SAY.hereOff,
  library: SAY.onTheShelf,
  parcel: SAY.inAParcel,
  "other-style": SAY.otherStylesOnly,
  nowhere: SAY.nowhere,
  unnamed: SAY.cannotTell,
};

export function PlaceMark({ place }: { place: NeedPlace }) {
  const palette = usePalette();
  const line = { stroke: palette.ink, strokeWidth: 1.8, fill: "none" };
  const drawer = <Rect x={4} y={7} width={16} height={11} {...line} />;
  const shapes: Record<NeedPlace, React.ReactNode> = {
    here: (
      <G>
        <Rect x={4} y={7} width={16} height={11} fill={palette.verdigris} stroke={palette.verdigris} strokeWidth={1.8} />
        <Line x1={9} y1={12} x2={15} y2={12} stroke={palette.drawer} strokeWidth={1.8} />
      </G>
    ),
    off: (
      <G>
        {drawer}
        <Line x1={2} y1={21} x2={22} y2={4} {...line} />
      </G>
    ),
    library: (
      <G>
        {drawer}
        <Line x1={9} y1={12} x2={15} y2={12} {...line} />
      </G>
    ),
    parcel: (
      <G>
        {drawer}
        <Path d="M12 7 V18 M4 12.5 H20" {...line} />
      </G>
    ),
    "other-style": (
      <G>
        <Path d="M20 7 H4 V18 H20" {...line} />
        <Path d="M20 7 V18" {...line} strokeDasharray="2 2" />
      </G>
    ),
    nowhere: <Rect x={4} y={7} width={16} height={11} {...line} stroke={palette.warning} strokeDasharray="3 2.5" />,
    unnamed: <Path d="M9 9 Q9 5 12 5 Q15.5 5 15.5 8.5 Q15.5 11 12 12.5 V15 M12 18.5 V19.5" {...line} />,
  };
  return (
    <View className="flex-row items-center gap-2">
      <Svg width={24} height={24} viewBox="0 0 24 24" aria-hidden>
        {shapes[place]}
      </Svg>
      <Small className="text-ink">{PLACE_WORDS[place]}</Small>
    </View>
  );
}
