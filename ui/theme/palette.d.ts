export interface Palette {
  paper: string;
  drawer: string;
  tab: string;
  edge: string;
  ink: string;
  faded: string;
  persimmon: string;
  onPersimmon: string;
  verdigris: string;
  onVerdigris: string;
  warning: string;
}
export const light: Palette;
export const dark: Palette;
