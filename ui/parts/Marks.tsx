// The marks: a seed in several conditions for sightings, and stations on the trail. Shape and word, never colour alone.
import { View } from "react-native";
import Svg, { Circle, Ellipse, G, Line, Path, Rect } from "react-native-svg";
import type { Sighting, SightingState } from "../../contract/sightings.ts";
import type { Station } from "../../contract/styles.ts";
import { usePalette } from "../theme/theme.ts";
import { Small } from "./Text.tsx";
import { SAY } from "../sentences/parts.ts";

export const STATE_WORDS: Record<SightingState, string> = {
  seen: SAY.seen,
  due: SAY.notCheckedYet,
  reopen: SAY.reopen,
  "load-by-hand": SAY.loadByHand,
  swapped: SAY.swapped,
  off: SAY.off,
  lapsed: SAY.lapsed,
  "not-here": SAY.notHere,
};

/** A cell's state; of a family seen in part, how many of its styles. */
export const cellWords = ({ state, seen, listed }: { state: SightingState; seen: number; listed: number }): string =>
  state === "seen" && seen < listed ? SAY.seenSeenOfListed(seen, listed) : STATE_WORDS[state];

/** The seed of one sighting state, 24 units square; with an `id`, others can show it too. */
export function SeedMark({ state, size = 24, id }: { state: SightingState; size?: number; id?: string }) {
  const palette = usePalette();
  const line = { stroke: palette.ink, strokeWidth: 1.8, fill: "none" };
  const seed = <Ellipse cx={12} cy={12} rx={5} ry={8} {...line} />;
  const shapes: Record<SightingState, React.ReactNode> = {
    seen: (
      <G>
        <Ellipse cx={12} cy={13} rx={5.5} ry={8} fill={palette.verdigris} stroke={palette.verdigris} strokeWidth={1.8} />
        <Path d="M12 6 Q13 1 18 2 Q18 6 12 6" fill={palette.verdigris} />
      </G>
    ),
    due: seed,
    reopen: (
      <G>
        <Path d="M9 5 Q5 12 9 19 M15 5 Q19 12 15 19" {...line} />
        <Path d="M12 8 V16 M9.5 10.5 L12 8 L14.5 10.5" {...line} />
      </G>
    ),
    "load-by-hand": (
      <G>
        <Ellipse cx={12} cy={9} rx={4} ry={6.5} {...line} />
        <Path d="M3 17 Q7 22 12 22 Q17 22 21 17" {...line} />
      </G>
    ),
    swapped: (
      <G>
        <Ellipse cx={8.5} cy={12} rx={4} ry={8} {...line} stroke={palette.warning} />
        <Ellipse cx={15.5} cy={12} rx={4} ry={8} fill={palette.warning} stroke={palette.warning} strokeWidth={1.8} />
      </G>
    ),
    off: (
      <G>
        {seed}
        <Line x1={3} y1={12} x2={21} y2={12} {...line} />
      </G>
    ),
    lapsed: (
      <G>
        <Path d="M5 6 Q17 2 18 12 Q18 20 10 19 Q4 15 5 6" {...line} strokeDasharray="3 2" />
        <Line x1={4} y1={22} x2={20} y2={22} {...line} />
      </G>
    ),
    "not-here": <Line x1={7} y1={12} x2={17} y2={12} {...line} stroke={palette.faded} />,
  };
  return (
    <Svg id={id} width={size} height={size} viewBox="0 0 24 24" aria-hidden>
      {shapes[state]}
    </Svg>
  );
}

export function StateMark({ state, words = STATE_WORDS[state] }: { state: SightingState; words?: string }) {
  return (
    <View className="flex-row items-center gap-2">
      <SeedMark state={state} />
      <Small className="text-ink">{words}</Small>
    </View>
  );
}
/** What a sighting found: its mark is that of the state it speaks for. */
export function ResultMark({ result }: { result: Sighting["result"] }) {
  if (result === "not-there") return <StateMark state="not-here" words={SAY.notThere} />;
  if (result === "asked-for") return <StateMark state="due" words={SAY.askedFor} />;
  return result === "faked" ? <StateMark state="swapped" words={SAY.faked} /> : <StateMark state={result} />;
}

const STATION_WORDS: Record<Station["key"], string> = {
  in: SAY.inIt,
  sound: SAY.sound,
  cleared: SAY.cleared,
  placed: SAY.placed,
  seen: SAY.seen,
};

function stationShape(station: Station, x: number, palette: ReturnType<typeof usePalette>) {
  const key = station.key;
  switch (station.state) {
    case "done":
      return <Rect key={key} x={x - 5} y={3} width={10} height={10} fill={palette.verdigris} />;
    case "remark":
      return (
        <G key={key}>
          <Rect x={x - 5} y={3} width={10} height={10} fill={palette.verdigris} />
          <Circle cx={x} cy={8} r={2} fill={palette.drawer} />
        </G>
      );
    case "stuck":
      return <Path key={key} d={`M${x} 1 L${x + 7} 8 L${x} 15 L${x - 7} 8 Z`} fill={palette.warning} />;
    case "open":
      return <Rect key={key} x={x - 4.5} y={3.5} width={9} height={9} fill={palette.drawer} stroke={palette.faded} strokeWidth={1.4} />;
  }
}

/** The trail: a ruled line with five stations. */
export function Trail({ stations, words = false }: { stations: readonly Station[]; words?: boolean }) {
  const palette = usePalette();
  const said = stations.map((station) => `${STATION_WORDS[station.key]}: ${station.words}`).join("; ");
  return (
    <View role="img" aria-label={SAY.trailSaid(said)}>
      <Svg width="100%" height={16} viewBox="0 0 320 16" preserveAspectRatio="none" style={{ maxWidth: 420 }}>
        <Line x1={32} y1={8} x2={288} y2={8} stroke={palette.edge} strokeWidth={1.5} />
      </Svg>
      <View className="-mt-4 w-full max-w-[420px] flex-row">
        {stations.map((station) => (
          <View key={station.key} className="flex-1 items-center" aria-hidden>
            <Svg width={16} height={16} viewBox="0 0 16 16">
              {stationShape(station, 8, palette)}
            </Svg>
            <Small className={`text-center text-xs ${station.state === "open" ? "" : "text-ink"}`}>{STATION_WORDS[station.key]}</Small>
          </View>
        ))}
      </View>
      {words ? (
        <View className="mt-3 gap-1" aria-hidden>
          {stations.map((station) => (
            <View key={station.key} className="flex-row gap-2">
              <Small className="w-20 text-ink">{STATION_WORDS[station.key]}</Small>
              <Small className="flex-1">{station.words}</Small>
            </View>
          ))}
        </View>
      ) : null}
    </View>
  );
}
