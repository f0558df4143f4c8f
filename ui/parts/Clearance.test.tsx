import { fireEvent, render, screen } from "@testing-library/react-native";
import { Answer, type EvidenceOfUse, type UseClearance } from "../../contract/clearance.ts";
import { ANSWER_WORDS, USE_WORDS, USES } from "../../core/clearance/uses.ts";
import { AnswerWords, ClearanceTable } from "./Clearance.tsx";

const evidence = (change: Partial<EvidenceOfUse>): EvidenceOfUse => ({
  answer: "no",
  sentence: "Not for sold work.",
  before: "",
  after: "",
  where: "a.txt, line 3",
  again: 0,
  text: "a",
  paperSha256: "a",
  line: 3,
  licence: null,
  aside: "",
  leftOut: false,
  ...change,
});
const use = (change: Partial<UseClearance>): UseClearance => ({
  use: "sold",
  answer: "no",
  by: "papers",
  reason: "“Not for sold work.” (a.txt, line 3)",
  conflict: false,
  reading: false,
  evidence: [evidence({})],
  also: [],
  more: 0,
  note: "",
  ...change,
});

test.each(Answer.options)("the mark of %s comes with its word", async (answer) => {
  await render(<AnswerWords answer={answer} />);
  expect(screen.getByText(ANSWER_WORDS[answer])).toBeTruthy();
});

test("no two answers share a word", () => {
  expect(new Set(Object.values(ANSWER_WORDS)).size).toBe(Answer.options.length);
});

test("every use stands in the table; its sentence and place are shown on demand, and hidden again", async () => {
  await render(<ClearanceTable uses={USES.map((one) => use({ use: one }))} />);
  for (const one of USES) expect(screen.getByText(USE_WORDS[one])).toBeTruthy();
  expect(screen.queryByText("“Not for sold work.”")).toBeNull();
  await fireEvent.press(screen.getByText(USE_WORDS.sold));
  expect(screen.getByText("“Not for sold work.”")).toBeTruthy();
  expect(screen.getByText("No. It stands in a.txt, line 3.")).toBeTruthy();
  await fireEvent.press(screen.getByText(USE_WORDS.sold));
  expect(screen.queryByText("“Not for sold work.”")).toBeNull();
});

test("papers that contradict one another are said to", async () => {
  await render(<ClearanceTable uses={[use({ conflict: true })]} />);
  await fireEvent.press(screen.getByText(USE_WORDS.sold));
  expect(screen.getByText(/contradict one another/)).toBeTruthy();
});

test("silence says why, and a known licence is named", async () => {
  const licence = evidence({ answer: "yes", sentence: "Every use is free.", where: "OFL.txt, line 1", line: 1, licence: "OFL-1.1" });
  await render(
    <ClearanceTable
      uses={[
        use({ use: "web", answer: "not-stated", by: "nobody", reason: "Nothing that came with it says so.", evidence: [] }),
        use({ use: "own", answer: "yes", evidence: [licence] }),
      ]}
    />,
  );
  await fireEvent.press(screen.getByText(USE_WORDS.web));
  expect(screen.getByText("Nothing that came with it says so.")).toBeTruthy();
  await fireEvent.press(screen.getByText(USE_WORDS.own));
  expect(screen.getByText("Yes, by the licence OFL-1.1. It stands in OFL.txt, line 1.")).toBeTruthy();
});

test("a sentence is shown in its paragraph; it can be left out, and counts again", async () => {
  const left: [string, boolean][] = [];
  await render(
    <ClearanceTable
      uses={[
        use({
          evidence: [evidence({ before: "Thank you.", after: "Enjoy.", again: 2 })],
          also: [
            evidence({ sentence: "Is it for sale?", aside: "It is a question." }),
            evidence({ sentence: "Nothing may be sold.", aside: "You left it out.", leftOut: true }),
          ],
        }),
      ]}
      onLeave={(one, out) => left.push([one.sentence, out])}
    />,
  );
  await fireEvent.press(screen.getByText(USE_WORDS.sold));
  expect(screen.getByText(/Thank you\..*Enjoy\./)).toBeTruthy();
  expect(screen.getByText("No. It stands in a.txt, line 3. The same stands in 2 other places.")).toBeTruthy();
  await fireEvent.press(screen.getByTestId("leave-out"));
  await fireEvent.press(screen.getByTestId("also-said"));
  expect(screen.getByText("It does not count: It is a question. It stands in a.txt, line 3.")).toBeTruthy();
  await fireEvent.press(screen.getByTestId("count-again"));
  expect(left).toEqual([
    ["Not for sold work.", true],
    ["Nothing may be sold.", false],
  ]);
});
