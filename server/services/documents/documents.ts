// What documents need, and where each font of theirs is: on a device, on the shelf, in a parcel, nowhere.
import type {
  DocumentNeeds,
  DocumentsTaken,
  Need,
  NeedPlace,
  NeedsLook,
  NeedsPlanRequest,
  NeedsView,
} from "../../../contract/documents.ts";
import type { JobDetail } from "../../../contract/jobs.ts";
import type { PlanView } from "../../../contract/placing.ts";
import { lookupsOf, meant, type NeededFont } from "../../../core/evidence/meant.ts";
import { listed } from "../../../core/evidence/verdict.ts";
import { othersFirst } from "../../../core/turns.ts";
import type { Brief } from "../../../core/family/brief.ts";
import type { Parts } from "../../parts.ts";
import { Fault, notFound } from "../../fault.ts";
import type { DeviceRow } from "../../store/devices/devices.ts";
import type { DocumentRow } from "../../store/documents/documents.ts";
import { wantedStyle } from "../../store/families/faces.ts";
import type { WorkPool } from "../../work/pool.ts";
import { TaskLost } from "../../work/threads.ts";
import type { JobService } from "../jobs/jobs.ts";
import type { ParcelService } from "../parcels/parcels.ts";
import type { PlanService } from "../placing/plans.ts";

/** Faces looked at for one name at most; styles held against what a document carries. */
const MOST_FACES = 200;
const MOST_COMPARED = 40;
/** So many documents are remembered. */
const MOST_DOCUMENTS = 20;

type Uses = Pick<Parts, "documents" | "library" | "devices" | "files" | "events" | "now" | "observed">;
/** A face a need may mean. */
interface Found {
  sha256: string;
  face: number;
  brief: Brief;
  kin: "style" | "family";
}
/** A need's place, with what it takes to get it. */
type Placed = Need & { faces: { sha256: string; face: number }[] };
/** What a document needs, before anybody keeps it. */
export type ReadNeeds = Omit<DocumentRow, "id" | "at">;

export class NeedsService {
  private readonly uses: Uses;
  private readonly pool: WorkPool;
  private readonly acts: { parcels: ParcelService; plans: PlanService; jobs: JobService };
  constructor(uses: Uses, pool: WorkPool, acts: { parcels: ParcelService; plans: PlanService; jobs: JobService }) {
    this.uses = uses;
    this.pool = pool;
    this.acts = acts;
  }

  /** Reads what a document needs. Throws a `Fault` when it cannot be read. */
  async read(fileName: string, path: string): Promise<ReadNeeds> {
    const read = await this.pool.read({ kind: "needs", fileName, path });
    if (!read.ok) throw new Fault(422, read.problem);
    const { kind, needs, origin, sha256, unread } = read.value;
    const madeBy = [origin.creator, origin.producer].filter(Boolean).join(", ");
    return { name: fileName, sha256, kind, madeBy, unread, needs, compared: await this.compare(fileName, path, needs) };
  }

  /** Holds the outlines a document carries against those of fonts that go by the same names. */
  private async compare(fileName: string, path: string, needs: readonly NeededFont[]): Promise<DocumentRow["compared"]> {
    const { files, library } = this.uses;
    const faces = new Map<string, Found>();
    for (const need of needs.filter(({ carried }) => carried))
      for (const one of this.found(need)) if (one.kin === "style") faces.set(`${one.sha256}#${one.face}`, one);
    const held: Found[] = [];
    for (const one of faces.values()) if (held.length < MOST_COMPARED && (await files.has(one.sha256))) held.push(one);
    if (held.length === 0) return {};
    const styles = held.flatMap(({ sha256, face }) => {
      const style = library.facesOf(sha256).find((row) => row.face === face)?.record;
      return style ? [{ style, path: files.path(sha256), face, id: `${sha256}#${face}` }] : [];
    });
    const judged = await this.pool.read({ kind: "document", fileName, path, words: "", styles }).catch((error: unknown) => {
      // What cannot be compared in time is told by its names alone.
      if (error instanceof TaskLost) return undefined;
      throw error;
    });
    if (!judged?.ok) return {};
    const told = judged.value.verdicts.map(({ state }) =>
      state === "seen" || state === "faked" ? "same" : state === "swapped" ? "other" : null,
    );
    return Object.fromEntries(styles.flatMap(({ id }, i) => (told[i] ? [[id, told[i]] as const] : [])));
  }

  private async each(
    files: readonly { fileName: string; path: string }[],
    onRead: (read: ReadNeeds) => void,
  ): Promise<DocumentsTaken["problems"]> {
    const problems: DocumentsTaken["problems"] = [];
    for (const { fileName, path } of files) {
      try {
        onRead(await this.read(fileName, path));
      } catch (error) {
        if (!(error instanceof Fault || error instanceof TaskLost)) throw error;
        problems.push({ fileName, ...problemOf(error) });
      }
    }
    return problems;
  }
  /** Reads documents and remembers what they need. */
  async give(files: readonly { fileName: string; path: string }[]): Promise<DocumentsTaken> {
    const documentIds: number[] = [];
    const problems = await this.each(files, (read) =>
      documentIds.push(this.uses.documents.add({ ...read, at: this.uses.now() }, MOST_DOCUMENTS)),
    );
    this.uses.events.changed("documents");
    return { documentIds, problems };
  }
  /** Reads documents and says what they need, once. */
  async look(files: readonly { fileName: string; path: string }[], deviceId: number | undefined): Promise<NeedsLook> {
    const device = this.device(deviceId);
    const documents: DocumentNeeds[] = [];
    const read: ReadNeeds[] = [];
    const problems = await this.each(files, (one) => read.push(one));
    for (const one of read) documents.push(await this.shown({ ...one, id: 0, at: this.uses.now() }, device));
    return { device: device ? { id: device.id, name: device.name } : null, documents, problems };
  }

  remove(id: number, removed: boolean): void {
    if (!this.uses.documents.get(id)) throw notFound("document");
    this.uses.documents.remove(id, removed ? this.uses.now() : null);
    this.uses.events.changed("documents");
  }

  private device(id: number | undefined): DeviceRow | undefined {
    const { devices } = this.uses;
    const device = id === undefined ? devices.devices()[0] : devices.device(id);
    if (id !== undefined && !device) throw notFound("device");
    return device;
  }
  private async shown(row: DocumentRow, device: DeviceRow | undefined): Promise<DocumentNeeds> {
    const { id, name, kind, madeBy, unread, at } = row;
    return { id, name, kind, madeBy, unread, at, needs: await this.placedAll(row.needs, row.compared, device) };
  }
  /** One after the other: a document may need hundreds of fonts, of families with hundreds of styles. */
  private async placedAll(
    needs: readonly NeededFont[],
    compared: DocumentRow["compared"],
    device: DeviceRow | undefined,
  ): Promise<Placed[]> {
    const placed: Placed[] = [];
    for (const need of needs) {
      placed.push(this.placed(need, compared, device));
      await othersFirst();
    }
    return placed;
  }
  /** Documents asked about, as they stand to a device. */
  async view(deviceId: number | undefined): Promise<NeedsView> {
    const device = this.device(deviceId);
    const documents: DocumentNeeds[] = [];
    for (const row of this.uses.documents.all()) documents.push(await this.shown(row, device));
    return { device: device ? { id: device.id, name: device.name } : null, documents };
  }

  private found(need: NeededFont): Found[] {
    const { documents, library } = this.uses;
    if (need.name === "" && !need.setting) return [];
    return documents.facesNamed(lookupsOf(need), MOST_FACES).flatMap(({ sha256, face }): Found[] => {
      const brief = library.facesBrief(sha256).find((one) => one.face === face)?.brief;
      if (!brief || brief.verdict === "refused") return [];
      // What a variable font reaches is told by its record alone.
      const axes = brief.menu.variable ? library.facesOf(sha256).find((one) => one.face === face)?.record.axes : [];
      const kin = meant(need, { ...wantedStyle(brief), ...(axes ? { axes } : {}) });
      return kin === "no" ? [] : [{ sha256, face, brief, kin }];
    });
  }

  /** Where a font that is needed is, seen from a device. */
  private placed(need: NeededFont, compared: DocumentRow["compared"], device: Pick<DeviceRow, "id" | "name"> | undefined): Placed {
    const { devices, library, documents } = this.uses;
    const { name, letters, words, pages, carried, hidden, orElse } = need;
    const base = { name, letters, words, pages, carried, hidden, orElse, familyId: null, parcelId: null, found: "", faces: [] };
    const on = device ? ` on ${device.name}` : "";
    if (name === "" && !need.setting)
      return {
        ...base,
        place: "unnamed",
        sentence: "The document gives this font no name of its own, so which one it is cannot be told.",
      };
    const found = this.found(need);
    const ways = found
      .map((one) => {
        const copies = device ? this.uses.observed.copiesOf(one.sha256).filter((row) => row.deviceId === device.id && row.visible) : [];
        const shelved = library.styleOfFace(one.sha256, one.face);
        const parcel = shelved ? undefined : documents.parcelsWith(one.sha256)[0];
        const place: NeedPlace | undefined = copies.some((row) => row.on)
          ? "here"
          : copies.length > 0
            ? "off"
            : shelved
              ? "library"
              : parcel
                ? "parcel"
                : undefined;
        const outlines = compared[`${one.sha256}#${one.face}`];
        return { one, place, shelved, parcel, outlines };
      })
      // What only another device holds is not at hand here.
      .filter((way): way is typeof way & { place: NeedPlace } => way.place !== undefined);
    const rank = (way: (typeof ways)[number]) => (way.outlines === "other" ? 10 : 0) + ORDER.indexOf(way.place);
    const exact = ways.filter(({ one }) => one.kin === "style").sort((a, b) => rank(a) - rank(b));
    const first = exact[0];
    if (first) {
      const full = first.one.brief.fullName;
      const where: Partial<Record<NeedPlace, string>> = {
        here: `${full} is${on}`,
        off: `${full} lies${on}, turned off`,
        library: `${full} is on the shelf${device ? `, and not${on}` : ""}`,
        parcel: `${full} lies in the parcel “${first.parcel?.name ?? ""}”, not on the shelf yet`,
      };
      const outlines = {
        same: ". Its letters are the very ones the document carries.",
        other: ". It draws other letters than the document carries: another version, or another font of this name.",
        none: ".",
      }[first.outlines ?? "none"];
      return {
        ...base,
        place: first.place,
        found: full,
        familyId: first.shelved?.familyId ?? null,
        parcelId: first.parcel?.id ?? null,
        sentence: `${where[first.place]}${outlines}`,
        faces: [{ sha256: first.one.sha256, face: first.one.face }],
      };
    }
    const kin = ways.sort((a, b) => rank(a) - rank(b));
    if (kin.length > 0) {
      const names = listed(kin.map(({ one }) => one.brief.fullName));
      const shelf = kin.find(({ shelved }) => shelved)?.shelved;
      return {
        ...base,
        place: "other-style",
        found: "",
        familyId: shelf?.familyId ?? null,
        sentence: `Of its family ${names} is at hand, and not this style.`,
      };
    }
    const none = `No font of this name is on the shelf, in a parcel${device ? `, or${on}` : ""}.`;
    const elsewhere = found
      .filter(({ kin: how }) => how === "style")
      .flatMap(({ sha256 }) =>
        this.uses.observed
          .copiesOf(sha256)
          .map(({ deviceId }) => devices.device(deviceId)?.name ?? [])
          .flat(),
      );
    return { ...base, place: "nowhere", sentence: elsewhere.length > 0 ? `${none} It is on ${listed(elsewhere)}.` : none };
  }

  private async missing({ documentIds, deviceId }: NeedsPlanRequest): Promise<{ device: DeviceRow; missing: Placed[] }> {
    const device = this.uses.devices.device(deviceId);
    if (!device) throw notFound("device");
    const missing: Placed[] = [];
    for (const id of documentIds) {
      const row = this.uses.documents.get(id);
      if (!row) throw notFound("document");
      const placed = await this.placedAll(visible(row.needs), row.compared, device);
      missing.push(...placed.filter(({ place }) => place === "library" || place === "off" || place === "parcel"));
    }
    return { device, missing };
  }

  /** Draws the plan that places what documents need and a device lacks; what still lies in parcels is shelved first. */
  async plan(request: NeedsPlanRequest): Promise<PlanView> {
    const { device, missing } = await this.missing(request);
    for (const parcelId of new Set(missing.flatMap((one) => one.parcelId ?? []))) {
      const faces = missing.filter((one) => one.parcelId === parcelId).flatMap((one) => one.faces);
      try {
        this.acts.parcels.shelve(parcelId, faces);
      } catch (error) {
        // Web fonts have to be unwrapped by hand first; the others are placed anyway.
        if (!(error instanceof Fault && error.problem.code === "nothing-to-shelve")) throw error;
      }
    }
    // The styles it asks for, and not all of their families.
    const styles = missing.flatMap(({ faces }) => faces.flatMap((one) => this.uses.library.styleOfFace(one.sha256, one.face) ?? []));
    const styleIds = [...new Set(styles.map(({ id }) => id))];
    const familyIds = [...new Set(styles.map(({ familyId }) => familyId))];
    if (styleIds.length === 0)
      throw new Fault(422, {
        code: "nothing-to-place",
        message: `Nothing that is at hand has to be placed on ${device.name}.`,
        next: "Bring in what is nowhere, then ask again.",
      });
    return this.acts.plans.draw({ deviceId: device.id, action: "place", account: "me", familyIds, styleIds, profiles: "family" });
  }

  /** A job of a document: what is on the shelf of what it needs, for one's own use until somebody says otherwise. */
  async job(id: number, deviceId: number | undefined): Promise<JobDetail> {
    const row = this.uses.documents.get(id);
    if (!row) throw notFound("document");
    const device = deviceId === undefined ? undefined : this.uses.devices.device(deviceId);
    const needs = await this.placedAll(visible(row.needs), row.compared, device);
    const familyIds = [...new Set(needs.flatMap(({ familyId }) => familyId ?? []))];
    if (familyIds.length === 0)
      throw new Fault(422, {
        code: "nothing-shelved",
        message: "Nothing this document needs is on the shelf.",
        next: "Bring in its fonts first.",
      });
    const words = needs
      .map((need) => need.words)
      .join(" ")
      .slice(0, 500);
    return this.acts.jobs.put({
      name: row.name.slice(0, 120),
      uses: ["own"],
      languages: [],
      words,
      familyIds,
      deviceIds: device ? [device.id] : [],
    });
  }
}

const problemOf = (error: Fault | TaskLost): { message: string; next: string } =>
  error instanceof Fault
    ? { message: error.problem.message, next: error.problem.next }
    : { message: "Reading this document took more than a document may.", next: "Give a shorter one: a page is enough." };

/** Fonts of text that shows. */
const visible = (needs: readonly NeededFont[]): NeededFont[] => needs.filter(({ hidden }) => hidden === "");

const ORDER: readonly NeedPlace[] = ["here", "off", "library", "parcel"];
