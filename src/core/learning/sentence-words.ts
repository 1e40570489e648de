/**
 * Words of rules, a table a language: how English, German, French, Spanish, Italian and Dutch say "at most", "characters",
 * "one of". The grammar of sentences (`sentence.ts`) is made of concepts; a language is a row of words under each of them.
 *
 * A row is a regular expression's alternatives. Longer ones stand before those that they begin with.
 */

type Language = "en" | "de" | "fr" | "es" | "it" | "nl";

/** Alternatives of a concept by language; a language that says it in another's words has no row. */
type Rows = Readonly<Partial<Record<Language, string>>>;

/** Signs and shorthand that are of no language. */
type Signs = string;

const either = (rows: Rows, signs: Signs = ""): string =>
  `(?:${[...Object.values(rows), signs].filter(Boolean).join("|")})`;

/** Before a number: it is the greatest. */
export const most = either(
  {
    en: String.raw`max(?:imum|imal|imo|imale?)?\.?(?: of)?|up to|at most|no(?:t)? more than|fewer than|(?:must |may )?(?:not|never) (?:be )?(?:longer than|exceed|more than)|limit(?:ed to)?(?: is)?:?|less than|shorter than|under|within|kept to|holds`,
    de: String.raw`(?:begrenzt|beschränkt) auf|weniger als|bis(?: zu)?|höchstens|nicht mehr als|nicht länger als|maximal`,
    fr: String.raw`limitée?s? à|moins de|jusqu['’]à|au plus|au maximum|(?:ne )?(?:doit |peut )?(?:pas )?dépasser|pas plus de`,
    es: String.raw`máx(?:imo|ima)?\.?|limitad[oa]s? a|menos de|hasta|como máximo|no más de`,
    it: String.raw`fino a|massimo`,
    nl: String.raw`maximaal`,
  },
  "≤|<=",
);

/** Behind a number: it is the greatest. */
export const mostBehind = either({
  en: String.raw`max(?:imum|imal|imo)?\b|at (?:the )?most|or (?:fewer|less)|limit|long at most`,
  de: String.raw`höchstens|oder weniger`,
  fr: String.raw`au (?:plus|maximum)|ou moins`,
  es: String.raw`máx(?:imo)?|como máximo|o menos`,
});

/** Before a number of characters: it is the least. */
export const leastLength = either({
  en: String.raw`at least|min(?:imum|destens|imo)?\.?|no fewer than`,
  de: "mindestens",
  fr: "au moins",
  es: "al menos|mínimo",
});

/** Before a number: it is the least. */
export const least = either(
  {
    en: String.raw`at least|not less than|minimum|min\.?`,
    de: "mindestens",
    fr: "au moins",
    es: "al menos|mínimo",
  },
  "≥|>=",
);

/** Before a number: it is the greatest that a value may be. */
export const greatest = either(
  {
    en: String.raw`at most|not (?:more|higher|greater|above) than|not above|maximum|max\.?`,
    de: "höchstens",
    fr: "au plus",
    es: "como máximo",
  },
  "≤|<=",
);

/** Before a number: neither more nor less. */
export const exactly = either({
  en: "exactly|precisely|always",
  de: "genau|exakt",
  fr: "exactement|toujours",
  es: "exactamente|siempre",
});

/** What lengths are counted in. */
export const letters = either({
  en: String.raw`characters?|chars?\.?|letters|signs|bytes?`,
  de: "zeichen|buchstaben",
  fr: String.raw`caractères?|car\.|octets?`,
  es: "caracteres?",
  it: "caratteri",
  nl: "tekens",
});

/** The same where the number stands alone before it. */
export const bareLetters = either({
  en: String.raw`characters?|chars?\b`,
  de: "zeichen",
  fr: "caractères?",
  es: "caracteres?",
  it: "caratteri",
  nl: "tekens",
});

/** Lengths that computers count in. */
export const inBytes = /bytes?|octets?/i;

/** "Length" itself. */
export const lengthWord = either({
  en: "length",
  de: "länge",
  fr: "longueur",
  es: "longitud",
});

/** The same, with the short forms of tables. */
export const lengthShort = either({
  en: "length|len",
  de: "länge",
  fr: "longueur",
  es: String.raw`longitud|long\.`,
  it: "lunghezza",
});

/** Before "length": the greatest. */
export const greatestOf = either({
  en: String.raw`max(?:imum|imal|imale)?\.?|longest`,
  de: "höchst",
  es: String.raw`máx\.?`,
});

/** Behind "length": the greatest. */
export const atMostOf = either(
  {
    en: String.raw`max\.?|maximum|maximal|up to`,
    de: "bis",
    fr: "jusqu['’]à",
    es: String.raw`máx\.?|hasta`,
  },
  "≤|<=",
);

/** Behind "length" as its adjective. */
export const greatestBehind = either({
  en: String.raw`maximum|max\.?`,
  fr: "maximale",
  es: "máxima",
});

/** Words for a text as a kind. */
export const textWords = either({
  en: "text|string|free text|char|varchar|str|alphanumeric",
  de: "freitext|alphanumerisch",
  fr: "texte|alphanumérique",
  es: "texto|alfanumérico",
  it: "testo",
});

/** Things that several of may stand in one field. */
export const things = either({
  en: "of (?:them|these|those)|values?|entries|entry|pictures?|images?|photos?|pics|items|links|terms|keywords|tags|points|bullets?|features|lines|options|columns?|times",
  de: "werte?|bilder|bild|einträge|begriffe|merkmale|mal|stichwörter",
  fr: "fotos?|valeurs?|images|mots(?:[- ]clés)?|éléments|fois",
  es: "valores|imágenes|palabras|elementos|veces|enlaces",
});

/** What asks a person to fill in so many. */
export const giving = either({
  en: "give|enter|have|list|add",
  de: "nennen|angeben",
  fr: "donner",
  es: "indicar",
});

/** Numbers up to twelve, as sentences write them out, in their order. */
export const countWords: Readonly<Partial<Record<Language, string>>> = {
  en: "one two three four five six seven eight nine ten eleven twelve",
  de: "ein zwei drei vier fünf sechs sieben acht neun zehn elf zwölf",
  fr: "un deux trois quatre cinq six sept huit neuf dix onze douze",
  es: "uno dos tres cuatro cinco seis siete ocho nueve diez once doce",
};

/** Further words for one. */
export const oneWords = "eine einen une una";

/** Before the first of two bounds. */
export const between = either({
  en: "between",
  de: "zwischen",
  fr: "compris(?:e)? entre",
  es: "entre",
});

/** The same, with plainer words that need a unit behind them. */
export const from = either({
  en: String.raw`between|from|min\.?`,
  de: "zwischen|von",
  fr: "entre|de",
});

/** Before the first of two bounds, with nothing behind them. */
export const fromWord = either({ en: "from|range:?", de: "von|bereich:?", fr: "de" });

/** Between two bounds that a word announced. */
export const and = either({ en: "and", de: "und", fr: "et", es: "y", it: "e" });

/** The same, for lengths. */
export const andTo = either({
  en: String.raw`and|to|,?\s*max\.?`,
  de: "und|bis",
  fr: "et|à",
  es: "y|a",
});

/** Between two bounds with nothing before them. */
export const to = either({ en: "to", de: "bis", fr: "à", es: "a" }, "-|–");

/** The smallest and the greatest beside each other: "min 1, max 9". */
export const smallestName = either({
  en: String.raw`min(?:imum|imal|imo|\.)?|least|smallest`,
  de: "mindestens",
  es: String.raw`mín(?:imo|\.)?`,
});
/** The greatest of the two. */
export const greatestName = either({
  en: String.raw`max(?:imum|imal|imo|\.)?|most|largest`,
  de: "höchstens",
  es: String.raw`máx(?:imo|\.)?`,
});

/** Kinds of numbers before a range. */
export const numberBeforeRange = either({
  en: String.raw`integer|whole number|number|decimal(?:\s*\([^)]*\))?`,
  de: "zahl|ganzzahl",
  fr: "nombre|entier",
  es: "número|entero|rango",
});

/** Digits, which are no amount. */
export const digitWords = "dígitos|digits|ziffern|chiffres";

/** Words behind a number that say that it counts decimals. */
export const decimalPlaces = either({
  en: String.raw`(?:or fewer |possible )?(?:decimals?|decimal (?:places?|digits?)|dec\.?(?![a-z])|digits? (?:after|behind) the (?:point|comma)|places? after the (?:point|comma)|dp\b)`,
  de: "nachkommastellen?|dezimalstellen?|dezimale|stellen nach dem komma",
  fr: "décimales?|chiffres? après la virgule",
  es: "decimales?|cifras? decimales?",
  it: "decimali",
});

/** Kinds of numbers with decimals in brackets behind them. */
export const decimalKind = either({
  en: "decimal|number|numeric|num",
  de: "zahl|dezimal|dezimalzahl",
  fr: "nombre|décimal",
  es: "número|numérico",
});

/** Words of which behind a number that is the greatest say that it counts something else. */
export const countsOtherwise = String.raw`decimal|dezimal|nachkomma|décimale|stellen|dec\b|digits`;

const word = (rows: Rows, signs: Signs = ""): RegExp =>
  new RegExp(String.raw`(?<!\p{L})${either(rows, signs)}(?!\p{L})`, "iu");

/** That a number has none. */
export const noDecimals = new RegExp(
  String.raw`\b${either(
    {
      en: "no decimals?|without decimals?",
      de: "ohne nachkommastellen|keine nachkommastellen|ohne dezimalstellen",
      fr: "sans décimales?",
      es: "sin decimales?",
    },
    "(?:number|zahl|nombre|número), whole",
  )}`,
  "iu",
);

/** Words for the kinds of values. */
export const kindWords = {
  integer: new RegExp(
    String.raw`\b${either({
      en: "whole numbers?|integers?|int|digits only",
      de: "ganze zahl(?:en)?|ganzzahl(?:ig)?",
      fr: "nombres? entiers?|entiers?",
      es: "números? enteros?|enteros?",
      it: "numero intero",
      nl: "geheel getal",
    })}(?![\p{L}])`,
    "iu",
  ),
  number: new RegExp(
    String.raw`(?<!\p{L})${either({
      en: "number|numeric|decimal|num|float|double",
      de: "zahl|dezimalzahl|dezimal",
      fr: "nombre|numérique|décimal",
      es: "número|numérico",
      it: "numero",
    })}(?!\p{L})(?! of\b)(?!e?s? (?:under|below|der|du)\b)`,
    "iu",
  ),
  money: word(
    {
      en: "amount|price|money|currency|pounds",
      de: "betrag|preis|währung",
      fr: "montant|prix",
      es: "importe|precio",
    },
    "euros?|dollars?|gbp|eur|usd|chf",
  ),
  link: word(
    {
      en: "links?|web address(?:es)?|hyperlinks?",
      de: "internetadressen?|webadressen?",
      fr: "adresse (?:web|complète|internet)|adresse d['’]une page",
      es: "dirección web|enlaces?|direcciones web",
    },
    String.raw`urls?|uris?|https?:\/\/\S*`,
  ),
  barcode: new RegExp(
    String.raw`(?<!\p{L})${either(
      {
        en: "barcodes?|check digit|number under the bars",
        de: "strichcode|prüfziffer",
        fr: "code[- ]barres|clé de contrôle",
        es: "código de barras|dígito de control",
      },
      "gtin|ean|upc",
    )}(?:-?1[34]|-?8)?(?!\p{L})`,
    "iu",
  ),
  isbn: word({}, "isbn"),
  yesNo: word(
    {
      en: "yes or no|yes ?/ ?no|y ?/ ?n|true ?/ ?false|true or false|boolean|bool",
      de: "ja ?/ ?nein|ja oder nein|j ?/ ?n|wahrheitswert",
      fr: "oui ?/ ?non|oui ou non|o ?/ ?n|booléen",
      es: "sí ?/ ?no|sí o no|booleano",
    },
    "",
  ),
  date: word({
    en: "dates?|day in the form",
    de: "datum|tag im format",
    es: "fechas?",
    it: "data",
    nl: "iso[- ]?8601",
  }),
  html: word({ en: "html|formatted text", de: "formatierter text", fr: "texte formaté" }),
  noHtml: new RegExp(
    String.raw`(?<!\p{L})${either({
      en: "no|without|not",
      de: "ohne|kein|keine|nicht",
      fr: "sans|pas de",
      es: "sin",
    })}\s+(?:\p{L}+\s+)?html`,
    "iu",
  ),
  choice: word({
    en: "list|choice|enum(?:eration)?|drop-?down|pick (?:one )?from|choose (?:one )?from|select",
    de: "liste|auswahl(?:liste)?|aus der liste",
    fr: "sélection",
    es: "menú|selección",
    it: "lista",
  }),
} as const;

/** Before a list of values, with a mark behind it: "Allowed values: …". */
export const beforeValues = either({
  en: "(?:one|any|either) of(?: the following| these)?|(?:permitted|accepted|allowed|possible|valid|admissible|available)(?: values?| options?| entries| words)?(?: are)?|(?:values?|options|choices?) ?(?:are)?|choose (?:from|between|one of)|must be|use (?:only )?",
  de: "(?:erlaubte|zulässige|mögliche|gültige)(?: werte| angaben| einträge)?|(?:erlaubt|zulässig|möglich)(?: sind)?|werte|auswahl",
  fr: "(?:valeurs?|choix|options) (?:admises?|permises?|possibles?|acceptées?|autorisées?)|(?:valeurs|choix)",
  es: "(?:valores?|opciones) (?:permitidos?|posibles?|admitidos?|aceptados?|válidos?)|valores",
  it: "valori ammessi",
  nl: "toegestane waarden",
});

/** Before a list of values within a sentence. */
export const oneOfWords = either({
  en: "one of|either",
  de: "eines von|einer von",
  fr: "un de|l['’]une? des valeurs",
  es: "uno de",
});

/** Between the last two of a list: its words for "or". */
export const orWords = {
  two: "or|oder|ou|o",
  last: "or|oder|ou|o|u",
  before: "or|oder|ou|o|and|und|et|y",
} as const;
