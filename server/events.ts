// Tells every open page what changed, by server-sent events, once it can be seen.
import type { Response } from "express";
import type { ServerEvent } from "../contract/events.ts";

/** A person does not notice that it is told so much later. */
const TOGETHER_MS = 30;

type Topic = Exclude<ServerEvent["topic"], "progress" | "plan" | "match" | "acting">;

export class EventHub {
  private readonly open = new Set<Response>();
  private readonly pending = new Set<Topic>();
  private telling = false;
  private closed = false;
  /** Resolves to whether what changed shows in what pages read. */
  private fresh: () => Promise<boolean> = () => Promise.resolve(true);

  /** Somebody here who wants to know as well, at once. */
  onChanged: (topics: readonly Topic[]) => void = () => {};

  holdUntil(fresh: () => Promise<boolean>): void {
    this.fresh = fresh;
  }

  join(response: Response): void {
    response.writeHead(200, { "content-type": "text/event-stream", "cache-control": "no-store", connection: "keep-alive" });
    response.write(": hello\n\n");
    this.open.add(response);
    response.on("close", () => this.open.delete(response));
  }
  tell(...events: ServerEvent[]): void {
    for (const event of events) for (const response of this.open) response.write(`data: ${JSON.stringify(event)}\n\n`);
  }
  /** Says what kinds of things changed; several changes at once are told as one. */
  changed(...topics: Topic[]): void {
    for (const topic of topics) this.pending.add(topic);
    if (!this.closed) this.onChanged(topics);
    if (!this.telling && !this.closed) void this.flush();
  }
  private async flush(): Promise<void> {
    this.telling = true;
    // Several changes in a row are told, and what follows from them is worked out, together.
    await new Promise((resolve) => setTimeout(resolve, TOGETHER_MS));
    let again: Topic[] = [];
    while (this.pending.size > 0 || again.length > 0) {
      const fresh = await this.fresh();
      if (this.closed) return;
      const topics = [...new Set([...this.pending, ...(fresh ? again : [])])];
      again = fresh ? [] : [...new Set([...again, ...topics])];
      this.pending.clear();
      this.tell(...topics.map((topic) => ({ topic })));
    }
    this.telling = false;
  }
  close(): void {
    this.closed = true;
    for (const response of this.open) response.end();
  }
}
