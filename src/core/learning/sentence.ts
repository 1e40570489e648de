import type { Said } from "./said.js";
import { readShorthand } from "./shorthand.js";
import { decimal } from "../values/decimal.js";
import type { Kind } from "../values/value.js";
import { unitOf } from "../values/units.js";

// Numbers up to twelve, as sentences write them out.
const numberWords = new Map(
  [
    ["one two three four five six seven eight nine ten eleven twelve", 1],
    ["ein zwei drei vier fünf sechs sieben acht neun zehn elf zwölf", 1],
    ["un deux trois quatre cinq six sept huit neuf dix onze douze", 1],
    ["uno dos tres cuatro cinco seis siete ocho nueve diez once doce", 1],
    ["eine einen une una", 0],
  ].flatMap(([list, step]) =>
    String(list)
      .split(" ")
      .map((word, at) => [word, step === 0 ? 1 : at + 1] as const),
  ),
);

const digits = String.raw`\d{1,3}(?:[.,' \u00a0\u202f]\d{3})+(?!\d)|\d+`;
const countable = `(?:${digits}|${[...numberWords.keys()].join("|")})`;

const countOf = (text: string): number => numberWords.get(text) ?? Number(text.replace(/\D/g, ""));

const most = String.raw`(?:max(?:imum|imal|imo|imale?)?\.?(?: of)?|máx(?:imo|ima)?\.?|up to|at most|no(?:t)? more than|fewer than|(?:must |may )?(?:not|never) (?:be )?(?:longer than|exceed|more than)|limit(?:ed to)?(?: is)?:?|limitée?s? à|limitad[oa]s? a|(?:begrenzt|beschränkt) auf|less than|shorter than|under|weniger als|moins de|menos de|bis(?: zu)?|höchstens|nicht mehr als|nicht länger als|maximal|jusqu['’]à|au plus|au maximum|(?:ne )?(?:doit |peut )?(?:pas )?dépasser|pas plus de|hasta|como máximo|no más de|≤|<=|fino a|massimo|maximaal|within|kept to|holds)`;
const mostBehind = String.raw`(?:max(?:imum|imal|imo)?\b|máx(?:imo)?|at (?:the )?most|or (?:fewer|less)|höchstens|au (?:plus|maximum)|como máximo|o menos|ou moins|oder weniger|limit|long at most)`;
const letters = String.raw`(?:characters?|chars?\.?|letters|signs|zeichen|buchstaben|caractères?|car\.|caracteres?|caratteri|tekens|bytes?|octets?)`;
const textWords = String.raw`(?:text|texto|texte|testo|string|free text|freitext|char|varchar|str|alphanumeric|alphanumerisch|alphanumérique|alfanumérico)`;
const things = String.raw`(?:of (?:them|these|those)|values?|entries|entry|pictures?|images?|photos?|pics|items|links|terms|keywords|tags|points|bullets?|features|lines|options|columns?|times|werte?|bilder|bild|einträge|begriffe|merkmale|mal|fotos?|stichwörter|valeurs?|images|mots(?:[- ]clés)?|éléments|fois|valores|imágenes|palabras|elementos|veces|enlaces)`;

const all = (pattern: string): RegExp => new RegExp(pattern, "iu");

const lengthPatterns = [
  all(`${most}\\s*(?:of )?(${countable})[\\s-]*(${letters})`),
  all(`(${countable})[\\s-]*(${letters})[\\s,]*(?:or )?${mostBehind}`),
  all(
    `(?:max(?:imum|imal|imale)?\\.?|máx\\.?|longest|höchst)[\\s-]*(?:length|len|länge|longueur|longitud|long\\.|lunghezza)\\s*[:=]?\\s*(?:is |of |de |von )?(${countable})\\s*(${letters})?`,
  ),
  all(
    `(?:length|länge|longueur|longitud)\\s*(?:[:=]|is|of)?\\s*(?:max\\.?|máx\\.?|maximum|maximal|≤|<=|up to|bis|jusqu['’]à|hasta)\\s*(${countable})\\s*(${letters})?`,
  ),
  all(
    `(?:length|länge|longueur|longitud)\\s*(?:máxima|maximale|maximum|max\\.?)\\s*[:=]?\\s*(?:de |of )?(${countable})\\s*(${letters})?`,
  ),
  all(`${textWords}\\s*[(\\[]\\s*(?:max\\.?\\s*|≤\\s*|up to\\s*)?(${countable})\\s*(${letters})?\\s*[)\\]]`),
  all(`${textWords}\\s*[,;:-]?\\s*(?:of |de |mit )?(${countable})\\s*(${letters})`),
  all(`^\\W*(${countable})\\s*(${letters})\\W*$`),
];

const lengthRange = [
  all(
    `(?:between|zwischen|entre|from|von|de|min\\.?)\\s*(${countable})\\s*(?:and|und|et|y|to|bis|à|a|,?\\s*max\\.?)\\s*(${countable})\\s*(${letters})`,
  ),
  all(`(${countable})\\s*(?:-|–|to|bis|à|a)\\s*(${countable})\\s*(${letters})`),
];

const leastLength = all(
  `(?:at least|min(?:imum|destens|imo)?\\.?|mindestens|au moins|al menos|mínimo|no fewer than)\\s*(?:of )?(${countable})[\\s-]*(${letters})`,
);

const exactLength = all(
  `(?:exactly|precisely|always|genau|exakt|exactement|exactamente|siempre|toujours)\\s*(${countable})[\\s-]*(${letters})`,
);

const anyLength = all(
  `(?<![\\d.,])(${countable})[\\s-]*(?:characters?|chars?\\b|zeichen|caractères?|caracteres?|caratteri|tekens)`,
);

const bareLength = (text: string): number | undefined => {
  const found = anyLength.exec(text);
  const count = found === null ? 0 : countOf((found[1] ?? "").toLowerCase());
  return count > 1 ? count : undefined;
};

const itemPatterns = [
  all(`${most}\\s*(?:of )?(${countable})\\s*(?:\\p{L}+\\s+)?${things}`),
  all(`(?:give|enter|have|list|add|nennen|angeben|donner|indicar)\\s+(${countable})\\s+${mostBehind}`),
  all(`(${countable})\\s*${things}[\\s,]*(?:or )?${mostBehind}`),
];

const amount = String.raw`-?\d+(?:[.,]\d+)?`;
const rangePatterns = [
  all(
    `(?:between|zwischen|entre|compris(?:e)? entre)\\s*(${amount})\\s*(?:and|und|et|y|e)\\s*(${amount})(?!\\s*(?:${letters}|dígitos|digits|ziffern|chiffres))`,
  ),
  all(
    `(?:from|von|de|range:?|bereich:?)\\s*(${amount})\\s*(?:to|bis|à|a|up to|-|–)\\s*(${amount})(?!\\s*(?:${letters}|dígitos|digits|ziffern|chiffres))`,
  ),
  all(
    `(?:min(?:imum|imal|imo|\\.)?|least|mín(?:imo|\\.)?|mindestens|smallest)\\s*[:=]?\\s*(${amount})\\s*(?:[,;/]|and|und|et|y)?\\s*(?:max(?:imum|imal|imo|\\.)?|most|máx(?:imo|\\.)?|höchstens|largest)\\s*[:=]?\\s*(${amount})(?!\\s*${letters})`,
  ),
  all(
    `(?:integer|whole number|number|decimal(?:\\s*\\([^)]*\\))?|zahl|ganzzahl|nombre|entier|número|entero|rango)\\s*[,:(]?\\s*(${amount})\\s*(?:-|–|\\.\\.|…|to|bis|à|a)\\s*(${amount})`,
  ),
];
const leastPatterns = [
  all(
    `(?:at least|not less than|minimum|min\\.?|mindestens|au moins|al menos|mínimo|≥|>=)\\s*[:=]?\\s*(${amount})(?!\\s*(?:${letters}|x\\s*\\d|px|pixel|\\s*digits|\\s*ziffern))`,
  ),
];
const mostPatterns = [
  all(
    `(?:at most|not (?:more|higher|greater|above) than|not above|maximum|max\\.?|höchstens|au plus|como máximo|≤|<=)\\s*[:=]?\\s*(${amount})(?!\\s*(?:${letters}|x\\s*\\d|px|pixel|${things}|decimal|dezimal|nachkomma|décimale|stellen|dec\\b|digits))`,
  ),
];

const decimalPatterns = [
  all(
    `(?<![\\d.,-])(${countable})\\s*(?:(?:or fewer |possible )?(?:decimals?|decimal (?:places?|digits?)|dec\\.?(?![a-z])|digits? (?:after|behind) the (?:point|comma)|places? after the (?:point|comma)|dp\\b|nachkommastellen?|dezimalstellen?|dezimale|stellen nach dem komma|décimales?|chiffres? après la virgule|decimales?|cifras? decimales?|decimali))`,
  ),
  all(
    `(?:decimal|number|numeric|num|zahl|dezimal|dezimalzahl|nombre|número|numérico|décimal)\\s*\\(\\s*(?:\\d+\\s*,\\s*)?(\\d)\\s*\\)`,
  ),
  all(
    `(?:decimal|number|zahl|nombre|número|décimal)\\s*\\(\\s*(${countable})\\s*(?:places?|dec\\.?|stellen?)\\s*\\)`,
  ),
  all(`(?:decimals|decimal places|dezimalstellen|nachkommastellen|décimales|decimales)\\s*[:=]\\s*(\\d)`),
];
const noDecimals =
  /\b(?:no decimals?|without decimals?|ohne nachkommastellen|keine nachkommastellen|ohne dezimalstellen|sans décimales?|sin decimales?|(?:number|zahl|nombre|número), whole)/iu;

const whole =
  /\b(?:whole numbers?|integers?|int|ganze zahl(?:en)?|ganzzahl(?:ig)?|nombres? entiers?|entiers?|números? enteros?|enteros?|digits only|numero intero|geheel getal)(?![\p{L}])/iu;
const number =
  /(?<!\p{L})(?:number|numeric|decimal|num|float|double|zahl|dezimalzahl|dezimal|nombre|numérique|décimal|número|numérico|numero)(?!\p{L})(?! of\b)(?!e?s? (?:under|below|der|du)\b)/iu;
const moneyWords =
  /(?<!\p{L})(?:amount|price|money|currency|pounds|euros?|dollars?|gbp|eur|usd|chf|betrag|preis|währung|montant|prix|importe|precio)(?!\p{L})/iu;
const linkWords =
  /(?<!\p{L})(?:urls?|uris?|links?|web address(?:es)?|internetadressen?|webadressen?|adresse (?:web|complète|internet)|adresse d['’]une page|dirección web|enlaces?|direcciones web|https?:\/\/\S*|hyperlinks?)(?!\p{L})/iu;
const barcodeWords =
  /(?<!\p{L})(?:gtin|ean|upc|barcodes?|strichcode|code[- ]barres|código de barras|check digit|prüfziffer|dígito de control|clé de contrôle|number under the bars)(?:-?1[34]|-?8)?(?!\p{L})/iu;
const isbnWords = /(?<!\p{L})isbn(?!\p{L})/iu;
const yesNoWords =
  /(?<!\p{L})(?:yes or no|yes ?\/ ?no|y ?\/ ?n|ja ?\/ ?nein|ja oder nein|oui ?\/ ?non|oui ou non|sí ?\/ ?no|sí o no|true ?\/ ?false|true or false|boolean|bool|j ?\/ ?n|o ?\/ ?n|wahrheitswert|booléen|booleano)(?!\p{L})/iu;
const dateWords =
  /(?<!\p{L})(?:dates?|datum|fechas?|day in the form|tag im format|data|iso[- ]?8601)(?!\p{L})/iu;
const htmlWords = /(?<!\p{L})(?:html|formatted text|formatierter text|texte formaté)(?!\p{L})/iu;
const withoutHtml =
  /(?<!\p{L})(?:no|without|not|ohne|kein|keine|sans|pas de|sin|nicht)\s+(?:\p{L}+\s+)?html/iu;
const textWord = all(`(?<!\\p{L})(?:${textWords})(?!\\p{L})`);
const listWord =
  /(?<!\p{L})(?:list|liste|lista|choice|enum(?:eration)?|drop-?down|pick (?:one )?from|choose (?:one )?from|auswahl(?:liste)?|aus der liste|sélection|menú|selección|select)(?!\p{L})/iu;

const dateForms =
  /(?<![\p{L}\d])((?:Y{4}|J{4}|A{4}|Y{2}|DD|TT|JJ|MM)(?:[-/. ])(?:MM|DD|TT|JJ)(?:[-/. ])(?:Y{4}|J{4}|A{4}|DD|TT|JJ|MM))(?![\p{L}\d])/iu;

/** `TT.MM.JJJJ`, `JJ/MM/AAAA` and `yyyy-mm-dd` as the letters of {@link ValueStyle}. */
const dateForm = (written: string): string | undefined => {
  const upper = written.toUpperCase();
  const form = upper.replace(/J{4}|A{4}|Y{4}/, "YYYY").replace(/TT|JJ/, "DD");
  return ["YYYY", "MM", "DD"].every((part) => form.includes(part)) ? form : undefined;
};

const listIntro =
  /(?:(?:one|any|either) of(?: the following| these)?|(?:permitted|accepted|allowed|possible|valid|admissible|available)(?: values?| options?| entries| words)?(?: are)?|(?:values?|options|choices?) ?(?:are)?|choose (?:from|between|one of)|must be|use (?:only )?|(?:erlaubte|zulässige|mögliche|gültige)(?: werte| angaben| einträge)?|(?:erlaubt|zulässig|möglich)(?: sind)?|werte|auswahl|(?:valeurs?|choix|options) (?:admises?|permises?|possibles?|acceptées?|autorisées?)|(?:valeurs|choix)|(?:valores?|opciones) (?:permitidos?|posibles?|admitidos?|aceptados?|válidos?)|valores|valori ammessi|toegestane waarden)\s*(?::|=|–|-(?= ))\s*(.+)$/isu;
const oneOf =
  /(?:^|[\s.(])(?:one of|either|eines von|einer von|un de|uno de|l['’]une? des valeurs)\s*:?\s+(.+)$/isu;

/** The pieces of `A, B or C`, `« A », « B »` or `A | B`; empty where it is no list. */
export const listedValues = (text: string): readonly string[] => {
  const quoted = [...text.matchAll(/«\s*([^»]+?)\s*»|"([^"]+)"|“([^”]+)”|„([^“”]+)[“”]/gu)].map((found) =>
    (found[1] ?? found[2] ?? found[3] ?? found[4] ?? "").trim(),
  );
  if (quoted.length > 1) return quoted;
  const ended = text.trim().replace(/[.]$/, "");
  const mark = [/\s*\|\s*/, /\s*;\s*/, /\s*\n\s*/, /\s*,\s*/, /\s+\/\s+|(?<=\p{L})\/(?=\p{L})/u].find(
    (one) => ended.split(one).length > 1,
  );
  if (mark === undefined) {
    const two = ended.split(/\s+(?:or|oder|ou|o)\s+/u);
    return two.length === 2 && two.every((one) => one.length <= 40) ? two : [];
  }
  const pieces = ended.split(mark);
  const last = pieces.at(-1) ?? "";
  // Where commas part the values, "or" parts the last two; behind other marks it is a value's own word.
  const lastTwo = mark.source.includes(",") ? last.split(/\s+(?:or|oder|ou|o|u)\s+/u) : [last];
  const values = [...pieces.slice(0, -1), ...(lastTwo.length === 2 ? lastTwo : [last])].map((value) =>
    mark.source.includes(",") ? value.replace(/^(?:or|oder|ou|o|and|und|et|y)\s+/u, "").trim() : value.trim(),
  );
  return values.some((value) => value.length > 60 || value === "")
    ? values.filter((value) => value !== "" && value.length <= 60)
    : values;
};

const valuesIn = (text: string): readonly string[] => {
  const intro = listIntro.exec(text) ?? oneOf.exec(text);
  if (intro === null) return [];
  // The list ends with its sentence: a point before a capital ends one, a point within a value does not.
  const [list = ""] = (intro[1] ?? "").split(/\.\s+(?=\p{Lu})|\.$/u);
  const values = listedValues(list);
  return values.length > 1 &&
    values.every((value) => value.split(" ").length <= 6 && !/\d{3,}\s*(?:characters|zeichen)/iu.test(value))
    ? values
    : [];
};

const isFound = (found: RegExpExecArray | null): found is RegExpExecArray => found !== null;

const number2 = (text: string): string => text.replace(",", ".");

const readLength = (text: string, said: Said): void => {
  for (const pattern of lengthRange) {
    const found = pattern.exec(text);
    if (found === null) continue;
    said.minLength = countOf((found[1] ?? "").toLowerCase());
    said.maxLength = countOf((found[2] ?? "").toLowerCase());
    if (/bytes?|octets?/i.test(found[3] ?? "")) said.counted = "bytes";
    return;
  }
  for (const pattern of lengthPatterns) {
    const found = pattern.exec(text);
    if (found === null) continue;
    said.maxLength = countOf((found[1] ?? "").toLowerCase());
    if (/bytes?|octets?/i.test(found[2] ?? "")) said.counted = "bytes";
    break;
  }
  const exact = exactLength.exec(text);
  const least = exact === null ? leastLength.exec(text) : null;
  // A length that nothing calls the least is the most.
  if (exact === null && least === null) {
    const bare = said.maxLength ?? bareLength(text);
    if (bare !== undefined) said.maxLength = bare;
  }
  if (exact !== null) {
    said.minLength = countOf((exact[1] ?? "").toLowerCase());
    said.maxLength = said.minLength;
  }
  if (least !== null) said.minLength = countOf((least[1] ?? "").toLowerCase());
};

const readRange = (text: string, said: Said): void => {
  for (const pattern of rangePatterns) {
    const found = pattern.exec(text);
    if (found === null) continue;
    const [min, max] = [number2(found[1] ?? ""), number2(found[2] ?? "")];
    const [low, high] = [decimal(min), decimal(max)];
    if (low === undefined || high === undefined || low.gt(high)) continue;
    said.min = min;
    said.max = max;
    return;
  }
  const least = leastPatterns.map((pattern) => pattern.exec(text)).find(isFound);
  if (least !== undefined) said.min = number2(least[1] ?? "");
  const greatest = mostPatterns.map((pattern) => pattern.exec(text)).find(isFound);
  if (greatest !== undefined) said.max = number2(greatest[1] ?? "");
};

const readDecimals = (text: string, said: Said): void => {
  if (noDecimals.test(text)) said.decimals = 0;
  for (const pattern of decimalPatterns) {
    const found = pattern.exec(text);
    const count = found === null ? undefined : countOf((found[1] ?? "").toLowerCase());
    if (count !== undefined && count <= 8) {
      said.decimals = count;
      return;
    }
  }
};

/** A unit that a sentence or label names: `in kg`, `unit: cm`, `(mm)`, `[g]`. */
export const unitIn = (text: string): string | undefined => {
  const patterns = [
    /[([]\s*(?:in )?([\p{L}²³"]{1,12})\s*[)\]]/u,
    /(?<!\p{L})(?:in|en|unit|units|einheit|unité|unidad|given in|angabe in)\s*[:=]?\s+([\p{L}²³]{1,12})(?!\p{L})/iu,
    /[,;]\s*(kg|g|mm|cm|m|l|ml|W|kW|lb|oz|in)\s*[.;,]?$/u,
  ];
  for (const pattern of patterns) {
    const word = pattern.exec(text)?.[1] ?? "";
    const unit = word === "" ? undefined : unitOf(word);
    // "in" and "m" within a sentence are words first.
    // So are pounds where the talk is of money.
    if (
      /^pounds?$/i.test(word) &&
      /(?<!\p{L})(?:amount|price|currency|pence|money|sterling)(?!\p{L})/iu.test(text)
    )
      continue;
    if (unit !== undefined && unit.dimension !== "count" && unit.dimension !== "time") return unit.code;
  }
  return undefined;
};

const kindOf = (text: string, said: Said): Kind | undefined => {
  if (isbnWords.test(text)) return "isbn";
  if (barcodeWords.test(text)) return "gtin";
  if (yesNoWords.test(text)) return "yes-no";
  if (said.date !== undefined) return "date";
  if (whole.test(text)) return said.unit === undefined ? "integer" : "measure";
  if (said.unit !== undefined && (number.test(text) || said.decimals !== undefined)) return "measure";
  const isNumber = said.decimals !== undefined || number.test(text);
  if (isNumber && moneyWords.test(text)) return "money";
  if (said.maxLength === undefined && linkWords.test(text)) return "url";
  if (isNumber) return said.decimals === 0 ? "integer" : "decimal";
  if (said.maxLength === undefined && moneyWords.test(text) && text.length < 30) return "money";
  if (htmlWords.test(text) && !withoutHtml.test(text)) return "html";
  if (said.maxLength !== undefined || said.minLength !== undefined)
    return linkWords.test(text) ? "url" : "text";
  if (dateWords.test(text) && text.length < 60) return "date";
  if (listWord.test(text)) return "choice";
  return textWord.test(text) ? "text" : undefined;
};

/** Reads what a sentence of the rules says, in English, German, French or Spanish. */
export const readSentence = (written: string): Said => {
  const text = written.replace(/\s+/g, " ").trim();
  const short = readShorthand(text);
  if (short !== undefined) return short;
  const said: Said = {};
  if (text === "") return said;
  readLength(text, said);
  for (const pattern of itemPatterns) {
    const found = pattern.exec(text);
    if (found === null) continue;
    said.maxItems = countOf((found[1] ?? "").toLowerCase());
    break;
  }
  readDecimals(text, said);
  const unit = unitIn(text);
  if (unit !== undefined) said.unit = unit;
  const day = dateForms.exec(text);
  const form = day === null ? undefined : dateForm(day[1] ?? "");
  if (form !== undefined) said.date = form;
  const values = valuesIn(written);
  if (values.length > 0) said.values = values;
  const pixels =
    /(\d{2,5})\s*(?:x|×|by|mal|par|por)\s*(\d{2,5})?\s*(?:px|pixels?|píxeles)?/iu.exec(text) ??
    /(\d{3,5})\s*(?:px|pixels?|píxeles)/iu.exec(text);
  if (pixels !== null && /px|pixel|píxel/iu.test(text)) said.pixels = Number(pixels[1]);
  const kind = values.length > 0 ? "choice" : kindOf(text, said);
  if (kind !== undefined) said.kind = kind;
  const isNumber = kind === "integer" || kind === "decimal" || kind === "money" || kind === "measure";
  if (isNumber || (kind === undefined && said.maxLength === undefined)) readRange(text, said);
  if (!isNumber && kind !== undefined) {
    delete said.min;
    delete said.max;
  }
  return said;
};
