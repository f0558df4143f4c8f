// Files of the library that are gone, and having them looked for.
import { useCallback } from "react";
import { View } from "react-native";
import { MissingFound } from "../../../contract/library.ts";
import type { Today } from "../../../contract/today.ts";
import { send } from "../../data/api.ts";
import { offerUndo } from "../../data/undo.ts";
import { useAction } from "../../data/useAction.ts";
import { Button } from "../../parts/Button.tsx";
import { ApiProblemNote } from "../../parts/Status.tsx";
import { Body, Small } from "../../parts/Text.tsx";
import { SAY } from "../../sentences/today/today.ts";

export function Missing({ missing }: { missing: Today["missing"] }) {
  const find = useAction(
    useCallback(async () => {
      const { sentence } = await send("POST", "/library/missing/find", MissingFound);
      offerUndo(sentence, null);
    }, []),
  );
  if (missing === "") return null;
  return (
    <View className="mb-4 items-start gap-2 border-l-4 border-warning bg-drawer p-3" role="status" testID="missing">
      {find.problem ? <ApiProblemNote problem={find.problem} /> : null}
      <Body>{missing}</Body>
      <Small>{SAY.theyAreLookedForOn}</Small>
      <Button label={SAY.lookForThem} busy={find.busy} onPress={find.run} testID="find-missing" />
    </View>
  );
}
