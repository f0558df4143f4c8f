// Saving a cut as files, and what was saved before.
import { useCallback, useState } from "react";
import { View } from "react-native";
import type { LineCut } from "../../../contract/cut.ts";
import type { CutFormat } from "../../../core/cutting/formats.ts";
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

const FORMATS = {
  svg: "SVG",
  "dxf splines": "DXF, curves",
  "dxf polylines": "DXF, straight pieces",
  pdf: "PDF",
  png: "Picture (PNG)",
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
      {asked ? (
        <Small className="text-warning">Not cleared for this job. To save it all the same, say under Files that you may.</Small>
      ) : null}
      <View className="flex-row gap-2">
        <Choice label="Kind of file" words={FORMATS} value={format} onChange={(next) => next && setFormat(next)} grow testID="cut-format" />
        <View className="flex-1">
          <Button
            label="Save"
            hint="to cut"
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
    <Drawer label="Files" testID="cut-save">
      <View className="p-3">
        {save.problem ? <ApiProblemNote problem={save.problem} /> : null}
        {blocked === "" ? null : <Small className="mb-2 text-warning">{blocked}</Small>}
        {asked ? (
          <ProblemNote testID="cut-clearance" message={known.clearance} next="Get a licence for it, or choose another font." />
        ) : null}
        <Small>Saved in true size. A file names its font, words and settings; an SVG can be opened here again as a live line.</Small>
      </View>
      {asked ? (
        <Tick
          label="I may use it for this job all the same"
          note="This is noted in the history."
          on={despite}
          onChange={setDespite}
          testID="cut-despite"
        />
      ) : null}
      <Tick label="A file for every colour and sheet" on={apart} onChange={setApart} testID="cut-apart" />
      {known.made.map((made) => (
        <DrawerRow key={made.id} testID="cut-made">
          <View className="flex-row flex-wrap items-center justify-between gap-2">
            <View className="min-w-0 flex-1">
              <Body>{cutWords(made)}</Body>
              <Small>
                {`“${made.source.line.text.slice(0, 60)}”, ${made.numbers.widthMm.toFixed(1)} × ${made.numbers.heightMm.toFixed(1)} mm`}
                {made.changedSince ? ". The line has changed since." : ""}
              </Small>
            </View>
            <Button
              label="Save again"
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
