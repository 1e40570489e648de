/** Words, marks and sentences that say whether a field must be filled. */
import { ownOf } from "../own.js";
import type { Need } from "../channel/field.js";

/** What a word or sentence says of whether a field must be filled. */
export interface NeedSaid {
  readonly need: Need;
  /** The condition in the channel's own words, where it holds in some cases only. */
  readonly when: string;
}

const folded = (text: string): string =>
  text
    .replaceAll("ß", "ss")
    .normalize("NFKD")
    .replace(/\p{M}/gu, "")
    .toLowerCase()
    .replace(/[^\p{L}\p{N}+*/●○◐◉◎✓✔✗✘■□▲△•◦]+/gu, " ")
    .trim();

// Whole cells, in English, German, French, Spanish, Italian and Dutch.
const words = {
  required:
    "required; mandatory; must; compulsory; obligatory; needed; must be filled; must have; " +
    "yes mandatory; pflicht; pflichtfeld; pflichtangabe; erforderlich; muss; mussfeld; zwingend; " +
    "notwendig; verpflichtend; obligatoire; requis; requise; exige; champ obligatoire; indispensable; " +
    "obligatorio; obligatoria; oblig; requerido; requerida; necesario; campo obligatorio; " +
    "obbligatorio; obbligatoria; verplicht; vereist",
  recommended:
    "recommended; desirable; preferred; should; advised; should be filled; strongly recommended; " +
    "suggested; desired; empfohlen; soll; sollfeld; wunsch; gewunscht; wunschenswert; recommande; " +
    "recommandee; conseille; conseillee; souhaite; souhaitable; recomendado; recomendada; aconsejado; " +
    "deseable; recom; consigliato; raccomandato; aanbevolen; gewenst",
  optional:
    "optional; may; voluntary; not required; not mandatory; if available; nice to have; " +
    "may be left blank; free; freiwillig; kann; kannfeld; wahlweise; fakultativ; nicht erforderlich; " +
    "facultatif; facultative; optionnel; optionnelle; non obligatoire; libre; opcional; opc; " +
    "voluntario; no obligatorio; facultativo; facultativa; opzionale; facoltativo; optioneel; " +
    "niet verplicht",
  conditional:
    "conditional; conditionally required; conditionally; depends; required if applicable; " +
    "where applicable; if applicable; bedingt; bedingt erforderlich; abhangig; bedingte pflicht; " +
    "sofern zutreffend; falls zutreffend; conditionnel; conditionnelle; selon le cas; si applicable; " +
    "sous condition; condicional; condicionado; segun el caso; si procede; condizionale; " +
    "voorwaardelijk",
  "not allowed":
    "not allowed; not used; leave blank; do not fill; nicht erlaubt; nicht ausfullen; ne pas remplir; " +
    "no permitido; no rellenar; forbidden",
} as const satisfies Readonly<Record<Need | "conditional", string>>;

const letters: Readonly<Record<string, keyof typeof words>> = {
  m: "required",
  r: "recommended",
  o: "optional",
  c: "conditional",
  p: "required",
  k: "optional",
  e: "recommended",
  f: "optional",
};

const byWord = new Map(
  Object.entries(words).flatMap(([need, list]) =>
    list.split("; ").map((word) => [word, need as keyof typeof words] as const),
  ),
);

const said = (need: keyof typeof words, text: string): NeedSaid =>
  need === "conditional" ? { need: "optional", when: text.trim() } : { need, when: "" };

/** Letters that stand for a need: `M` may be "mandatory", `O` "obligatoire" beside `N`; what else stands in the row decides. */
export type NeedMarks = ReadonlyMap<string, NeedSaid>;

// Where a full sign stands beside a hollow one, the full one is the must.
const signs: readonly (readonly [full: string, hollow: readonly string[]])[] = [
  ["●", ["○", "◐", "◦"]],
  ["◉", ["◎", "○"]],
  ["■", ["□"]],
  ["▲", ["△"]],
  ["✓", ["✗", "✘"]],
  ["✔", ["✗", "✘"]],
];

const yes = new Set([
  "✓",
  "✔",
  "●",
  "yes",
  "y",
  "ja",
  "j",
  "oui",
  "o",
  "si",
  "s",
  "x",
  "true",
  "1",
  "+",
  "wahr",
  "vrai",
]);
const no = new Set(["no", "n", "nein", "non", "false", "0", "", "falsch", "faux"]);
const partly = new Set(["recommended", "empfohlen", "recommande", "recomendado", "r", "conditional"]);

/** Whether a heading asks of a must, so that yes and no below it mean needs. */
export function asksForMust(heading: string): boolean {
  return /(?:^| )(?:required|mandatory|compulsory|obligatory|must|needed|pflicht\p{L}*|erforderlich|muss|obligatoire|requis|obligatorio|obligatoria|requerido|obbligatorio|verplicht)(?= |$)/u.test(
    folded(heading),
  );
}

/** Whether a heading speaks of needs in some word or other. */
export function headsNeeds(heading: string): boolean {
  const text = folded(heading);
  return (
    asksForMust(heading) ||
    /(?:^| )(?:need|needs|requirement|requirement level|usage|obligation|presence|status|necessity|level of need|bedarf|erfordernis|caractere|exigence|necesidad|exigencia|requisito|mandatory optional|cardinality)(?= |$)/.test(
      text,
    )
  );
}

/** What single letters of a set of cells mean: by a legend, or by which of them stand together. */
export function needMarks(cells: readonly string[], legend: NeedMarks): NeedMarks {
  const seen = new Set(cells.map((cell) => folded(cell)).filter((cell) => cell !== ""));
  const found = new Map<string, NeedSaid>(legend);
  for (const [full, hollow] of signs) {
    if (!seen.has(full)) continue;
    if (!found.has(full)) found.set(full, said("required", ""));
    for (const one of hollow) if (seen.has(one) && !found.has(one)) found.set(one, said("optional", ""));
  }
  // "O" beside "N" is yes in French; beside "M" it is optional.
  const asYesNo =
    [...seen].every((cell) => yes.has(cell) || no.has(cell) || partly.has(cell)) &&
    [...seen].some((cell) => yes.has(cell));
  for (const cell of seen) {
    if (found.has(cell)) continue;
    const word = byWord.get(cell);
    if (word !== undefined) found.set(cell, said(word, ""));
    else if (asYesNo && !seen.has("m")) {
      if (yes.has(cell)) found.set(cell, said("required", ""));
      else if (no.has(cell)) found.set(cell, said("optional", ""));
    }
    if (found.has(cell) || cell.length !== 1) continue;
    const letter = ownOf(letters, cell);
    if (letter !== undefined) found.set(cell, said(letter, ""));
  }
  return found;
}

/** Reads a need in a cell of its own. */
export function needOf(cell: string, marks: NeedMarks = new Map()): NeedSaid | undefined {
  const text = folded(cell);
  const known = marks.get(text);
  if (known !== undefined) return known;
  const times = /^([01])\s*(?:\.\.|-|…|:|,)\s*(?:\d+|n|m|\*|∞|unbounded)$/i.exec(cell.trim());
  if (times !== null) return said(times[1] === "1" ? "required" : "optional", "");
  const word = byWord.get(text);
  if (word !== undefined) return said(word, word === "conditional" ? cell : "");
  return needInSentence(cell);
}

const must =
  /\b(?:required|mandatory|compulsory|obligatory|must be (?:filled|given|present|entered|set|provided|completed)|always needed|cannot be (?:blank|empty)|must not be (?:blank|empty|left)|may not be (?:blank|empty)|pflichtfeld\p{L}*|pflichtangabe|pflicht|erforderlich|zwingend|muss (?:immer )?(?:ausgefullt|angegeben|gefullt)\p{L}*|darf nicht leer|obligatoires?|requise?s?|doit etre (?:rempli|renseigne)e?|obligatori[oa]s?|requerid[oa]s?|debe rellenarse|no puede quedar vaci[oa])\b/u;
const should =
  /\b(?:recommended|desirable|should be (?:filled|given|provided)|empfohlen|sollte\p{L}* (?:ausgefullt|angegeben)\p{L}*|recommandee?s?|conseillee?s?|recomendad[oa]s?)\b/u;
const may =
  /\b(?:optional|not required|not mandatory|may be (?:left )?(?:blank|empty)|can be left (?:blank|empty)|if available|freiwillig|nicht erforderlich|kein pflichtfeld|kann leer bleiben|darf leer|facultati(?:f|ve|vo|va)s?|optionnel(?:le)?s?|non obligatoire|peut rester vide|opcional(?:es)?|no (?:es )?obligatori[oa]|puede quedar vaci[oa])\b/u;
const condition =
  /\b(?:if|when|where|unless|only for|in case|wenn|falls|sofern|nur bei|nur fur|ausser|si|lorsque|quand|uniquement pour|sauf|cuando|en caso|solo para|salvo)\b/u;

/** Reads a need that a sentence tells, such as "Must be filled when a sale price is given". */
export function needInSentence(text: string): NeedSaid | undefined {
  for (const sentence of text.split(/(?<=[.;!?\n])\s+|\n/)) {
    const plain = folded(sentence);
    if (may.test(plain)) return said("optional", "");
    if (must.test(plain))
      return condition.test(plain) ? said("conditional", sentence.trim()) : said("required", "");
    if (should.test(plain)) return said("recommended", "");
  }
  return undefined;
}

/** A legend's line: a mark or letter, and what it means: `M = mandatory`, `* Pflichtfeld`. */
export function legendLine(text: string): { readonly mark: string; readonly said: NeedSaid } | undefined {
  const found =
    /^\s*(\*{1,3}|[†‡#!●○◐◉◎✓✔✗✘■□▲△•◦]|\(?[A-Z]{1,2}\)?)\s*(?:[=:–-]|means|bedeutet|signifie|significa)?\s+(.{3,60})$/u.exec(
      text.trim(),
    );
  if (found === null) return undefined;
  const what = needOf(found[2] ?? "");
  return what === undefined ? undefined : { mark: (found[1] ?? "").replace(/[()]/g, ""), said: what };
}

/** A mark at a label's end or front: `Title*`, `Title (required)`, `Titel [Pflicht]`. */
export function needOnLabel(
  label: string,
  legend: NeedMarks,
): { readonly label: string; readonly said: NeedSaid | undefined } {
  const bracket = /^(.*?)\s*[([{]\s*([^()[\]{}]+?)\s*[)\]}]\s*$/u.exec(label);
  const inBracket = bracket === null ? undefined : byWord.get(folded(bracket[2] ?? ""));
  if (bracket !== null && inBracket !== undefined)
    return { label: bracket[1] ?? label, said: said(inBracket, "") };
  const dashed = /^(.*?)\s+[-–—:|/]\s+([\p{L} ]+)$/u.exec(label);
  const behindDash = dashed === null ? undefined : byWord.get(folded(dashed[2] ?? ""));
  if (dashed !== null && behindDash !== undefined)
    return { label: dashed[1] ?? label, said: said(behindDash, "") };
  const star = /^(\*{1,3})?\s*(.*?)\s*(\*{1,3}|[†‡!])?$/u.exec(label);
  const mark = star?.[1] ?? star?.[3];
  if (star === null || mark === undefined) return { label, said: undefined };
  return {
    label: star[2] ?? label,
    said: legend.get(mark) ?? (mark === "*" ? said("required", "") : undefined),
  };
}
