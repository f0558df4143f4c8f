const path = require("node:path");
const { getDefaultConfig } = require("expo/metro-config");
const { withNativeWind } = require("nativewind/metro");

const config = getDefaultConfig(__dirname);
config.resolver.assetExts.push("woff2");
// Only the interface is bundled; what the build leaves behind is not searched.
const under = (folder) => new RegExp(`^${path.join(__dirname, folder).replace(/[.*+?^${}()|[\]\\]/g, "\\$&")}/.*`);
config.resolver.blockList = [under("build"), under("tests")];

module.exports = withNativeWind(config, { input: "./ui/theme/global.css" });
