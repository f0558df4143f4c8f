// One picture: its frame, the letters in it, and the fonts it may show.
import { useRouter } from "expo-router";
import { useCallback, useState } from "react";
import { View } from "react-native";
import { SheetDetail } from "../../../contract/bench.ts";
import { MatchView } from "../../../contract/matching.ts";
import { Done, send } from "../../data/api.ts";
import { useJobs } from "../../data/hooks.ts";
import { useMatchEditing, withLetter } from "../../data/match.ts";
import { useMatchProgress } from "../../data/progress.ts";
import { useAction } from "../../data/useAction.ts";
import { Button } from "../../parts/Button.tsx";
import { Choice } from "../../parts/Choice.tsx";
import { Drawer, DrawerRow } from "../../parts/Drawer.tsx";
import { Field } from "../../parts/Field.tsx";
import { Screen } from "../../parts/Screen.tsx";
import { ApiProblemNote, Loaded, Waiting } from "../../parts/Status.tsx";
import { Body, Small, Strong } from "../../parts/Text.tsx";
import { Tick } from "../../parts/Tick.tsx";
import { Candidates, Overlay } from "./Candidates.tsx";
import { FramePicture, type Tool } from "./FramePicture.tsx";
import { LetterCells } from "./LetterCells.tsx";
import { SAY } from "../../sentences/matching/match.ts";

const TOOLS: Record<Tool, { label: string; hint: string }> = {
  frame: { label: SAY.frame, hint: SAY.dragAFrameAroundOne },
  corners: { label: SAY.fourCorners, hint: SAY.forWordsSeenFromThe },
  brush: { label: SAY.brush, hint: SAY.brushOverMarksThatAre },
  colour: { label: SAY.letterColour, hint: SAY.tapALetterToSay },
};
const TURNED = {
  "": "",
  half: SAY.theLineStandsUpsideDown,
  mirror: SAY.theLineIsMirroredIt,
};

export function MatchScreen({ id }: { id: number }) {
  const { answer, asked, change, reading, stale, problem } = useMatchEditing(id);
  const { mutate } = answer;
  const jobs = useJobs();
  const router = useRouter();
  const [tool, setTool] = useState<Tool>("frame");
  const [shown, setShown] = useState(0);
  const [chosen, setChosen] = useState<number[]>([]);
  const progress = useMatchProgress(id);
  const find = useAction(
    useCallback(async () => {
      if (!asked) return;
      const found = await send("POST", `/matches/${id}/answer`, MatchView, asked);
      setShown(0);
      setChosen([]);
      await mutate(found, { revalidate: false });
      document.querySelector('[data-testid="match-answer"]')?.scrollIntoView({ block: "start" });
    }, [asked, id, mutate]),
  );
  const stop = useAction(useCallback(() => send("POST", `/matches/${id}/stop`, Done), [id]));
  const compare = useAction(
    useCallback(async () => {
      const sheet = await send("POST", `/matches/${id}/sheet`, SheetDetail, { chosen: chosen.length > 0 ? chosen : [shown] });
      router.push(`/bench/sheet/${sheet.id}`);
    }, [id, chosen, shown, router]),
  );
  const take = useAction(
    useCallback(
      async (jobId: number) => {
        await send("POST", `/matches/${id}/job`, MatchView, { jobId, chosen: chosen[0] ?? shown });
        router.push(`/job/${jobId}`);
      },
      [id, chosen, shown, router],
    ),
  );
  const view = answer.data;
  const url = `/api/matches/${id}/picture`;
  const found = view?.answer;
  const answered = view?.asked;
  const current = found?.candidates[shown];
  const jobNames = Object.fromEntries((jobs.data ?? []).map((one) => [String(one.id), one.name]));
  const changed = answered !== null && asked !== undefined && JSON.stringify(answered) !== JSON.stringify(asked);
  const job = asked?.jobId == null ? undefined : jobs.data?.find((one) => one.id === asked.jobId);
  return (
    <Screen
      title={SAY.whichFontIsThis}
      note={view?.name}
      back="/bench/match"
      testID="match"
      action={
        find.busy ? (
          <View role="status" aria-live="polite">
            <Small className="mb-2">{progress ? SAY.comparingDoneOfIt(progress.done, progress.of) : SAY.lookingThroughYourFonts}</Small>
            <Button label={SAY.stop} busy={stop.busy} onPress={stop.run} testID="stop-match" />
          </View>
        ) : found && !changed ? (
          <Button
            strong
            label={chosen.length > 1 ? SAY.compareChosenOnTheBench(chosen.length) : SAY.tryItOnTheBench}
            busy={compare.busy}
            disabled={found.candidates.length === 0}
            onPress={compare.run}
            testID="match-compare"
          />
        ) : (
          <Button strong label={SAY.findTheFont} disabled={!asked || problem !== null} onPress={find.run} testID="find-match" />
        )
      }
    >
      <Loaded answer={answer} what={SAY.fetchingThePicture}>
        {(match) =>
          asked ? (
            <>
              <FramePicture
                url={url}
                width={match.width}
                height={match.height}
                lines={match.lines}
                asked={asked}
                tool={tool}
                onChange={change}
                onColour={(colour) => {
                  change({ colour });
                  setTool("frame");
                }}
              />
              <View className="mt-2 flex-row flex-wrap gap-2" role="group" aria-label={SAY.whatTouchingDoes}>
                {(Object.entries(TOOLS) as [Tool, (typeof TOOLS)[Tool]][]).map(([key, { label }]) => (
                  <Button key={key} label={label} pressed={tool === key} onPress={() => setTool(key)} testID={`tool-${key}`} />
                ))}
              </View>
              <Small className="mb-3 mt-1">{TOOLS[tool].hint}</Small>
              {match.lines.length === 0 && !match.asked ? <Body className="mb-3">{SAY.noLineOfLetteringWas}</Body> : null}
              {asked.strokes.length > 0 || asked.colour !== null ? (
                <View className="mb-3 flex-row flex-wrap items-center gap-2">
                  {asked.strokes.length > 0 ? (
                    <Button
                      label={SAY.takeBackAStrokeStrokes(asked.strokes.length)}
                      onPress={() => change({ strokes: asked.strokes.slice(0, -1) })}
                      testID="unstroke"
                    />
                  ) : null}
                  {asked.colour !== null ? (
                    <Button label={SAY.anyColourNotColour(asked.colour)} onPress={() => change({ colour: null })} testID="uncolour" />
                  ) : null}
                </View>
              ) : null}
              {problem ? <ApiProblemNote problem={problem} /> : null}
              <Drawer label={SAY.whatItReads} testID="match-reading">
                <DrawerRow first>
                  {reading ? (
                    <View aria-busy={stale}>
                      {TURNED[reading.turned] ? <Body className="mb-2">{TURNED[reading.turned]}</Body> : null}
                      <LetterCells
                        reading={reading}
                        onLetter={(at, letter) => change({ words: withLetter(asked.words.trim() || reading.words, at, letter) })}
                      />
                    </View>
                  ) : problem ? null : (
                    <Waiting what={SAY.readingTheLetters} />
                  )}
                  {stale && reading ? <Small className="mb-2">{SAY.readingItAgain}</Small> : null}
                  <Field
                    label={SAY.theWordsInTheFrame}
                    value={asked.words}
                    onChange={(words) => change({ words: words.slice(0, 120) })}
                    placeholder={reading?.words}
                    hint={asked.words.trim() === "" ? SAY.typeThemOrPutSingle : undefined}
                    testID="match-words"
                  />
                  {asked.words.trim() === "" && reading && !reading.joined && !reading.words.includes("·") ? (
                    <View className="items-start">
                      <Button
                        label={SAY.itReadsWords(reading.words)}
                        onPress={() => change({ words: reading.words })}
                        testID="take-reading"
                      />
                    </View>
                  ) : null}
                </DrawerRow>
                {jobs.data && jobs.data.length > 0 ? (
                  <DrawerRow>
                    <Choice
                      label={SAY.forAJob}
                      none={SAY.forNoJob}
                      words={jobNames}
                      value={asked.jobId === null ? undefined : String(asked.jobId)}
                      onChange={(next) =>
                        change({ jobId: next === undefined ? null : Number(next), ...(next === undefined ? { onlyCleared: false } : {}) })
                      }
                      testID="match-job"
                    />
                  </DrawerRow>
                ) : null}
                <Tick
                  label={job ? SAY.onlyWhatIMayUse : SAY.onlyWhatIMayUseMyself}
                  on={asked.onlyCleared}
                  onChange={(onlyCleared) => change({ onlyCleared })}
                  testID="only-cleared"
                />
              </Drawer>
              {find.problem ? <ApiProblemNote problem={find.problem} /> : null}
              {compare.problem ? <ApiProblemNote problem={compare.problem} /> : null}
              {take.problem ? <ApiProblemNote problem={take.problem} /> : null}
              {found && answered ? (
                <View testID="match-answer">
                  <View role="status" aria-live="polite" className="mb-3">
                    <Strong>{found.sentence}</Strong>
                    {changed ? <Small>{SAY.thisIsTheAnswerTo}</Small> : null}
                    {TURNED[found.turned] ? <Small>{TURNED[found.turned]}</Small> : null}
                    {found.straightened === 0 ? null : <Small>{SAY.theFrameWasStraightened(found.straightened)}</Small>}
                    {found.unmeasured > 0 ? <Small>{SAY.unmeasuredCouldNotBeLooked(found.unmeasured)}</Small> : null}
                  </View>
                  {current ? <Overlay url={url} asked={answered} candidate={current} width={match.width} height={match.height} /> : null}
                  <View className="mt-3" />
                  {found.candidates.length > 0 ? (
                    <Candidates answer={found} shown={shown} onShow={setShown} chosen={chosen} onChosen={setChosen} />
                  ) : null}
                  {job && current?.familyId != null ? (
                    <View className="items-start">
                      <Button
                        label={SAY.takeFamilyForName(current.family, job.name)}
                        busy={take.busy}
                        onPress={() => take.run(job.id)}
                        testID="match-to-job"
                      />
                    </View>
                  ) : null}
                </View>
              ) : null}
            </>
          ) : (
            <Waiting what={SAY.fetchingThePicture} />
          )
        }
      </Loaded>
    </Screen>
  );
}
