// What was found: each font with its words, what differs, whether it may be used, where it is; one of them laid over the picture.
import { Link, type Href } from "expo-router";
import { useOpen } from "../../data/page.ts";
import { useState } from "react";
import { Pressable, View } from "react-native";
import type { MatchAnswer, MatchAsked, MatchCandidate } from "../../../contract/matching.ts";
import { Drawer, DrawerRow } from "../../parts/Drawer.tsx";
import { Body, Small, Strong } from "../../parts/Text.tsx";
import { Tick } from "../../parts/Tick.tsx";
import { usePalette } from "../../theme/theme.ts";
import { RangeInput } from "../../web/RangeInput.tsx";
import { SAY } from "../../sentences/matching/match.ts";

/** The part of the picture around a frame. */
function boxOf({ frame }: MatchAsked): { x: number; y: number; width: number; height: number } {
  const [xs, ys] = [frame.map(([x]) => x), frame.map(([, y]) => y)];
  const [x, y] = [Math.min(...xs), Math.min(...ys)];
  return { x, y, width: Math.max(...xs) - x, height: Math.max(...ys) - y };
}

/** A font's outlines over the picture, faded in and out. */
export function Overlay({
  url,
  asked,
  candidate,
  width,
  height,
}: {
  url: string;
  asked: MatchAsked;
  candidate: MatchCandidate;
  width: number;
  height: number;
}) {
  const palette = usePalette();
  const [shown, setShown] = useState(60);
  const box = boxOf(asked);
  return (
    <View>
      <svg
        role="img"
        aria-label={SAY.familyStyleLaidOverThe(candidate.family, candidate.style, shown)}
        viewBox={`${box.x} ${box.y} ${box.width} ${box.height}`}
        style={{ width: "100%", maxHeight: "36vh", display: "block", background: palette.tab }}
        data-testid="match-overlay"
      >
        <image href={url} width={width} height={height} />
        <path
          d={candidate.overlay}
          fill={palette.verdigris}
          fillOpacity={shown / 100}
          stroke="#ffffff"
          strokeOpacity={shown / 100}
          strokeWidth={box.height / 220}
        />
      </svg>
      <View className="flex-row items-center gap-3 px-3">
        <Small>{SAY.picture}</Small>
        <View className="flex-1">
          <RangeInput label={SAY.howMuchOfTheFont} value={shown} least={0} most={100} unit={SAY.percent} onChange={setShown} />
        </View>
        <Small>{SAY.font}</Small>
      </View>
    </View>
  );
}

const Lead = ({ href, label, testID }: { href: Href; label: string; testID?: string }) => (
  <Link href={href} testID={testID}>
    <View className="min-h-[48px] justify-center px-2">
      <Body className="underline">{label}</Body>
    </View>
  </Link>
);

const MARKS: Record<MatchCandidate["verdict"], string> = { it: "●", relative: "◐", manner: "○", unlike: "–", open: "?" };

function CandidateRow({
  one,
  first,
  shown,
  onShow,
  chosen,
  onChoose,
}: {
  one: MatchCandidate;
  first: boolean;
  shown: boolean;
  onShow: () => void;
  chosen: boolean;
  onChoose: (on: boolean) => void;
}) {
  const palette = usePalette();
  const name = `${one.family} ${one.style}`.trim();
  const colour = one.verdict === "it" ? palette.verdigris : palette.ink;
  return (
    <DrawerRow first={first} className={shown ? "bg-tab" : ""} testID="candidate">
      <Pressable role="button" aria-pressed={shown} onPress={onShow} className="min-h-[44px] active:opacity-60" testID="candidate-show">
        <View className="flex-row items-baseline gap-2">
          <Strong lines={2} className="min-w-0 flex-1">
            {name}
          </Strong>
          <Small>{Math.round(one.likeness * 100)} %</Small>
        </View>
        <Body>
          <span style={{ color: colour }} aria-hidden>
            {MARKS[one.verdict]}{" "}
          </span>
          {one.said}
        </Body>
        {one.drawnLike ? <Small>{SAY.drawsTheseWordsLikeDrawnLike(one.drawnLike)}</Small> : null}
        {one.differences.length > 0 && !one.drawnLike ? <Small>{one.differences.map(({ sentence }) => sentence).join(" ")}</Small> : null}
        <Small>{[one.place.name, one.clearance].filter(Boolean).join(" · ")}</Small>
      </Pressable>
      <View className="flex-row flex-wrap items-center gap-2">
        <View className="min-w-[40%] flex-1">
          <Tick first label={SAY.compare} on={chosen} onChange={onChoose} testID="candidate-choose" />
        </View>
        {one.familyId !== null ? (
          <Lead href={`/family/${one.familyId}`} label={SAY.openTheFamily} testID="candidate-family" />
        ) : one.place.kind === "parcel" && one.place.id !== null ? (
          <Lead href={`/parcel/${one.place.id}`} label={SAY.openTheParcel} />
        ) : one.place.kind === "device" && one.place.id !== null ? (
          <Lead href={`/device/${one.place.id}`} label={SAY.openTheDevice} />
        ) : null}
      </View>
    </DrawerRow>
  );
}

const SHOWN_AT_FIRST = 6;
export function Candidates({
  answer,
  shown,
  onShow,
  chosen,
  onChosen,
}: {
  answer: MatchAnswer;
  shown: number;
  onShow: (at: number) => void;
  chosen: readonly number[];
  onChosen: (chosen: number[]) => void;
}) {
  const [all, setAll] = useOpen("all candidates");
  const rows = all ? answer.candidates : answer.candidates.slice(0, SHOWN_AT_FIRST);
  return (
    <Drawer label={SAY.likeliestFonts} note={SAY.amongAmongStyles(answer.among)} testID="candidates">
      {rows.map((one, i) => (
        <CandidateRow
          key={`${one.sha256}#${one.face}`}
          one={one}
          first={i === 0}
          shown={i === shown}
          onShow={() => onShow(i)}
          chosen={chosen.includes(i)}
          onChoose={(on) => onChosen(on ? [...chosen, i].slice(-4) : chosen.filter((other) => other !== i))}
        />
      ))}
      {!all && answer.candidates.length > SHOWN_AT_FIRST ? (
        <Pressable
          role="button"
          onPress={() => setAll(true)}
          className="min-h-[48px] justify-center border-t border-edge px-3"
          testID="more-candidates"
        >
          <Body className="underline">{SAY.showMore(answer.candidates.length, SHOWN_AT_FIRST)}</Body>
        </Pressable>
      ) : null}
    </Drawer>
  );
}
