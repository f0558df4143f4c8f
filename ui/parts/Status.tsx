// What a screen shows while it waits, when something went wrong, and when there is nothing yet.
import { TriangleAlert } from "./icons.ts";
import type { ReactNode } from "react";
import { ActivityIndicator, View } from "react-native";
import type { ApiProblem } from "../data/api.ts";
import type { Answer } from "../data/hooks.ts";
import { useIntoView } from "../web/intoView.ts";
import { usePalette } from "../theme/theme.ts";
import { Button } from "./Button.tsx";
import { Body, Small, Strong } from "./Text.tsx";
import { SAY } from "../sentences/parts.ts";

export function ProblemNote({
  message,
  next,
  children,
  testID = "problem",
}: {
  message: string;
  next: string;
  children?: ReactNode;
  testID?: string;
}) {
  const palette = usePalette();
  return (
    <View role="alert" testID={testID} className="mb-4 flex-row gap-3 border-l-4 border-warning bg-drawer p-3">
      <TriangleAlert size={20} color={palette.warning} aria-hidden />
      <View className="min-w-0 flex-1">
        <Strong>{message}</Strong>
        <Body className="mt-1">{next}</Body>
        {children}
      </View>
    </View>
  );
}

/** Uses a font is not cleared for, before it is placed or used. */
export function ClearanceWarnings({ warnings }: { warnings: readonly string[] }) {
  return warnings.map((warning) => <ProblemNote key={warning} testID="clearance-warning" message={warning} next={SAY.youCanGoAheadThe} />);
}

/** Why something that was asked for was not done; scrolled into view. */
export function ApiProblemNote({ problem }: { problem: ApiProblem }) {
  const place = useIntoView();
  return (
    <View ref={place}>
      <ProblemNote message={problem.message} next={problem.next} />
    </View>
  );
}

export function Waiting({ what }: { what: string }) {
  const palette = usePalette();
  return (
    <View className="flex-row items-center gap-3 py-6" role="status">
      {/* The words beside it say it. */}
      <ActivityIndicator color={palette.faded} aria-hidden />
      <Small>{what}</Small>
    </View>
  );
}

export function Empty({ title, children }: { title: string; children: ReactNode }) {
  return (
    <View className="border border-dashed border-edge p-5" testID="empty">
      <Strong>{title}</Strong>
      <View className="mt-2 gap-3">{children}</View>
    </View>
  );
}

/** Shows a resource once it is there; before that, waiting or its problem with a way to try again. */
export function Loaded<T>({ answer, what, children }: { answer: Answer<T>; what: string; children: (value: T) => ReactNode }) {
  if (answer.data !== undefined) return <>{children(answer.data)}</>;
  if (!answer.error) return <Waiting what={what} />;
  return (
    <ProblemNote message={answer.error.message} next={answer.error.next}>
      <View className="mt-3 items-start">
        <Button label={SAY.tryAgain} onPress={() => void answer.mutate()} />
      </View>
    </ProblemNote>
  );
}

/** A ruled bar; `part` from 0 to 1, undefined while the end is not known. */
export function ProgressBar({ part, label }: { part: number | undefined; label: string }) {
  const percent = Math.round((part ?? 0) * 100);
  return (
    <View
      role="progressbar"
      aria-label={label}
      aria-valuemin={0}
      aria-valuemax={100}
      aria-valuenow={part === undefined ? undefined : percent}
    >
      <View className="h-2 border border-edge bg-paper">
        <View className="h-full bg-verdigris" style={{ width: part === undefined ? "30%" : `${percent}%` }} />
      </View>
    </View>
  );
}
