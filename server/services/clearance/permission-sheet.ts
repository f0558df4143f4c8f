// The permission sheet of a job: what each font may be used for, with the evidence, to print or to read into a table.
import { listWords } from "../../../core/words/words.ts";
import type { FamilyClearance } from "../../../contract/clearance.ts";
import type { JobDetail } from "../../../contract/jobs.ts";
import { ANSWER_WORDS, USE_WORDS } from "../../../core/clearance/uses.ts";
import { dayWords } from "../../../core/words/dates.ts";
import { escaped as html } from "../../../core/words/markup.ts";

interface SheetRow {
  family: string;
  use: string;
  answer: string;
  sentence: string;
  where: string;
  licence: string;
  until: string;
  credit: string;
}

/** One row a family and use of the job; each further piece of evidence is a row of its own. */
export function sheetRows(job: JobDetail, clearances: readonly FamilyClearance[]): SheetRow[] {
  return clearances.flatMap((clearance) =>
    clearance.uses
      .filter((one) => job.uses.includes(one.use))
      .flatMap((one): SheetRow[] => {
        const base = {
          family: clearance.familyName,
          use: USE_WORDS[one.use],
          answer: ANSWER_WORDS[one.answer],
          until: clearance.term?.last ?? "",
          credit: one.answer === "credit" ? clearance.creditLine : "",
        };
        const decided: SheetRow[] =
          one.by === "person" || one.by === "licence"
            ? [{ ...base, sentence: one.reason, where: one.by === "person" ? "decided by hand" : boughtWords(clearance), licence: "" }]
            : [];
        // What is overruled says so: nobody reads a "no" beside a sentence that allows it.
        const read = one.evidence.map((evidence): SheetRow => ({
          ...base,
          answer: evidence.answer === one.answer ? base.answer : `Overruled; it says ${ANSWER_WORDS[evidence.answer].toLowerCase()}`,
          sentence: evidence.sentence,
          where: evidence.where,
          licence: evidence.licence ?? "",
        }));
        const rows = [...decided, ...read];
        return rows.length > 0 ? rows : [{ ...base, sentence: one.reason, where: "", licence: "" }];
      }),
  );
}

function boughtWords(clearance: FamilyClearance): string {
  return clearance.licences
    .map((one) =>
      [`${one.kind} licence`, one.orderNumber && `order ${one.orderNumber}`, one.boughtOn && `bought ${dayWords(one.boughtOn)}`]
        .filter(Boolean)
        .join(", "),
    )
    .join("; ");
}

/**
 * A field as RFC 4180 writes it. One that begins with a sign of calculation would be run by table programs, by some in its full-width form
 * too, so an apostrophe goes before it (OWASP, "CSV Injection"); one that holds another separator is quoted, so that no program parts it there.
 */
function csvField(value: string): string {
  const safe = /^[\s"']*[=+\-@]/.test(value.normalize("NFKC")) || /^[\t\r]/.test(value) ? `'${value}` : value;
  return /[",;|\t\r\n]/.test(safe) ? `"${safe.replace(/"/g, '""')}"` : safe;
}

const COLUMNS: readonly (readonly [key: keyof SheetRow, title: string])[] = [
  ["family", "Font family"],
  ["use", "Use"],
  ["answer", "Allowed"],
  ["sentence", "What was read"],
  ["where", "Where it stands"],
  ["licence", "Licence"],
  ["until", "Until"],
  ["credit", "Credit line"],
];

/** RFC 4180, with a byte order mark so that table programs read it as UTF-8. */
export function sheetCsv(rows: readonly SheetRow[]): string {
  const lines = [COLUMNS.map(([, title]) => title), ...rows.map((row) => COLUMNS.map(([key]) => row[key]))];
  return `\ufeff${lines.map((line) => line.map(csvField).join(",")).join("\r\n")}\r\n`;
}

/** A page that stands alone and prints on A4. `today` is an ISO day. */
export function sheetHtml(job: JobDetail, rows: readonly SheetRow[], today: string): string {
  const cells = (row: SheetRow) => COLUMNS.map(([key]) => `<td>${html(row[key])}</td>`).join("");
  const credit =
    job.creditLines.length > 0 ? `<h2>Credit lines</h2><ul>${job.creditLines.map((line) => `<li>${html(line)}</li>`).join("")}</ul>` : "";
  return `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width">
<title>Permission sheet: ${html(job.name)}</title>
<style>
@page { size: A4 landscape; margin: 14mm }
body { font: 10.5pt/1.4 sans-serif; color: #2a241c; margin: 2em }
h1 { font-size: 18pt; margin: 0 0 .2em } h2 { font-size: 12pt; margin: 1.4em 0 .4em }
table { border-collapse: collapse; width: 100% } th, td { border: 1px solid #c3b494; padding: 4px 6px; text-align: left; vertical-align: top }
th { background: #e9dfc9 } thead { display: table-header-group } tr { break-inside: avoid }
</style></head>
<body><h1>Permission sheet</h1>
<p>${html(job.name)}: ${html(listWords(job.uses.map((use) => USE_WORDS[use].toLowerCase())))}. As read on ${html(dayWords(today))}.</p>
<table><thead><tr>${COLUMNS.map(([, title]) => `<th scope="col">${title}</th>`).join("")}</tr></thead>
<tbody>${rows.map((row) => `<tr>${cells(row)}</tr>`).join("\n")}</tbody></table>
${credit}
</body></html>
`;
}
