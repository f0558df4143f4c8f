const { light, dark } = require("./ui/theme/palette");

const variables = (colours) => Object.fromEntries(Object.entries(colours).map(([name, value]) => [`--${name}`, value]));
const names = Object.keys(light);

/** @type {import("tailwindcss").Config} */
module.exports = {
  content: ["./app/**/*.tsx", "./ui/**/*.tsx"],
  presets: [require("nativewind/preset")],
  theme: {
    extend: {
      colors: Object.fromEntries(names.map((name) => [name, `var(--${name})`])),
      fontFamily: { heading: ["BuvanoHeading", "sans-serif"], text: ["BuvanoText", "sans-serif"], strong: ["BuvanoStrong", "sans-serif"] },
    },
  },
  plugins: [({ addBase }) => addBase({ ":root": variables(light), "@media (prefers-color-scheme: dark)": { ":root": variables(dark) } })],
};
