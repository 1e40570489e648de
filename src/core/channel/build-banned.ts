/** From the rows of `banned.csv` to tests of texts: words, patterns, links, phone numbers, capitals. */
import { greatest } from "../many.js";
import { diagnostic, type Diagnostic } from "../diagnostics/diagnostic.js";
import type { Place } from "../diagnostics/place.js";
import type { FieldCode } from "../ids.js";
import { fold } from "../values/text.js";
import type { ValueList } from "./value-list.js";
import { phoneNumber } from "./phone-number.js";
import { bannedKinds, type BannedContent, type BannedKind } from "./definition.js";
import type { PatternCompiler, TableRow } from "./definition-source.js";

type FindWord = (text: string) => string | undefined;

const link = /https?:\/\/\S+|\bwww\.\S+/i;

/** Words of four letters and more that are written in capitals alone. */
const capitals =
  (most: number): FindWord =>
  (text) => {
    const loud = text.match(/\b\p{Lu}{4,}\b/gu) ?? [];
    return loud.length > most ? loud.slice(0, 3).join(" ") : undefined;
  };

/** A word that comes more often than a reader needs it. */
const repeats =
  (most: number): FindWord =>
  (text) => {
    const counts = new Map<string, number>();
    for (const word of fold(text).split(" ")) {
      const count = (counts.get(word) ?? 0) + 1;
      if (word.length > 3 && count > most) return word;
      counts.set(word, count);
    }
    return undefined;
  };

const finders: Readonly<Record<Exclude<BannedKind, "pattern" | "list">, (value: string) => FindWord>> = {
  word: (value) => {
    const wanted = ` ${fold(value)} `;
    return (text) => (` ${fold(text)} `.includes(wanted) ? value : undefined);
  },
  link: () => (text) => link.exec(text)?.[0],
  phone: () => phoneNumber,
  capitals: (value) => capitals(Number(value)),
  repeats: (value) => repeats(Number(value)),
};

/** Names of a value list, such as other firms'; each is looked for as whole words. */
function listed({ values }: ValueList): FindWord {
  const names = new Set(
    values.flatMap(({ value, label, synonyms }) => [value, label, ...synonyms].map(fold)),
  );
  names.delete("");
  const longest = greatest(
    [...names].map((name) => name.split(" ").length),
    1,
  );
  return (text) => {
    const words = fold(text).split(" ");
    for (let from = 0; from < words.length; from++)
      for (let size = 1; size <= longest; size++) {
        const name = words.slice(from, from + size).join(" ");
        if (names.has(name)) return name;
      }
    return undefined;
  };
}

/** Builds what texts must not contain, from the rows of `banned.csv`. */
export function buildBanned(
  rows: readonly TableRow[],
  fieldOf: (code: string, place: Place) => FieldCode,
  patterns: PatternCompiler,
  lists: ReadonlyMap<string, ValueList>,
  findings: Diagnostic[],
): readonly BannedContent[] {
  return rows.flatMap((row): readonly BannedContent[] => {
    const kind = bannedKinds.find((known) => known === row.cell("kind"));
    if (kind === undefined) {
      const facts = { column: "kind", value: row.cell("kind"), expected: bannedKinds.join(", ") };
      findings.push(diagnostic("wrong-cell", facts, { place: row.place("kind") }));
      return [];
    }
    const value = row.cell("value");
    if ((kind === "capitals" || kind === "repeats") && !/^\d{1,3}$/.test(value)) {
      findings.push(
        diagnostic(
          "wrong-cell",
          { column: "value", value, expected: "the most that is allowed" },
          { place: row.place("value") },
        ),
      );
      return [];
    }
    const find =
      kind === "pattern"
        ? patternFinder(row, value, patterns, findings)
        : kind === "list"
          ? listFinder(row, value, lists, findings)
          : finders[kind](value);
    const severity =
      row.cell("severity") === "error" ? "error" : row.cell("severity") === "advice" ? "advice" : "warning";
    const field = row.cell("field") || "*";
    return [
      {
        field: field === "*" ? "*" : fieldOf(field, row.place("field")),
        kind,
        value,
        find,
        says: row.cell("says"),
        severity,
        place: row.place(),
      },
    ];
  });
}

function listFinder(
  row: TableRow,
  name: string,
  lists: ReadonlyMap<string, ValueList>,
  findings: Diagnostic[],
): FindWord {
  const list = lists.get(name);
  if (list !== undefined) return listed(list);
  const facts = { path: `values/${name}.csv`, what: "the value list" };
  findings.push(diagnostic("missing-file", facts, { place: row.place("value") }));
  return () => undefined;
}

function patternFinder(
  row: TableRow,
  value: string,
  patterns: PatternCompiler,
  findings: Diagnostic[],
): FindWord {
  const compiled = patterns(value);
  if ("find" in compiled) return (text) => compiled.find(text)?.slice(0, 40);
  findings.push(
    diagnostic(
      "wrong-pattern-source",
      { pattern: value, reason: compiled.reason },
      { place: row.place("value") },
    ),
  );
  return () => undefined;
}
