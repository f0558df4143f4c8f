// Remarks of the health checks: what is wrong, what it means in a program, what to do.
import { Pressable, View } from "react-native";
import { useOpen } from "../data/page.ts";
import type { Finding } from "../../contract/styles.ts";
import { count } from "../../core/words/words.ts";
import { Body, Small } from "./Text.tsx";
import { SAY } from "../sentences/parts.ts";

export function FindingList({ findings }: { findings: readonly Finding[] }) {
  return findings.map((finding) => (
    <View
      key={finding.code + finding.message}
      className={`my-1 border-l-2 pl-3 ${finding.level === "note" ? "border-edge" : "border-warning"}`}
    >
      <Body>{finding.message}</Body>
      <Small>
        {finding.meaning} {finding.next}
      </Small>
      <Small className="text-xs">{finding.standard}</Small>
    </View>
  ));
}

/** Remarks behind a line that says how many there are; `of` tells them from those of other things on the page. */
export function Remarks({ of, findings }: { of: string; findings: readonly Finding[] }) {
  const [open, setOpen] = useOpen(`remarks ${of}`);
  if (findings.length === 0) return null;
  return (
    <View>
      <Pressable
        role="button"
        aria-expanded={open}
        onPress={() => setOpen(!open)}
        testID="remarks"
        className="min-h-[44px] justify-center active:opacity-60"
      >
        <Small className="text-ink underline">{open ? SAY.hideRemarks : count(findings.length, "remark")}</Small>
      </Pressable>
      {open ? <FindingList findings={findings} /> : null}
    </View>
  );
}
