// The colours of a seed merchant's drawers, by day and by lamplight. Every text colour reaches WCAG 2.2's 4.5:1 on its
// ground (checked in palette.test.tsx).

/** Warm paper, ink, one strong persimmon for the next action, verdigris for what is confirmed. */
const light = {
  paper: "#f6efe1",
  drawer: "#fdf9ef",
  tab: "#e9dfc9",
  edge: "#c3b494",
  ink: "#2a241c",
  faded: "#645948",
  persimmon: "#b4400f",
  onPersimmon: "#ffffff",
  verdigris: "#1b6a5d",
  onVerdigris: "#ffffff",
  warning: "#8a2b0b",
};

const dark = {
  paper: "#1b1814",
  drawer: "#24201a",
  tab: "#332d24",
  edge: "#5b513f",
  ink: "#f2e9d8",
  faded: "#bcae93",
  persimmon: "#f19055",
  onPersimmon: "#1b1814",
  verdigris: "#74c7b3",
  onVerdigris: "#1b1814",
  warning: "#f5a47c",
};

module.exports = { light, dark };
