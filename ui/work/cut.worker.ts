// Runs in a worker of the browser; bundled by itself (scripts/build.mjs). Only the latest question matters: what was asked before it and not begun is left.
import type { CutAsk, CutReply } from "./cut-messages.ts";

const work = import("./cut.ts");
const scope = self as unknown as { onmessage: (event: MessageEvent<CutAsk>) => void; postMessage(reply: CutReply): void };
let waiting: CutAsk | undefined;
let busy = false;
async function goOn(): Promise<void> {
  if (busy) return;
  busy = true;
  const { handle } = await work;
  while (waiting) {
    const asked = waiting;
    waiting = undefined;
    await handle(asked, (reply) => scope.postMessage(reply));
    // Messages that came meanwhile are heard.
    await new Promise((resolve) => setTimeout(resolve));
  }
  busy = false;
}
scope.onmessage = ({ data }) => {
  if (data.kind === "bridge") void work.then(({ handle }) => handle(data, (reply) => scope.postMessage(reply)));
  else {
    waiting = data;
    void goOn();
  }
};
