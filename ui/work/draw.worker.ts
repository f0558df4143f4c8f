// Runs in a worker of the browser; bundled by itself (scripts/build.mjs). The shaping library takes a moment to start: what is asked meanwhile
// waits here, since a worker's messages are lost until somebody listens.
import type { Ask, Reply } from "./draw-messages.ts";

const work = import("./draw.ts");
const scope = self as unknown as { onmessage: (event: MessageEvent<Ask>) => void; postMessage(reply: Reply): void };
scope.onmessage = ({ data }) => {
  work.then(
    ({ handle }) => handle(data, (reply) => scope.postMessage(reply)),
    () => scope.postMessage({ id: data.id, kind: "gone" }),
  );
};
