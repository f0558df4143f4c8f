// The picture that lies beside a font in its archive.

export const preview = (name: string): string =>
  `<svg xmlns="http://www.w3.org/2000/svg" width="640" height="240" viewBox="0 0 640 240"><rect width="640" height="240" fill="#f4ecdc"/><path d="M40 180H600" stroke="#2b2620" stroke-width="2"/><text x="40" y="150" font-size="56" fill="#2b2620">${name}</text></svg>\n`;
