// Pictures of lettering: give one, or go on with one that was given before.
import { Link, useRouter } from "expo-router";
import { useCallback } from "react";
import { View } from "react-native";
import { Done, send, upload } from "../../data/api.ts";
import { MatchView, type MatchSummary } from "../../../contract/matching.ts";
import { when } from "../../data/devices.ts";
import { useMatches } from "../../data/hooks.ts";
import { offerUndo } from "../../data/undo.ts";
import { useAction } from "../../data/useAction.ts";
import { Button } from "../../parts/Button.tsx";
import { ScanSearch, Trash2 } from "../../parts/icons.ts";
import { Screen } from "../../parts/Screen.tsx";
import { ApiProblemNote, Empty, Loaded } from "../../parts/Status.tsx";
import { Body, Small, Strong } from "../../parts/Text.tsx";
import { DropArea } from "../../web/DropArea.tsx";
import { moderate } from "../../web/shrink.ts";
import { usePastedPicture } from "../../web/usePastedPicture.ts";
import { SAY } from "../../sentences/matching/match.ts";

const KINDS = { "image/*": [".png", ".jpg", ".jpeg", ".webp", ".heic", ".heif"] };

function MatchCard({ match, current, onRemove }: { match: MatchSummary; current: boolean; onRemove: (match: MatchSummary) => void }) {
  return (
    <View className={`mb-3 w-full flex-row border bg-drawer ${current ? "border-ink" : "border-edge"}`} testID="match-card">
      <Link href={`/bench/match/${match.id}`} className="min-w-0 flex-1" aria-current={current ? "true" : undefined}>
        <View className="min-h-[64px] w-full flex-row items-center gap-3 px-3 py-2">
          <img
            src={`/api/matches/${match.id}/picture`}
            alt=""
            loading="lazy"
            style={{ width: 64, height: 48, objectFit: "cover", border: "1px solid #8a8172" }}
          />
          <View className="min-w-0 flex-1">
            <Strong lines={2}>{match.sentence || match.name}</Strong>
            <Small lines={1}>
              {[match.words && `“${match.words}”`, match.jobName && `for ${match.jobName}`, when(match.at)].filter(Boolean).join(" · ")}
            </Small>
          </View>
        </View>
      </Link>
      <Button
        icon={Trash2}
        label={SAY.remove}
        hint={match.name}
        className="border-0"
        onPress={() => onRemove(match)}
        testID="remove-match"
      />
    </View>
  );
}

export function MatchesScreen({ currentId }: { currentId?: number }) {
  const matches = useMatches();
  const router = useRouter();
  const give = useAction(
    useCallback(
      async (file: File) => {
        const sent = await moderate(file);
        const made = await upload("/matches", [{ name: sent.name || SAY.picturePng, file: sent }], MatchView);
        router.push(`/bench/match/${made.id}`);
      },
      [router],
    ),
  );
  const { mutate } = matches;
  const remove = useAction(
    useCallback(
      async ({ id, name }: MatchSummary) => {
        await send("POST", `/matches/${id}/remove`, Done);
        if (id === currentId) router.replace("/bench/match");
        await mutate();
        offerUndo(SAY.theMatchOfNameWas(name), async () => {
          await send("POST", `/matches/${id}/bring-back`, Done);
          await mutate();
        });
      },
      [mutate, router, currentId],
    ),
  );
  usePastedPicture(give.run);
  return (
    <DropArea label={SAY.aPictureOfLettering} multiple={false} accept={KINDS} onFiles={([file]) => file && give.run(file)}>
      {({ pick, over }) => (
        <Screen
          title={SAY.matchAPicture}
          note={SAY.whichOfYourFontsIs}
          back="/bench"
          testID="matches"
          action={
            <Button
              strong={currentId === undefined}
              icon={ScanSearch}
              label={over ? SAY.dropItHere : SAY.chooseOrTakeAPicture}
              busy={give.busy}
              onPress={pick}
              testID="give-match"
            />
          }
        >
          {give.problem ? <ApiProblemNote problem={give.problem} /> : null}
          {remove.problem ? <ApiProblemNote problem={remove.problem} /> : null}
          <Loaded answer={matches} what={SAY.fetchingYourMatches}>
            {({ matches: kept, unmeasured }) => (
              <>
                {unmeasured > 0 ? (
                  <Small className="mb-3" testID="unmeasured">
                    {SAY.unmeasuredStillBeingMeasuredThey(unmeasured)}
                  </Small>
                ) : null}
                {kept.length === 0 ? (
                  <Empty title={SAY.noPictureYet}>
                    <Body>{SAY.takeOrChooseAPicture}</Body>
                  </Empty>
                ) : (
                  kept.map((match) => <MatchCard key={match.id} match={match} current={match.id === currentId} onRemove={remove.run} />)
                )}
              </>
            )}
          </Loaded>
        </Screen>
      )}
    </DropArea>
  );
}
