// Which papers of a parcel speak of which fonts: those that lie with them.

const folderOf = (path: string): string => path.slice(0, path.lastIndexOf("/") + 1);
/** A single file that was compressed, "readme.txt.gz/readme.txt", lies where it lay before. */
function loose(path: string): string {
  if (!/\.(gz|bz2|xz)\//i.test(path)) return path;
  const parts = path.split("/");
  const [packed = "", name = ""] = parts.slice(-2);
  return /^\.(gz|bz2|xz)$/i.test(packed.slice(name.length)) && packed.startsWith(name) ? [...parts.slice(0, -2), name].join("/") : path;
}

/** Papers that lie in the fonts' own folders, then those around, then those below; of each the ones that are called licences first. */
function nearestFirst<P extends { path: string }>(papers: readonly P[], folders: readonly string[]): P[] {
  const own = new Set(folders);
  const rank = (paper: P): number => {
    const path = loose(paper.path);
    const folder = folderOf(path);
    const near = own.has(folder) ? 0 : folders.some((other) => other.startsWith(folder)) ? 2 : 4;
    return near + (/licen[cs]e|copying|ofl|eula|terms|copyright/i.test(path.slice(folder.length)) ? 0 : 1);
  };
  const ranked = papers.map((paper) => ({ paper, rank: rank(paper) }));
  return ranked.sort((a, b) => a.rank - b.rank).map(({ paper }) => paper);
}

/**
 * The papers for fonts at `fontPaths`: those in a folder around or below them. Where none lies so, all of the parcel's; a paper inside another
 * archive never speaks of fonts outside it.
 */
export function papersFor<P extends { path: string }>(fontPaths: readonly string[], papers: readonly P[]): P[] {
  const folders = [...new Set(fontPaths.map(folderOf))];
  const near = papers.filter((paper) => {
    const folder = folderOf(loose(paper.path));
    return folders.some((other) => other.startsWith(folder) || folder.startsWith(other));
  });
  if (near.length > 0) return nearestFirst(near, folders);
  const archives = (path: string) => path.match(/^.*\.(zip|7z|rar|tar|tgz|gz|bz2|xz)\//i)?.[0] ?? "";
  return papers.filter((paper) => fontPaths.some((path) => archives(path).startsWith(archives(loose(paper.path)))));
}
