// Small parts every screen is made of: what they say to a screen reader, and what they do when pressed.
import { act, fireEvent, render, screen } from "@testing-library/react-native";
import { Text } from "react-native";
import { ApiProblem } from "../data/api.ts";
import type { Answer } from "../data/hooks.ts";
import { Fallen } from "./Fallen.tsx";
import { RadioRow } from "./RadioRow.tsx";
import { SearchField } from "./SearchField.tsx";
import { ClearanceWarnings, Empty, Loaded, ProgressBar } from "./Status.tsx";
import { Tick } from "./Tick.tsx";

test("a box says whether it is ticked, and asks for the other", async () => {
  const asked: boolean[] = [];
  await render(<Tick label="Keep evidence" note="Files are kept." on={false} onChange={(on) => asked.push(on)} testID="tick" />);
  expect(screen.getByTestId("tick").props).toMatchObject({ role: "checkbox", accessibilityState: { checked: false } });
  fireEvent.press(screen.getByTestId("tick"));
  await screen.rerender(<Tick label="Keep evidence" on onChange={(on) => asked.push(on)} testID="tick" />);
  expect(screen.queryByText("Files are kept.")).toBeNull();
  fireEvent.press(screen.getByText("Keep evidence"));
  expect(asked).toEqual([true, false]);
});

test("one of several answers is checked, and pressing it chooses it", async () => {
  let chosen = 0;
  await render(<RadioRow label="For me" note="This account" chosen first onPress={() => chosen++} testID="me" />);
  expect(screen.getByTestId("me").props).toMatchObject({ role: "radio", accessibilityState: { checked: true } });
  fireEvent.press(screen.getByText("This account"));
  expect(chosen).toBe(1);
});

test("a search field is reached by its key, and takes no more than it may", async () => {
  let text = "";
  await render(<SearchField label="Find" value="" onChange={(now) => (text = now)} placeholder="A name" most={40} testID="search" />);
  const field = screen.getByTestId("search");
  expect([field.props["aria-label"], field.props["maxLength"], field.props["dataSet"]]).toEqual(["Find", 40, { key: "find" }]);
  fireEvent.changeText(field, "fennel");
  expect(text).toBe("fennel");
});

test("progress is told in percent, and not at all while the end is unknown", async () => {
  await render(<ProgressBar part={0.256} label="Unpacking" />);
  expect(screen.getByLabelText("Unpacking").props["aria-valuenow"]).toBe(26);
  await screen.rerender(<ProgressBar part={undefined} label="Unpacking" />);
  expect(screen.getByLabelText("Unpacking").props["aria-valuenow"]).toBeUndefined();
});

test("every warning before something is placed stands by itself", async () => {
  await render(<ClearanceWarnings warnings={["Not cleared for sold goods.", "The licence of Frostbloom has ended."]} />);
  expect(screen.getAllByTestId("clearance-warning").length).toBe(2);
  expect(screen.getByText("The licence of Frostbloom has ended.")).toBeTruthy();
});

test("an empty list says what it is empty of, and what to do", async () => {
  await render(
    <Empty title="No families yet">
      <Text>Bring in a download.</Text>
    </Empty>,
  );
  expect([screen.getByText("No families yet"), screen.getByText("Bring in a download.")].every(Boolean)).toBe(true);
});

describe("what comes from the server", () => {
  const answer = (more: object): Answer<string> => ({ data: undefined, error: undefined, mutate: async () => undefined, ...more }) as never;
  const shown = (value: Answer<string>) => (
    <Loaded answer={value} what="Looking at families…">
      {(text) => <Text>{text}</Text>}
    </Loaded>
  );
  test("is waited for in words, then shown; a problem says what it is and can be tried again", async () => {
    await render(shown(answer({})));
    expect(screen.getByText("Looking at families…")).toBeTruthy();
    let tries = 0;
    const problem = new ApiProblem("gone", "This family is not there.", "Look at the list.", 404);
    await screen.rerender(shown(answer({ error: problem, mutate: async () => void tries++ })));
    expect([screen.getByText("This family is not there."), screen.getByText("Look at the list.")].every(Boolean)).toBe(true);
    fireEvent.press(screen.getByText("Try again"));
    expect(tries).toBe(1);
    // What was known stays while it is asked for again.
    await screen.rerender(shown(answer({ data: "Trellis Fair", error: problem })));
    expect(screen.getByText("Trellis Fair")).toBeTruthy();
  });
});

describe("a screen that falls", () => {
  const Broken = ({ message }: { message: string }): never => {
    throw new Error(message);
  };
  const quietly = async (work: () => Promise<unknown>): Promise<void> => {
    const told = jest.spyOn(console, "error").mockImplementation(() => {});
    await work();
    told.mockRestore();
  };
  test("says so in its place; another address is another try", async () => {
    await quietly(async () => {
      await render(
        <Fallen at="/family/1">
          <Broken message="undefined is not a function" />
        </Fallen>,
      );
      expect(screen.getByTestId("problem")).toBeTruthy();
      await screen.rerender(
        <Fallen at="/family/2">
          <Text>Seedbox Block</Text>
        </Fallen>,
      );
      expect(screen.getByText("Seedbox Block")).toBeTruthy();
      expect(screen.queryByTestId("problem")).toBeNull();
    });
  });
  test("whose code could not be fetched says that the server is away, and stays until it answers", async () => {
    await quietly(async () => {
      await render(
        <Fallen at="/cut">
          <Broken message="Loading chunk 7 failed" />
        </Fallen>,
      );
      expect(screen.getByText("Buvano's server cannot be reached.")).toBeTruthy();
      globalThis.fetch = (() => Promise.reject(new TypeError("network"))) as typeof fetch;
      await act(async () => void fireEvent.press(screen.getByTestId("try-again")));
      expect(screen.getByText("Buvano's server cannot be reached.")).toBeTruthy();
    });
  });
});
