const path = require("node:path");
const { getDefaultConfig } = require("expo/metro-config");
const { withNativeWind } = require("nativewind/metro");

const config = getDefaultConfig(__dirname);
config.resolver.assetExts.push("woff2");
// Only the interface is bundled; what the build leaves behind is not searched.
const under = (folder) => new RegExp(`^${path.join(__dirname, folder).replace(/[.*+?^${}()|[\]\\]/g, "\\$&")}/.*`);
// Refusals are put into words by the server, and nobody asks here for schemas in another notation: the checking library's own sentences
// in fifty languages and its translators stay out of the bundle.
const UNUSED = /(locales\/index|to-json-schema|json-schema-generator|from-json-schema)\.c?js$/;
config.resolver.resolveRequest = (context, name, platform) =>
  /\/zod\/v4\//.test(context.originModulePath) && UNUSED.test(name) ? { type: "empty" } : context.resolveRequest(context, name, platform);
config.resolver.blockList = [under("build"), under("tests")];

module.exports = withNativeWind(config, { input: "./ui/theme/global.css" });
