// Tells every open page what changed, by server-sent events.
import type { Response } from "express";
import type { ServerEvent } from "../contract/events.ts";

export class EventHub {
  private readonly open = new Set<Response>();

  join(response: Response): void {
    response.writeHead(200, { "content-type": "text/event-stream", "cache-control": "no-store", connection: "keep-alive" });
    response.write(": hello\n\n");
    this.open.add(response);
    response.on("close", () => this.open.delete(response));
  }
  tell(...events: ServerEvent[]): void {
    for (const event of events) for (const response of this.open) response.write(`data: ${JSON.stringify(event)}\n\n`);
  }
  changed(...topics: Exclude<ServerEvent["topic"], "progress" | "plan">[]): void {
    this.tell(...topics.map((topic) => ({ topic })));
  }
  close(): void {
    for (const response of this.open) response.end();
  }
}
