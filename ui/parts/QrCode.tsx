// A QR code (ISO/IEC 18004), dark on light by day and by night so that every camera reads it.
import { useMemo } from "react";
import { View } from "react-native";
import { create } from "qrcode";
import Svg, { Path, Rect } from "react-native-svg";

/** Modules of empty margin the standard asks for. */
const QUIET = 4;

export function QrCode({ text, label, size = 220 }: { text: string; label: string; size?: number }) {
  const { path, side } = useMemo(() => {
    const { modules } = create(text, { errorCorrectionLevel: "M" });
    let cells = "";
    for (let y = 0; y < modules.size; y++)
      for (let x = 0; x < modules.size; x++) if (modules.get(y, x)) cells += `M${x + QUIET} ${y + QUIET}h1v1h-1z`;
    return { path: cells, side: modules.size + 2 * QUIET };
  }, [text]);
  return (
    <View testID="qr-code">
      <Svg width={size} height={size} viewBox={`0 0 ${side} ${side}`} role="img" aria-label={label}>
        <Rect width={side} height={side} fill="#ffffff" />
        <Path d={path} fill="#000000" />
      </Svg>
    </View>
  );
}
