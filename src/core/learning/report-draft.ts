/** The layout of results and of the live export, where papers show them. */
import type { YamlData } from "./layout-style.js";
import { plainWords } from "./plain-words.js";
import { nameKey } from "./headings.js";
import type { LearnedChannel } from "./learned.js";
import { textAt } from "./paper.js";
import type { Template } from "./sort-papers.js";

const places: readonly (readonly [string, RegExp])[] = [
  [
    "state",
    /^(?:state|status|outcome|result|ergebnis|resultat|statut|estado|resultado|disposition|verdict|decision)$/,
  ],
  [
    "code",
    /\b(?:reason no|error (?:code|no|number)|code|fehlercode|fehlernummer|code erreur|codigo|reason code|no)\b/,
  ],
  [
    "message",
    /\b(?:reason|message|error|remark|note|comment|meldung|grund|fehler|hinweis|motif|raison|erreur|motivo|mensaje|problem|explanation|why)\b/,
  ],
  [
    "row",
    /^(?:line|row|line no|row no|sheet row|zeile|zeilennummer|ligne|fila|linea|row number|line number)$/,
  ],
  ["field", /^(?:field|column|about|attribute|feld|spalte|champ|colonne|campo|columna)$/],
];

const headingsOf = ({ sheet, head }: Template): readonly string[] =>
  Array.from({ length: head.width }, (_, column) => textAt(sheet, head.named, column));

const columnTexts = ({ sheet, head }: Template, column: number): readonly string[] =>
  Array.from({ length: head.examples }, (_, at) => textAt(sheet, head.firstRow + at, column));

/** How the channel's result report is read, by its headings and what stands below them. */
function resultsOf(report: Template, learned: LearnedChannel): YamlData | undefined {
  const headings = headingsOf(report);
  const identified = learned.fields.find(({ code }) => code === learned.guesses.get("identified_by")?.value);
  const names = new Set(
    [identified?.name, identified?.label].flatMap((name) => (name === undefined ? [] : [nameKey(name)])),
  );
  const ref =
    headings.find((heading) => names.has(nameKey(heading))) ??
    headings.find((heading) =>
      /\b(?:sku|reference|ref|item|artikelnummer|referencia)\b/.test(plainWords(heading)),
    );
  const used = new Set([ref]);
  const found = new Map<string, string>();
  for (const [what, pattern] of places) {
    const heading = headings.find((one) => !used.has(one) && pattern.test(plainWords(one)));
    if (heading === undefined) continue;
    used.add(heading);
    found.set(what, heading);
  }
  const [state, message] = [found.get("state"), found.get("message")];
  if (ref === undefined || state === undefined) return undefined;
  const states = columnTexts(report, headings.indexOf(state));
  const messages = message === undefined ? [] : columnTexts(report, headings.indexOf(message));
  // Rows of which nothing is said were taken; the state that they have is the one of what is accepted.
  const accepted = new Set(states.filter((text, at) => text !== "" && (messages[at] ?? "") === ""));
  const id = headings.find(
    (heading) =>
      !used.has(heading) && /\b(?:id|entry|listing|kennung|identifiant)\b/.test(plainWords(heading)),
  );
  return {
    format: report.sheet.form?.separator === "\t" ? "tsv" : "csv",
    ref,
    state,
    code: found.get("code") ?? message ?? state,
    message: message ?? state,
    ...(found.has("row") ? { row: found.get("row") } : {}),
    ...(found.has("field") ? { field: found.get("field") } : {}),
    ...(id === undefined ? {} : { id }),
    accepted: accepted.size > 0 ? [...accepted] : [...new Set(states)].slice(0, 1),
  };
}

/** Results and the export of live listings, where the channel's papers show them. */
export function reportDraft(learned: LearnedChannel): YamlData {
  const [report] = learned.papers.reports;
  const [live] = learned.papers.lives;
  const results = report === undefined ? undefined : resultsOf(report, learned);
  const id =
    live === undefined
      ? undefined
      : headingsOf(live).find((heading) => /\b(?:id|entry)\b/.test(plainWords(heading)));
  return {
    ...(results === undefined ? {} : { results }),
    ...(live === undefined
      ? {}
      : {
          // Files are put into a folder until somebody says where they go; the export is read by hand.
          exchange: {
            send: { as: "drop", to: "." },
            live: {
              from: fileOf(live),
              format: live.sheet.form?.separator === "\t" ? "tsv" : "csv",
              ...(id === undefined ? {} : { id }),
            },
          },
        }),
  };
}

const fileOf = ({ sheet }: Template): string => sheet.file.replace(/^.*[\\/]/, "");
