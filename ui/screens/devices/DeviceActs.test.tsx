// What can be done with several fonts of a device: a plan is drawn for just those, and nothing happens before it is seen.
import { act, fireEvent, render, screen } from "@testing-library/react-native";
import type { DeviceDetail } from "../../../contract/devices.ts";
import { Afresh, refused, serve } from "../../../tests/ui/server.tsx";
import { useChoosing } from "../../data/choosing.ts";
import { DeviceActs } from "./DeviceActs.tsx";

const pushed: string[] = [];
jest.mock("expo-router", () => ({ useRouter: () => ({ push: (href: string) => mockPush(href) }) }));
const mockPush = (href: string): void => void pushed.push(href);

const device = (change: Partial<DeviceDetail> = {}): DeviceDetail =>
  ({ id: 2, name: "Office desktop", switches: true, total: 9, ...change }) as DeviceDetail;
let all = 0;
let choosing: ReturnType<typeof useChoosing>;
function Acts({ of }: { of: DeviceDetail }) {
  choosing = useChoosing("fonts");
  return <DeviceActs device={of} choosing={choosing} onAll={() => all++} />;
}
const settle = () => act(async () => void (await new Promise((resolve) => setTimeout(resolve, 20))));
const press = async (testID: string) => {
  await act(async () => void fireEvent.press(screen.getByTestId(testID)));
  await settle();
};
const shown = (of: DeviceDetail) =>
  render(
    <Afresh>
      <Acts of={of} />
    </Afresh>,
  );
beforeEach(async () => {
  pushed.length = 0;
  all = 0;
});
afterEach(() => act(async () => choosing.end()));

test("nothing is there while nobody chooses; with nothing chosen nothing can be done", async () => {
  await shown(device());
  expect(screen.queryByTestId("choose-bar")).toBeNull();
  await act(async () => choosing.begin());
  for (const testID of ["fonts-off", "fonts-on", "fonts-remove"])
    expect(screen.getByTestId(testID).props["accessibilityState"]).toMatchObject({ disabled: true });
  await press("choose-all-fitting");
  expect(all).toBe(1);
});

test("the plan is drawn for the files that are chosen, by where they lie", async () => {
  const asked = serve({ "POST /plans": refused(422, "plan-nothing", "None of these files is there any more.") });
  await shown(device());
  await act(async () => choosing.put(["me/a.ttf", "everyone/b c.otf"]));
  await press("fonts-off");
  expect(asked[0]!.body).toEqual({
    deviceId: 2,
    action: "switch-off",
    files: [
      { folder: "me", fileName: "a.ttf" },
      { folder: "everyone", fileName: "b c.otf" },
    ],
  });
  expect([screen.getByText("None of these files is there any more.") !== null, pushed]).toEqual([true, []]);
  await press("fonts-remove");
  expect(asked[1]!.body).toMatchObject({ action: "remove" });
});

test("a device that cannot turn single fonts off only offers to take them off; all chosen leaves nothing more to choose", async () => {
  await shown(device({ switches: false, total: 1 }));
  await act(async () => choosing.put(["profile/a.otf"]));
  expect([
    screen.queryByTestId("fonts-off"),
    screen.queryByTestId("choose-all-fitting"),
    screen.getByTestId("fonts-remove") !== null,
  ]).toEqual([null, null, true]);
});
