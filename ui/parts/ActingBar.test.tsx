// Progress of what is done with very many at once.
import { act, render, screen } from "@testing-library/react-native";
import { setActing } from "../data/progress.ts";
import { ActingBar } from "./ActingBar.tsx";

test("it is there while something is going on, says how far it is, and goes when that is done", async () => {
  await render(<ActingBar />);
  expect(screen.queryByTestId("acting")).toBeNull();
  await act(() => setActing({ done: 1250, total: 20_000 }));
  expect(screen.getByText("1,250 of 20,000 done")).toBeTruthy();
  expect(screen.getByLabelText("1,250 of 20,000 done").props["aria-valuenow"]).toBe(6);
  await act(() => setActing({ done: 20_000, total: 20_000 }));
  expect(screen.queryByTestId("acting")).toBeNull();
});
