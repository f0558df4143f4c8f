// Text inside markup, whoever wrote it: XML 1.0, "Predefined Entities", which HTML shares.

const ESCAPES: Record<string, string> = { "&": "&amp;", "<": "&lt;", ">": "&gt;", '"': "&quot;", "'": "&#39;" };

/** Text as it stands between tags and in quoted attributes. */
export const escaped = (text: string): string => text.replace(/[&<>"']/g, (sign) => ESCAPES[sign]!);
