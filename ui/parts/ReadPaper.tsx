// A paper that can be opened and read where it is listed.
import { Pressable, View } from "react-native";
import { usePaper } from "../data/hooks.ts";
import { useOpen } from "../data/page.ts";
import { Loaded } from "./Status.tsx";
import { Body, Small } from "./Text.tsx";
import { SAY } from "../sentences/parts.ts";

function Contents({ sha256 }: { sha256: string }) {
  return (
    <Loaded answer={usePaper(sha256)} what={SAY.reading}>
      {(paper) => (
        <View className="mt-1 border-l-2 border-edge pl-3" testID="paper-text">
          <Body className="whitespace-pre-wrap">{paper.text}</Body>
          {paper.cut ? <Small className="mt-2">{SAY.itIsVeryLongOf}</Small> : null}
        </View>
      )}
    </Loaded>
  );
}

export function ReadPaper({ sha256, path }: { sha256: string; path: string }) {
  const [open, setOpen] = useOpen(`paper ${path}`);
  return (
    <>
      <Pressable
        role="button"
        aria-expanded={open}
        aria-label={`${open ? SAY.close : SAY.readIt}: ${path}`}
        testID="read-paper"
        onPress={() => setOpen(!open)}
        className="min-h-[44px] justify-center self-start pr-4 active:opacity-60"
      >
        <Small className="text-ink underline">{open ? SAY.close : SAY.readIt}</Small>
      </Pressable>
      {open ? <Contents sha256={sha256} /> : null}
    </>
  );
}
