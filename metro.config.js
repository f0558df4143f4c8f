const { getDefaultConfig } = require("expo/metro-config");
const { withNativeWind } = require("nativewind/metro");

const config = getDefaultConfig(__dirname);
config.resolver.assetExts.push("woff2");
// Only the interface is bundled; what the build leaves behind is not searched.
config.resolver.blockList = [/\/build\/.*/, /\/tests\/.*/];

module.exports = withNativeWind(config, { input: "./ui/theme/global.css" });
