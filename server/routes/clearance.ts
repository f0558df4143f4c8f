// Endpoints of clearance and jobs.
import { readFile, rm } from "node:fs/promises";
import { join } from "node:path";
import { Router } from "express";
import { z } from "zod";
import { CorrectionRequest, FamilyClearance, LeaveOutRequest, LicenceRequest } from "../../contract/clearance.ts";
import { JobFamiliesChanged, JobFamiliesRequest, RoleRequest, JobDetail, JobRequest, JobSummary, Language } from "../../contract/jobs.ts";
import { fileStem } from "../../core/words/file-names.ts";
import type { Parts } from "../parts.ts";
import { notFound } from "../fault.ts";
import { LANGUAGES } from "../services/jobs/languages.ts";
import type { Services } from "../services/services.ts";
import { sheetCsv, sheetHtml, sheetRows } from "../services/clearance/permission-sheet.ts";
import { answer, bodyOf, Done, done, idOf } from "./answer.ts";
import { receiveFiles } from "./uploads.ts";

const MOST_RECEIPT_BYTES = 50 * 1024 * 1024;
/** A name for downloads: what a job is called, in characters every system takes. */

export function clearanceRoutes(parts: Pick<Parts, "incoming" | "files">, { clearance, jobs }: Services): Router {
  const router = Router();
  router.get(
    "/families/:id/clearance",
    answer(FamilyClearance, (request) => clearance.family(idOf(request))),
  );
  router.post(
    "/families/:id/clearance",
    answer(FamilyClearance, (request) => {
      const { use, answer: said, note } = bodyOf(CorrectionRequest, request);
      clearance.correct(idOf(request), use, said, note);
      return clearance.family(idOf(request));
    }),
  );
  router.post(
    "/sentences/leave-out",
    answer(Done, (request) => done(clearance.leaveOut(bodyOf(LeaveOutRequest, request)))),
  );
  router.post(
    "/families/:id/licences",
    answer(FamilyClearance, (request) => clearance.addLicence(idOf(request), bodyOf(LicenceRequest, request))),
  );
  for (const removed of [true, false]) {
    router.post(
      `/licences/:id/${removed ? "remove" : "bring-back"}`,
      answer(Done, (request) => done(clearance.removeLicence(idOf(request), removed))),
    );
    router.post(
      `/jobs/:id/${removed ? "remove" : "bring-back"}`,
      answer(Done, (request) => done(jobs.remove(idOf(request), removed))),
    );
  }
  router.post(
    "/licences/:id/receipt",
    answer(Done, async (request) => {
      const { id } = clearance.licence(idOf(request));
      const [file] = await receiveFiles(request, parts.incoming, { bytes: MOST_RECEIPT_BYTES, files: 1 });
      const at = join(parts.incoming, file!.stored_as);
      const batch = parts.files.batch();
      try {
        const { sha256 } = await batch.put([await readFile(at)]);
        await batch.commit();
        return done(clearance.setReceipt(id, sha256, file!.name.split(/[\\/]/).at(-1)!.slice(0, 200)));
      } finally {
        await batch.drop();
        await rm(at, { force: true });
      }
    }),
  );
  router.get("/licences/:id/receipt", async (request, response) => {
    const { receiptSha256, receiptName } = clearance.licence(idOf(request));
    if (receiptSha256 === null || !(await parts.files.has(receiptSha256))) throw notFound("receipt");
    // Always a download: what somebody stored as a receipt is never shown as a page of this site.
    response
      .attachment(receiptName ?? "receipt")
      .type("application/octet-stream")
      .send(Buffer.from(await parts.files.read(receiptSha256)));
  });

  router.get(
    "/languages",
    answer(z.array(Language), () => [...LANGUAGES]),
  );
  router.get(
    "/jobs",
    answer(z.array(JobSummary), () => jobs.list()),
  );
  router.post(
    "/jobs",
    answer(JobDetail, (request) => jobs.put(bodyOf(JobRequest, request))),
  );
  router.get(
    "/jobs/:id",
    answer(JobDetail, (request) => jobs.detail(idOf(request))),
  );
  router.post(
    "/jobs/:id",
    answer(JobDetail, (request) => jobs.put(bodyOf(JobRequest, request), idOf(request))),
  );
  router.post(
    "/jobs/:id/role",
    answer(JobDetail, (request) => {
      const { familyId, role } = bodyOf(RoleRequest, request);
      return jobs.setRole(idOf(request), familyId, role);
    }),
  );
  router.post(
    "/jobs/:id/families",
    answer(JobFamiliesChanged, async (request) => {
      const { ids, wanted } = bodyOf(JobFamiliesRequest, request);
      return { changed: await jobs.want(idOf(request), ids, wanted) };
    }),
  );
  router.get("/jobs/:id/sheet.:kind", (request, response) => {
    const job = jobs.detail(idOf(request));
    const rows = sheetRows(
      job,
      job.families.map((family) => clearance.family(family.id)),
    );
    const { kind } = request.params;
    if (kind !== "html" && kind !== "csv") throw notFound("sheet");
    const content = kind === "csv" ? sheetCsv(rows) : sheetHtml(job, rows, clearance.today());
    response
      .attachment(`Permission-sheet-${fileStem(job.name, "job")}.${kind}`)
      .type(kind)
      .send(content);
  });
  return router;
}
