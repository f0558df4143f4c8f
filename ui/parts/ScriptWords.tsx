// Words of other scripts, set once: for each script some family in the library draws.
import { SCRIPT_NAMES, SCRIPTS } from "../../core/coverage/script-list.ts";
import { useFamilyCounts } from "../data/hooks.ts";
import { useScriptWords } from "../data/words.ts";
import { Field } from "./Field.tsx";
import { Sheet } from "./Sheet.tsx";
import { Loaded } from "./Status.tsx";
import { Body } from "./Text.tsx";
import { SAY } from "../sentences/parts.ts";

/** As long as the words above may be. */
const MOST = 200;

export function ScriptWords({ onClose }: { onClose: () => void }) {
  const [words, setWords] = useScriptWords();
  const counts = useFamilyCounts({});
  return (
    <Sheet title={SAY.wordsInOtherScripts} note={SAY.shownWhereAFontDoes} onClose={onClose} testID="script-words">
      <Loaded answer={counts} what={SAY.lookingWhichScriptsYourFamilies}>
        {({ scripts }) => {
          const others = SCRIPTS.filter((script) => script !== "latin" && (scripts[script] ?? 0) > 0);
          if (others.length === 0) return <Body>{SAY.yourFamiliesDrawLatinLetters}</Body>;
          return others.map((script) => (
            <Field
              key={script}
              label={SCRIPT_NAMES[script]}
              value={words[script] ?? ""}
              onChange={(text) => setWords(script, text.slice(0, MOST))}
              testID={`words-${script}`}
            />
          ));
        }}
      </Loaded>
    </Sheet>
  );
}
