// Files given as evidence, kept so that they can be opened again, within what the settings leave them.
import { randomUUID } from "node:crypto";
import { copyFile, rm, stat } from "node:fs/promises";
import { join } from "node:path";
import { Fault, notFound } from "../../fault.ts";
import type { Parts } from "../../parts.ts";
import type { DocumentRead } from "../../work/evidence.worker.ts";

/** A single file larger than this is not kept. */
const MOST_KEPT_BYTES = 64 * 1024 * 1024;
const MIB = 1024 * 1024;

export class KeptEvidence {
  private readonly uses: Pick<Parts, "sightings" | "evidenceFiles" | "settings" | "disk" | "now">;
  constructor(uses: KeptEvidence["uses"]) {
    this.uses = uses;
  }

  /** Keeps a file that was recorded; the oldest go when there is too much. What cannot be kept is told by the sighting itself. */
  async keep(path: string, { sha256, bytes }: Pick<DocumentRead, "sha256" | "bytes">): Promise<void> {
    const { settings, sightings, evidenceFiles, disk } = this.uses;
    const { keepEvidence, evidenceMib } = settings.get();
    if (!keepEvidence || bytes > MOST_KEPT_BYTES || bytes > evidenceMib * MIB) return;
    try {
      const target = evidenceFiles.path(sha256);
      if (!(await evidenceFiles.has(sha256))) {
        const fresh = join(evidenceFiles.unfinished, randomUUID());
        await copyFile(path, fresh);
        await evidenceFiles.intoPlace(fresh, target);
      }
      sightings.keepFile(sha256, bytes, this.uses.now());
      await this.thin(evidenceMib * MIB);
    } catch (error) {
      if (!disk.report(error)) throw error;
    }
  }
  private async thin(most: number): Promise<void> {
    let sum = 0;
    for (const { sha256, bytes } of this.uses.sightings.keptFiles()) {
      sum += bytes;
      if (sum <= most) continue;
      this.uses.sightings.forgetFile(sha256);
      await rm(this.uses.evidenceFiles.path(sha256), { force: true });
    }
  }
  /** After a start: files nobody knows of go, and those beyond what settings leave. */
  async tidy(): Promise<void> {
    const { keepEvidence, evidenceMib } = this.uses.settings.get();
    await this.thin(keepEvidence ? evidenceMib * MIB : 0);
    await this.uses.evidenceFiles.sweep(new Set(this.uses.sightings.keptFiles().map(({ sha256 }) => sha256)));
  }
  /** A kept file, to be opened again. */
  async file(id: number): Promise<{ path: string; name: string }> {
    const row = this.uses.sightings.get(id);
    if (!row) throw notFound("sighting");
    const path = row.kept ? this.uses.evidenceFiles.path(row.fileSha256) : "";
    if (path === "" || !(await stat(path).catch(() => undefined)))
      throw new Fault(404, {
        code: "evidence-not-kept",
        message: "This file is not kept any more.",
        next: "Export it again from the program.",
      });
    return { path, name: row.fileName };
  }
}
