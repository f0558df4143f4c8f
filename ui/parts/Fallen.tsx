// Stands in for a screen that could not be loaded or drawn, and says so; the tabs stay where they are.
import { Component, useCallback, type ReactNode } from "react";
import { View } from "react-native";
import { UNREACHABLE } from "../data/api.ts";
import { useAction } from "../data/useAction.ts";
import { Button } from "./Button.tsx";
import { ApiProblemNote, ProblemNote } from "./Status.tsx";
import { SAY } from "../sentences/parts.ts";

function Note({ error }: { error: Error }) {
  // A screen's code comes from the server too.
  const unloaded = /load|fetch|chunk|import/i.test(error.message);
  const again = useAction(
    useCallback(async () => {
      const answers = await fetch("/api/settings").then(
        (response) => response.ok,
        () => false,
      );
      if (!answers) throw UNREACHABLE;
      globalThis.location.reload();
    }, []),
  );
  return (
    <View className="flex-1 bg-paper p-4">
      {(again.problem ?? unloaded) ? (
        <ApiProblemNote problem={again.problem ?? UNREACHABLE} />
      ) : (
        <ProblemNote message={SAY.thisScreenCouldNotBe} next={SAY.tryItAgainWhatYou} />
      )}
      <View className="items-start">
        <Button label={SAY.tryAgain} busy={again.busy} onPress={again.run} testID="try-again" />
      </View>
    </View>
  );
}

interface Props {
  /** Where it stands: another address is another try. */
  at: string;
  children: ReactNode;
}

export class Fallen extends Component<Props, { error: Error | null; at: string }> {
  override state = { error: null as Error | null, at: this.props.at };
  static getDerivedStateFromError(error: unknown) {
    return { error: error instanceof Error ? error : new Error(String(error)) };
  }
  static getDerivedStateFromProps({ at }: Props, state: { at: string }) {
    return at === state.at ? null : { at, error: null };
  }
  override render() {
    return this.state.error ? <Note error={this.state.error} /> : this.props.children;
  }
}
