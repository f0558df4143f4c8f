// One line to the server for all tabs of this browser: a browser opens six connections to a server at a time, and a seventh tab would wait for ever.
// The tab that holds a lock (Web Locks API) listens and tells the others (BroadcastChannel); when it is closed another takes over.

export interface LineListeners {
  /** The line is up. `again`: something may have happened that nobody was told. */
  onOpen: (again: boolean) => void;
  onEvent: (data: string) => void;
}
type Told = { kind: "open" } | { kind: "event"; data: string };

const NAME = "buvano-events";
/** Whoever gets the lock later than this waited for another tab to be closed. */
const AT_ONCE_MS = 1000;

function direct(url: string, { onOpen, onEvent }: LineListeners, waited: boolean): () => void {
  const source = new EventSource(url);
  let lost = waited;
  source.onopen = () => {
    onOpen(lost);
    lost = false;
  };
  source.onerror = () => {
    lost = true;
  };
  source.onmessage = (message: MessageEvent<string>) => onEvent(message.data);
  return () => source.close();
}

/** Listens until what is returned is called. */
export function listenTo(url: string, listeners: LineListeners): () => void {
  const locks = typeof navigator === "undefined" ? undefined : (navigator.locks as LockManager | undefined);
  // Pages that are not secure have no locks: each has a line of its own.
  if (!locks || typeof BroadcastChannel === "undefined") return direct(url, listeners, false);
  const channel = new BroadcastChannel(NAME);
  channel.onmessage = ({ data }: MessageEvent<Told>) => {
    if (data.kind === "event") listeners.onEvent(data.data);
    else listeners.onOpen(true);
  };
  const waiting = new AbortController();
  let stop = () => {};
  const from = performance.now();
  void locks
    .request(NAME, { signal: waiting.signal }, () => {
      const close = direct(
        url,
        {
          onOpen: (again) => {
            channel.postMessage({ kind: "open" } satisfies Told);
            listeners.onOpen(again);
          },
          onEvent: (data) => {
            channel.postMessage({ kind: "event", data } satisfies Told);
            listeners.onEvent(data);
          },
        },
        performance.now() - from > AT_ONCE_MS,
      );
      return new Promise<void>((resolve) => {
        stop = () => {
          close();
          resolve();
        };
      });
    })
    .catch(() => {});
  return () => {
    waiting.abort();
    stop();
    channel.close();
  };
}
