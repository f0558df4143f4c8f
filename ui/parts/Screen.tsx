// A screen: title, optional way back, one next action kept in view at the bottom, and everything else scrolling.
import { useRouter } from "expo-router";
import { ArrowLeft } from "./icons.ts";
import { Children, Fragment, isValidElement, useEffect, useRef, type ReactElement, type ReactNode, type Ref } from "react";
import { FlatList, Pressable, ScrollView, useWindowDimensions, View } from "react-native";
import { usePalette } from "../theme/theme.ts";
import { goingBack } from "../web/cameBack.ts";
import { openedByKey } from "../web/openedByKey.ts";
import { LeftAs, useLeftAt } from "./LeftAs.tsx";
import { Small, Title } from "./Text.tsx";
import { SAY } from "../sentences/parts.ts";

interface Props {
  title: string;
  note?: string;
  /** Beside the title: a quiet control. */
  aside?: ReactNode;
  /** Where "back" leads when there is no way the person came from. */
  back?: string;
  children: ReactNode;
  action?: ReactNode;
  /** Below everything, the width of the screen. */
  foot?: ReactNode;
  testID?: string;
}

const Action = ({ children }: { children: ReactNode }) => (
  <View className="border-t border-edge bg-drawer px-4 py-3" testID="actions">
    <View className="mx-auto w-full max-w-3xl gap-2">{children}</View>
  </View>
);

/** Controls side by side while there is room for all of them. */
export const InRow = ({ children }: { children: ReactNode }) => <View className="flex-row flex-wrap gap-2">{children}</View>;

/** A window this low, in pixels, is one that was made much larger, or a telephone on its side: one action stays in view, the others scroll. */
const LOW = 520;
/** Single controls of what may be wrapped in fragments, or lie in rows. */
const single = (node: ReactNode): ReactNode[] =>
  Children.toArray(node).flatMap((one) =>
    isValidElement<{ children?: ReactNode }>(one) && (one.type === Fragment || one.type === InRow) ? single(one.props.children) : [one],
  );
function useActions(action: ReactNode): { fixed: ReactNode; rest: ReactNode } {
  const low = useWindowDimensions().height < LOW;
  if (!low || !action) return { fixed: action, rest: null };
  const [first, ...others] = single(action);
  return { fixed: first, rest: others.length > 0 ? others : null };
}

export const Screen = (props: Props) => (
  <LeftAs>
    <Whole {...props} />
  </LeftAs>
);
function Whole({ title, note, aside, back, children, action, foot, testID }: Props) {
  const view = useRef<ScrollView>(null);
  useLeftAt(view);
  const { fixed, rest } = useActions(action);
  return (
    <View className="min-h-0 flex-1 bg-paper" testID={testID}>
      <ScrollView ref={view} className="flex-1" contentContainerClassName="mx-auto w-full max-w-3xl px-4 pb-10 pt-4">
        <Heading title={title} note={note} back={back} aside={aside} />
        {children}
        {rest ? <View className="gap-2">{rest}</View> : null}
      </ScrollView>
      {fixed ? <Action>{fixed}</Action> : null}
      {foot}
    </View>
  );
}

interface ListProps<T> extends Omit<Props, "children"> {
  rows: readonly T[];
  keyOf: (row: T) => string;
  render: (row: T) => ReactElement;
  header?: ReactNode;
  /** Below the last row. */
  footer?: ReactNode;
  frame?: Ref<View>;
  /** Rows are drawn again when this changes. */
  drawn?: unknown;
}

/** A screen whose rows may be thousands: only those near the window exist. */
export const ListScreen = <T,>(props: ListProps<T>) => (
  <LeftAs>
    <Rows {...props} />
  </LeftAs>
);
function Rows<T>({ title, note, aside, back, action, foot, testID, rows, keyOf, render, header, footer, frame, drawn }: ListProps<T>) {
  const view = useRef<FlatList<T>>(null);
  useLeftAt(view);
  const { fixed, rest } = useActions(action);
  return (
    <View ref={frame} className="min-h-0 flex-1 bg-paper" testID={testID}>
      <FlatList
        ref={view}
        data={rows}
        extraData={drawn}
        keyExtractor={keyOf}
        renderItem={({ item }) => render(item)}
        initialNumToRender={16}
        windowSize={9}
        contentContainerClassName="mx-auto w-full max-w-3xl px-4 pb-10 pt-4"
        ListFooterComponent={
          footer || rest ? (
            <View className="mt-4 gap-2">
              {footer}
              {rest}
            </View>
          ) : null
        }
        ListHeaderComponent={
          <>
            <Heading title={title} note={note} back={back} aside={aside} />
            {header}
          </>
        }
      />
      {fixed ? <Action>{fixed}</Action> : null}
      {foot}
    </View>
  );
}

export function Heading({ title, note, back, aside }: { title: string; note?: string; back?: string; aside?: ReactNode }) {
  const router = useRouter();
  const palette = usePalette();
  // Tabs, windows and the browser's own history are told apart by it.
  useEffect(() => {
    if (typeof document !== "undefined") document.title = SAY.titleBuvano(title);
  }, [title, back]);
  // Whoever opened a page by the keyboard goes on in it, also where it stands beside its list.
  const place = useRef<View>(null);
  useEffect(() => {
    if (back !== undefined && openedByKey()) (place.current as unknown as HTMLElement | null)?.focus();
  }, [back]);
  return (
    <View className="mb-4 flex-row items-start gap-1">
      {back ? (
        <Pressable
          role="button"
          aria-label={SAY.back}
          testID="back"
          dataSet={{ key: "back" }}
          onPress={() => {
            goingBack();
            if (router.canGoBack()) router.back();
            else router.replace(back);
          }}
          className="-ml-3 h-11 w-11 items-center justify-center active:opacity-60"
        >
          <ArrowLeft size={22} color={palette.ink} />
        </Pressable>
      ) : null}
      <View ref={place} tabIndex={-1} className="min-w-0 flex-1 justify-center">
        <Title>{title}</Title>
        {note ? <Small className="mt-1">{note}</Small> : null}
      </View>
      {aside}
    </View>
  );
}
