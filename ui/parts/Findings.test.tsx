import { fireEvent, render, screen } from "@testing-library/react-native";
import type { Finding } from "../../contract/styles.ts";
import { Remarks } from "./Findings.tsx";
import { Field } from "./Field.tsx";
import { Tick } from "./Tick.tsx";

const finding: Finding = {
  code: "loca",
  level: "stop",
  message: "Glyphs lie over one another.",
  meaning: "Programs will refuse it.",
  next: "Download it again.",
  standard: "OpenType specification, loca",
};

test("remarks lie behind a line that counts them, each with its meaning, remedy and source", async () => {
  await render(<Remarks of="a style" findings={[finding, { ...finding, message: "Another." }]} />);
  expect(screen.queryByText("Glyphs lie over one another.")).toBeNull();
  await fireEvent.press(screen.getByText("2 remarks"));
  expect(screen.getByText("Glyphs lie over one another.")).toBeTruthy();
  expect(screen.getAllByText("Programs will refuse it. Download it again.")).toHaveLength(2);
  expect(screen.getAllByText("OpenType specification, loca")).toHaveLength(2);
});

test("without remarks there is no line", async () => {
  await render(<Remarks of="a style" findings={[]} />);
  expect(screen.queryByText(/remark/)).toBeNull();
});

test("a field shows its problem in place of its hint", async () => {
  const change = jest.fn();
  await render(<Field label="Seats" value="0" hint="how many" problem="A whole number." onChange={change} />);
  expect(screen.queryByText("how many")).toBeNull();
  expect(screen.getByText("A whole number.")).toBeTruthy();
  await fireEvent.changeText(screen.getByLabelText("Seats"), "3");
  expect(change).toHaveBeenCalledWith("3");
});

test("a tick tells a screen reader whether it is on, and turns", async () => {
  const change = jest.fn();
  await render(<Tick label="Sold goods" on={false} onChange={change} />);
  expect(screen.getByRole("checkbox").props.accessibilityState?.checked ?? screen.getByRole("checkbox").props["aria-checked"]).toBe(false);
  await fireEvent.press(screen.getByText("Sold goods"));
  expect(change).toHaveBeenCalledWith(true);
});
