// Fonts whose records an older reader made are read anew in the background.
import type { Parts } from "../../parts.ts";
import type { WorkPool } from "../../work/pool.ts";
import { TaskLost } from "../../work/threads.ts";
import type { FactWriter } from "./writer.ts";

/** Files looked at anew together. */
const FILES_TOGETHER = 8;
/** Looks anew at fonts whose records an older reader made: those of the newest families first. What was known goes on being shown. */
export class FaceRenewer {
  private readonly uses: Pick<Parts, "library" | "files">;
  private readonly pool: WorkPool;
  private readonly writer: FactWriter;
  private readonly onRead: () => void;
  private closed = false;
  constructor(uses: Pick<Parts, "library" | "files">, pool: WorkPool, writer: FactWriter, onRead: () => void) {
    this.uses = uses;
    this.pool = pool;
    this.writer = writer;
    this.onRead = onRead;
  }

  async run(): Promise<void> {
    const { library, files } = this.uses;
    for (;;) {
      const next = library.outdatedFiles(FILES_TOGETHER);
      if (next.length === 0 || this.closed) return;
      const fonts = next.map(({ sha256, name }) => ({ source: { path: files.path(sha256) }, name }));
      const found = await this.pool.font({ kind: "inspect", fonts }).catch((error: unknown) => {
        if (error instanceof TaskLost && error.why === "closed") this.closed = true;
        return fonts.map(() => null);
      });
      if (this.closed) return;
      const bringing = this.writer.begin();
      bringing.put(found.flatMap((one) => one?.faces ?? []));
      await bringing.stored();
      // What cannot be read any more stays as it is known.
      for (const { sha256 } of next) library.keepAsIs(sha256);
      this.onRead();
    }
  }
  close(): void {
    this.closed = true;
  }
}
