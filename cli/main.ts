// The command line: `buvano inspect …`, `buvano unpack …`. Results go to standard output, words to standard error.
import { bring } from "./bring.ts";
import { inspect } from "./inspect.ts";
import { unpack } from "./unpack.ts";

const usage = `buvano inspect [--json] PATH…            what each font file holds
buvano unpack ARCHIVE --to DIR [--json]  take an archive apart into DIR
buvano bring PATH… --data DIR [--json]   take archives, fonts and folders into the library in DIR`;

async function main(args: string[]): Promise<number> {
  const [command, ...rest] = args;
  const json = rest.includes("--json");
  const words = rest.filter((word) => word !== "--json");
  if (command === "inspect" && words.length > 0) return inspect(words, json);
  if (command === "unpack") {
    const to = words.indexOf("--to");
    const [archive] = words;
    const dir = words[to + 1];
    if (to === 1 && words.length === 3 && archive && dir) return unpack(archive, dir, json);
  }
  if (command === "bring") {
    const at = words.indexOf("--data");
    const dir = words[at + 1];
    const paths = words.filter((_, i) => i !== at && i !== at + 1);
    if (at >= 0 && dir && paths.length > 0) return bring(paths, dir, json);
  }
  process.stderr.write(`${usage}\n`);
  return 2;
}

// A reader that has seen enough (`… | head`) closes the pipe; that is no fault.
process.stdout.on("error", (error: NodeJS.ErrnoException) => process.exit(error.code === "EPIPE" ? 0 : 1));

process.exitCode = await main(process.argv.slice(2));
