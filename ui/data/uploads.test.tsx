// The queue of parcels on their way to the server: one after another, called off, stopped by a problem, sent again.
import { act } from "@testing-library/react-native";
import { callOff, dropFiles, sendAgain, useOutgoing, type Outgoing } from "./uploads.ts";
import { render, screen } from "@testing-library/react-native";
import { Text } from "react-native";

/** A server's end of the line that answers when the test says so. */
class Line {
  static all: Line[] = [];
  upload: { onprogress?: (event: { loaded: number; total: number }) => void } = {};
  onload?: () => void;
  onerror?: () => void;
  onabort?: () => void;
  status = 0;
  responseText = "";
  aborted = false;
  open(): void {}
  send(): void {
    Line.all.push(this);
  }
  abort(): void {
    this.aborted = true;
    this.onabort?.();
  }
  answer(status: number, body: unknown): void {
    this.status = status;
    this.responseText = JSON.stringify(body);
    this.onload?.();
  }
}

const parcel = (id: number) => ({
  id,
  name: "a.zip",
  bytes: 1,
  state: "waiting",
  progress: null,
  problem: null,
  arrivedAt: "2026-01-01T00:00:00.000Z",
  counts: {},
  families: 0,
  styles: 0,
  shelvedStyles: 0,
  shelvableStyles: 0,
  unwrappableStyles: 0,
  beingRead: 0,
  troubles: 0,
  cleared: false,
});
const file = (name: string): File => ({ name, size: 100, webkitRelativePath: "" }) as unknown as File;

let queue: readonly Outgoing[] = [];
function Watch() {
  queue = useOutgoing();
  return <Text>{queue.length}</Text>;
}
const states = (): string[] => queue.map((one) => `${one.name} ${one.state}`);
const settle = () => act(async () => void (await Promise.resolve()));

beforeEach(async () => {
  Line.all = [];
  Object.assign(globalThis, {
    XMLHttpRequest: Line,
    FormData: class {
      append(): void {}
    },
  });
  await render(<Watch />);
  await act(async () => queue.forEach((one) => callOff(one.id)));
});

test("archives wait for their turn, each a parcel of its own; loose fonts go together", async () => {
  await act(async () => void dropFiles([file("a.zip"), file("x.ttf"), file("b.zip"), file("y.otf")]));
  expect(states()).toEqual(["2 files sending", "a.zip waiting", "b.zip waiting"]);
  await act(async () => Line.all[0]!.upload.onprogress!({ loaded: 50, total: 200 }));
  expect([queue[0]!.sent, queue[0]!.total]).toEqual([50, 200]);
  await act(async () => Line.all[0]!.answer(200, parcel(1)));
  await settle();
  expect(states()).toEqual(["a.zip sending", "b.zip waiting"]);
  expect(screen.getByText("2")).toBeTruthy();
});

test("one that waits and one on its way can be called off; the others go on", async () => {
  await act(async () => void dropFiles([file("a.zip"), file("b.zip"), file("c.zip")]));
  await act(async () => callOff(queue[1]!.id));
  expect(states()).toEqual(["a.zip sending", "c.zip waiting"]);
  await act(async () => callOff(queue[0]!.id));
  await settle();
  expect(Line.all[0]!.aborted).toBe(true);
  expect(states()).toEqual(["c.zip sending"]);
});

test("a refusal stays with its sentence until it is dismissed or sent again", async () => {
  await act(async () => void dropFiles([file("a.zip"), file("b.zip")]));
  const problem = { type: "x", title: "x", status: 413, detail: "“a.zip” is too large.", code: "upload-too-large", next: "Drop less." };
  await act(async () => Line.all[0]!.answer(413, problem));
  await settle();
  expect(states()).toEqual(["a.zip stopped", "b.zip sending"]);
  expect([queue[0]!.problem?.message, queue[0]!.problem?.next]).toEqual(["“a.zip” is too large.", "Drop less."]);
  await act(async () => void sendAgain(queue[0]!.id));
  expect(states()).toEqual(["a.zip sending", "b.zip sending"]);
  await act(async () => Line.all[2]!.answer(200, parcel(2)));
  await settle();
  expect(states()).toEqual(["b.zip sending"]);
});

test("a line that breaks says that the server cannot be reached", async () => {
  await act(async () => void dropFiles([file("a.zip")]));
  await act(async () => Line.all[0]!.onerror!());
  await settle();
  expect(queue[0]!.problem?.message).toBe("Buvano's server cannot be reached.");
});
