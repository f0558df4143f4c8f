// Which papers of a parcel speak of which fonts: those that lie with them.

const folderOf = (path: string): string => path.slice(0, path.lastIndexOf("/") + 1);

/**
 * The papers for fonts at `fontPaths`: those in a folder around or below them. Where none lies so, all of the parcel's; a paper inside another
 * archive never speaks of fonts outside it.
 */
export function papersFor<P extends { path: string }>(fontPaths: readonly string[], papers: readonly P[]): P[] {
  const folders = [...new Set(fontPaths.map(folderOf))];
  const near = papers.filter((paper) => {
    const folder = folderOf(paper.path);
    return folders.some((other) => other.startsWith(folder) || folder.startsWith(other));
  });
  if (near.length > 0) return near;
  const archives = (path: string) => path.match(/^.*\.(zip|7z|rar|tar|tgz|gz|bz2|xz)\//i)?.[0] ?? "";
  return papers.filter((paper) => fontPaths.some((path) => archives(path).startsWith(archives(paper.path))));
}
