import { act, fireEvent, render, screen } from "@testing-library/react-native";
import { ApiProblem } from "../data/api.ts";
import { dismissUndo, offerUndo } from "../data/undo.ts";
import { UndoBar } from "./UndoBar.tsx";

afterEach(() => act(() => dismissUndo()));

test("offers the last thing only, until it is dismissed", async () => {
  await render(<UndoBar />);
  expect(screen.queryByText("Undo")).toBeNull();
  await act(() => offerUndo("One is gone.", async () => {}));
  await act(() => offerUndo("Two is gone.", async () => {}));
  expect(screen.queryByText("One is gone.")).toBeNull();
  expect(screen.getByText("Two is gone.")).toBeTruthy();
  await fireEvent.press(screen.getByLabelText("Dismiss"));
  expect(screen.queryByText("Two is gone.")).toBeNull();
});

test("takes it back once, and says so where it was done", async () => {
  const undo = jest.fn(async () => {});
  await render(<UndoBar />);
  await act(() => offerUndo("It is gone.", undo));
  await act(async () => void (await fireEvent.press(screen.getByText("Undo"))));
  expect(undo).toHaveBeenCalledTimes(1);
  expect(screen.queryByText("It is gone.")).toBeNull();
  expect(screen.getByText("Undone: It is gone.")).toBeTruthy();
  expect(screen.queryByText("Undo")).toBeNull();
});

test("says why it could not be taken back, and keeps the offer", async () => {
  await render(<UndoBar />);
  await act(() =>
    offerUndo("It is gone.", async () => {
      throw new ApiProblem("archive-gone", "The archive is deleted already.", "Download it again.", 409);
    }),
  );
  await act(async () => void (await fireEvent.press(screen.getByText("Undo"))));
  expect(screen.getByText("The archive is deleted already.")).toBeTruthy();
  expect(screen.getByText("Undo")).toBeTruthy();
});

test("what changed nothing is only said; what usually follows is offered", async () => {
  const go = jest.fn();
  await render(<UndoBar />);
  await act(() => offerUndo("Nothing needed changing.", null));
  expect(screen.getByText("Nothing needed changing.")).toBeTruthy();
  expect(screen.queryByText("Undo")).toBeNull();
  await act(() => offerUndo("12 styles shelved.", async () => {}, { label: "Place them", go }));
  await fireEvent.press(screen.getByText("Place them"));
  expect(go).toHaveBeenCalledTimes(1);
  expect(screen.queryByText("12 styles shelved.")).toBeNull();
});
