// Saving a cut as files, and what was saved before.
import { useCallback, useState } from "react";
import { View } from "react-native";
import type { LineCut } from "../../../contract/cutting.ts";
import type { CutFormat } from "../../../core/cutting/sheets/formats.ts";
import { fetchFile } from "../../data/api.ts";
import { cutWords } from "../../data/cut.ts";
import { useAction, type Action } from "../../data/useAction.ts";
import { Button } from "../../parts/Button.tsx";
import { Choice } from "../../parts/Choice.tsx";
import { Drawer, DrawerRow } from "../../parts/Drawer.tsx";
import { Download } from "../../parts/icons.ts";
import { ApiProblemNote, ProblemNote } from "../../parts/Status.tsx";
import { Body, Small } from "../../parts/Text.tsx";
import { Tick } from "../../parts/Tick.tsx";
import { download } from "../../web/download.ts";
import { SAY } from "../../sentences/cutting/cut.ts";

const FORMATS = {
  svg: "SVG",
  "dxf splines": SAY.dxfCurves,
  "dxf polylines": SAY.dxfStraightPieces,
  pdf: "PDF",
  png: SAY.picturePng,
} as const;
type FormatKey = keyof typeof FORMATS;

interface Saving {
  format: FormatKey;
  setFormat: (format: FormatKey) => void;
  apart: boolean;
  setApart: (apart: boolean) => void;
  despite: boolean;
  setDespite: (despite: boolean) => void;
  save: Action<[again?: number]>;
}
/** `path` of the cut's endpoints, `name` for its files; `before` and `after` saving something else happens. */
export function useCutSaving(path: string, name: string, before: () => Promise<void>, after: () => Promise<unknown>): Saving {
  const [format, setFormat] = useState<FormatKey>("svg");
  const [apart, setApart] = useState(false);
  const [despite, setDespite] = useState(false);
  const save = useAction(
    useCallback(
      async (again?: number) => {
        await before();
        const [kind, curves = "splines"] = format.split(" ") as [CutFormat, string?];
        const file = await fetchFile(`${path}/files`, { format: kind, curves, apart, despite, ...(again === undefined ? {} : { again }) });
        download(file, `${name}.${file.type === "application/zip" ? "zip" : kind}`);
        await after();
      },
      [path, name, format, apart, despite, before, after],
    ),
  );
  return { format, setFormat, apart, setApart, despite, setDespite, save };
}

interface Props {
  known: LineCut;
  saving: Saving;
  /** Why nothing can be saved now; "" where it can. */
  blocked: string;
}

/** The screen's next step. */
export function SaveAction({ known, saving, blocked }: Props) {
  const { format, setFormat, save, despite } = saving;
  const asked = known.clearance !== "" && !despite;
  return (
    <>
      {asked ? <Small className="text-warning">{SAY.notClearedForThisJob}</Small> : null}
      <View className="flex-row gap-2">
        <Choice
          label={SAY.kindOfFile}
          words={FORMATS}
          value={format}
          onChange={(next) => next && setFormat(next)}
          grow
          testID="cut-format"
        />
        <View className="flex-1">
          <Button
            label={SAY.save}
            hint={SAY.toCut}
            icon={Download}
            strong
            busy={save.busy}
            disabled={(blocked !== "" && format !== "png") || asked}
            onPress={() => save.run()}
            testID="save-cut"
          />
        </View>
      </View>
    </>
  );
}

export function SaveDrawer({ known, saving, blocked }: Props) {
  const { apart, setApart, despite, setDespite, save } = saving;
  const asked = known.clearance !== "";
  return (
    <Drawer label={SAY.files} testID="cut-save">
      <View className="p-3">
        {save.problem ? <ApiProblemNote problem={save.problem} /> : null}
        {blocked === "" ? null : <Small className="mb-2 text-warning">{blocked}</Small>}
        {asked ? <ProblemNote testID="cut-clearance" message={known.clearance} next={SAY.getALicenceForIt} /> : null}
        <Small>{SAY.savedInTrueSizeA}</Small>
      </View>
      {asked ? <Tick label={SAY.iMayUseItFor} note={SAY.thisIsNotedInThe} on={despite} onChange={setDespite} testID="cut-despite" /> : null}
      <Tick label={SAY.aFileForEveryColour} on={apart} onChange={setApart} testID="cut-apart" />
      {known.made.map((made) => (
        <DrawerRow key={made.id} testID="cut-made">
          <View className="flex-row flex-wrap items-center justify-between gap-2">
            <View className="min-w-0 flex-1">
              <Body>{cutWords(made)}</Body>
              <Small>
                {SAY.whatWasSaved(
                  made.source.line.text.slice(0, 60),
                  made.numbers.widthMm.toFixed(1),
                  made.numbers.heightMm.toFixed(1),
                  made.changedSince,
                )}
              </Small>
            </View>
            <Button
              label={SAY.saveAgain}
              hint={cutWords(made)}
              disabled={save.busy || (asked && !despite)}
              onPress={() => save.run(made.id)}
              testID="save-again"
            />
          </View>
        </DrawerRow>
      ))}
    </Drawer>
  );
}
