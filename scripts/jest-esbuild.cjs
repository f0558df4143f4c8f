// Turns TypeScript into the ES module Jest runs, and SQL files into their text.
const { createHash } = require("node:crypto");
const { transformSync } = require("esbuild");

module.exports = {
  getCacheKey: (source, path, { configString }) => createHash("sha256").update(source).update(path).update(configString).digest("hex"),
  process(source, path) {
    if (path.endsWith(".sql")) return { code: `module.exports = ${JSON.stringify(source)};` };
    const { code, map } = transformSync(source, { loader: "ts", format: "esm", target: "node20", sourcefile: path, sourcemap: "external" });
    return { code, map };
  },
};
