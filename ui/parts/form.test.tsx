// Forms over a contract's schema: limits beforehand, errors at the field, nothing sent that does not fit.
import { fireEvent, render, screen } from "@testing-library/react-native";
import { z } from "zod";
import { speakPlainly } from "../../contract/refused.ts";
import { Button } from "./Button.tsx";
import { FieldProblem, NumberField, TextField, useContractForm, useKeptForm, useToggle } from "./form.tsx";
import { Tick } from "./Tick.tsx";

speakPlainly();
const Seeds = z.object({
  name: z.string().trim().min(1).max(20),
  packets: z.number().int().min(1).max(5000).nullable(),
  uses: z.array(z.string()).min(1),
});
type Seeds = z.infer<typeof Seeds>;

function Form({ onSent }: { onSent: (seeds: Seeds) => void }) {
  const form = useContractForm(Seeds, { name: "", packets: 3, uses: [] });
  const uses = useToggle({ form, name: "uses" });
  return (
    <>
      <TextField form={form} name="name" label="Name" testID="name" />
      <NumberField form={form} name="packets" label="Packets" hint="For the shop." optional testID="packets" />
      <Tick label="Sold" on={uses.has("sold")} onChange={(on) => uses.put("sold", on)} testID="sold" />
      <FieldProblem form={form} name="uses" />
      <Button label="Keep" onPress={() => void form.handleSubmit(onSent)()} testID="keep" />
    </>
  );
}
const sent = jest.fn();
beforeEach(async () => {
  sent.mockReset();
  await render(<Form onSent={sent} />);
});
const type = (testID: string, text: string) => fireEvent.changeText(screen.getByTestId(testID), text);

test("bounds are said beforehand, and characters while few are left", async () => {
  expect(screen.getByText("For the shop. From 1 to 5,000.")).toBeTruthy();
  expect(screen.queryByText(/left/)).toBeNull();
  await type("name", "twelve chars");
  expect(screen.getByText("8 characters left.")).toBeTruthy();
  await type("name", "x".repeat(19));
  expect(screen.getByText("1 character left.")).toBeTruthy();
});
test("what is wrong stands at its field, and nothing is sent", async () => {
  await type("packets", "many");
  await fireEvent.press(screen.getByTestId("keep"));
  expect(await screen.findByText("Write something here.")).toBeTruthy();
  expect(screen.getByText("Write a number.")).toBeTruthy();
  expect(screen.getByText("Choose at least one.")).toBeTruthy();
  expect(sent).not.toHaveBeenCalled();
  await type("packets", "2.5");
  expect(await screen.findByText("Write a whole number.")).toBeTruthy();
  await type("packets", "5001");
  expect(await screen.findByText("At most 5,000.")).toBeTruthy();
});
test("too much is said at once; all else when the field is left, not while its first word is written", async () => {
  await type("name", "x".repeat(21));
  expect(screen.getByText("At most 20 characters.")).toBeTruthy();
  await type("name", " ");
  expect(screen.queryByText("Write something here.")).toBeNull();
  await fireEvent(screen.getByTestId("name"), "blur");
  expect(await screen.findByText("Write something here.")).toBeTruthy();
});
test("what fits is sent as the schema makes it; nothing is an answer where it may be", async () => {
  await type("name", "  Sweet pea ");
  await type("packets", "");
  await fireEvent.press(screen.getByTestId("sold"));
  await fireEvent.press(screen.getByTestId("keep"));
  await screen.findByTestId("keep");
  expect(sent.mock.calls[0]?.[0]).toEqual({ name: "Sweet pea", packets: null, uses: ["sold"] });
});

const Limit = z.object({ most: z.number().min(1).max(9), least: z.number().min(1).max(9) });
function Kept(kept: z.infer<typeof Limit>) {
  const form = useKeptForm(Limit, kept);
  return (
    <>
      <NumberField form={form} name="most" label="Most" testID="most" />
      <NumberField form={form} name="least" label="Least" testID="least" />
    </>
  );
}
test("what is kept and changes elsewhere is followed, but not over what somebody is typing", async () => {
  const { rerender } = await render(<Kept most={5} least={1} />);
  await type("most", "7");
  await rerender(<Kept most={6} least={2} />);
  expect(screen.getByTestId("most").props.value).toBe("7");
  expect(screen.getByTestId("least").props.value).toBe("2");
});
