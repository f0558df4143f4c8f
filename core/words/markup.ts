// Text inside markup, whoever wrote it: XML 1.0, "Predefined Entities", which HTML shares.

const ESCAPES: Record<string, string> = { "&": "&amp;", "<": "&lt;", ">": "&gt;", '"': "&quot;", "'": "&#39;" };

/** What XML does not allow in any form (XML 1.0, 2.2 "Characters"), halves of surrogate pairs among it. */
const NOT_ALLOWED = /[^\t\n\r\u0020-\ud7ff\ue000-\ufffd\u{10000}-\u{10ffff}]/gu;

/** Text as it stands between tags and in quoted attributes. */
export const escaped = (text: string): string => text.replace(NOT_ALLOWED, "\ufffd").replace(/[&<>"']/g, (sign) => ESCAPES[sign]!);
