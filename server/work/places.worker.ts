// Runs in a worker thread: works out where fonts stand in a program's list, which may hold thousands. Reads the library's database, and
// keeps a list until what its program finds changes.
import Database from "better-sqlite3";
import type { Folder } from "../../contract/devices.ts";
import { menuFont, type Brief } from "../../core/family/brief.ts";
import { asTaken, linesOf, Menu, type MenuFont, type MenuPlace } from "../../core/menu/menu.ts";
import type { MenuTraits } from "../../core/menu/traits.ts";
import { serve } from "./serve.ts";

export interface PlaceTask {
  /** The database's file. */
  library: string;
  /** Changes when what the program finds may have changed. */
  stamp: string;
  program: { id: number; deviceId: number; slug: string; traits: MenuTraits & { reads: readonly Folder[] } };
  fonts: MenuFont[];
}
/** For each font asked about: where it stands, or would stand if it were listed. */
export type PlaceOutcome = { listed: boolean; place: MenuPlace }[];

const MOST_KEPT = 12;
interface List {
  stamp: string;
  fonts: MenuFont[];
  menu: Menu;
  ids: Set<string>;
}
const kept = new Map<number, List>();
let database: { path: string; db: Database.Database } | undefined;

/** The library asked about; lists of another are let go of. */
function opened(library: string): Database.Database {
  if (database?.path === library) return database.db;
  database?.db.close();
  kept.clear();
  database = { path: library, db: new Database(library, { readonly: true }) };
  return database.db;
}

function read(db: Database.Database, program: PlaceTask["program"]): MenuFont[] {
  const rows = db
    .prepare(
      `SELECT o.folder, o.file_name AS fileName, f.sha256, f.face, f.brief FROM observed_fonts o JOIN faces f ON f.sha256 = o.sha256
       WHERE o.device_id = ? AND o.is_on = 1 AND o.is_visible = 1 AND f.verdict <> 'refused'`,
    )
    .all(program.deviceId) as { folder: Folder; fileName: string; sha256: string; face: number; brief: string }[];
  const names = db.prepare("SELECT sha256 || '#' || face AS id, name FROM learnt_names WHERE program_id = ?").all(program.id);
  const learnt = new Map((names as { id: string; name: string }[]).map(({ id, name }) => [id, name]));
  const { reads } = program.traits;
  return rows
    .filter(({ folder, fileName }) =>
      folder === "own" ? reads.includes("own") && fileName.startsWith(`${program.slug}/`) : folder === "built-in" || reads.includes(folder),
    )
    .map(({ brief, sha256, face }) => {
      const font = menuFont(JSON.parse(brief) as Brief, sha256, face);
      const listedAs = learnt.get(font.id);
      return listedAs === undefined ? font : { ...font, listedAs };
    });
}

function listOf(task: PlaceTask): List {
  const db = opened(task.library);
  const known = kept.get(task.program.id);
  if (known?.stamp === task.stamp) return known;
  const fonts = read(db, task.program);
  const list = { stamp: task.stamp, fonts, menu: new Menu(fonts, task.program.traits), ids: new Set(fonts.map((font) => font.id)) };
  kept.delete(task.program.id);
  if (kept.size >= MOST_KEPT) kept.delete(kept.keys().next().value!);
  kept.set(task.program.id, list);
  return list;
}

serve<PlaceTask, PlaceOutcome>((task) => {
  const { traits } = task.program;
  const { fonts, menu, ids } = listOf(task);
  return Promise.resolve(
    task.fonts.map((wanted) => {
      const listed = ids.has(wanted.id) && linesOf(wanted, traits).length > 0;
      // A font the program refuses has no place; where it would be is shown by its names all the same.
      const shown = asTaken(wanted, traits);
      return { listed, place: (listed ? menu : new Menu([...fonts, shown], traits)).place(listed ? wanted : shown)! };
    }),
  );
});
