import { render, screen } from "@testing-library/react-native";
import type { Station } from "../../contract/styles.ts";
import { SightingState } from "../../contract/sightings.ts";
import { StateMark, STATE_WORDS, Trail } from "./Marks.tsx";

test.each(SightingState.options)("the mark of %s comes with its word", async (state) => {
  await render(<StateMark state={state} />);
  expect(screen.getByText(STATE_WORDS[state])).toBeTruthy();
});

test("no two states share a word", () => {
  expect(new Set(Object.values(STATE_WORDS)).size).toBe(SightingState.options.length);
});

test("the trail is said as a whole to a screen reader", async () => {
  const stations: Station[] = [
    { key: "in", state: "done", words: "4 styles" },
    { key: "sound", state: "remark", words: "Usable" },
    { key: "cleared", state: "open", words: "Not read" },
    { key: "placed", state: "stuck", words: "On no device" },
    { key: "seen", state: "open", words: "Nobody looked" },
  ];
  await render(<Trail stations={stations} />);
  expect(
    screen.getByLabelText("Trail. In: 4 styles; Sound: Usable; Cleared: Not read; Placed: On no device; Seen: Nobody looked"),
  ).toBeTruthy();
});
