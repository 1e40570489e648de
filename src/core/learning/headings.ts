/** Headings of tables that explain something, in the words of several languages. */
import { plainWords } from "./plain-words.js";
import { fold } from "../values/text.js";
import { headsNeeds } from "./need-words.js";

/** What a column of a table that explains something holds. */
export type Explains =
  | "code"
  | "label"
  | "meaning"
  | "values"
  | "example"
  | "need"
  | "kind"
  | "length"
  | "min"
  | "max"
  | "items"
  | "decimals"
  | "unit"
  | "scope";

// By the whole heading first, then by a word in it; English, German, French, Spanish.
const whole: readonly (readonly [Explains, words: string])[] = [
  [
    "code",
    "field; column; attribute; code; key; field code; technical name; internal name; field name; " +
      "column name; attribute name; attribute code; element; tag; header; variable; property; " +
      "identifier; id; feld; spalte; attribut; feldname; spaltenname; technischer name; merkmal; champ; " +
      "colonne; attribut; code champ; nom technique; balise; columna; campo; atributo; nombre tecnico; " +
      "codigo",
  ],
  [
    "label",
    "name; label; title; heading; column heading; display name; caption; bezeichnung; uberschrift; " +
      "anzeigename; titel; spaltenuberschrift; libelle; intitule; nom; nom affiche; etiqueta; nombre; " +
      "titulo; denominacion",
  ],
  [
    "meaning",
    "meaning; what it means; description; explanation; definition; help; guidance; rules; rule; " +
      "notes; note; remark; remarks; comment; comments; instructions; how to fill; details; validation; " +
      "restrictions; erklarung; beschreibung; bedeutung; regeln; regel; hinweis; hinweise; bemerkung; " +
      "bemerkungen; erlauterung; vorgaben; regles; regle; explication; explications; remarque; " +
      "remarques; signification; consignes; explicacion; explicaciones; reglas; regla; descripcion; " +
      "observaciones; notas; instrucciones; significado",
  ],
  [
    "values",
    "values; accepted values; permitted values; allowed values; possible values; " +
      "options; choices; list of values; allowed; werte; erlaubte werte; zulassige werte; " +
      "mogliche werte; auswahl; valeurs; valeurs admises; valeurs possibles; valeurs acceptees; " +
      "valeurs autorisees; valores; valores permitidos; valores posibles; valores admitidos; opciones",
  ],
  [
    "example",
    "example; examples; sample; sample value; e g; for example; beispiel; beispiele; z b; exemple; " +
      "exemples; ejemplo; ejemplos",
  ],
  [
    "kind",
    "type; data type; datatype; kind; format; field type; value type; typ; datentyp; art; " +
      "type de donnee; type de donnees; tipo; tipo de dato; tipo de datos; formato",
  ],
  [
    "length",
    "length; max length; maximum length; max characters; max chars; size limit; lange; max lange; " +
      "maximale lange; zeichen; longueur; longueur max; longueur maximale; longitud; longitud maxima; " +
      "max caracteres",
  ],
  ["min", "min; minimum; min value; minimum value; least; mindestwert; minimo; valeur min"],
  ["max", "max; maximum; max value; maximum value; most; hochstwert; maximo; valeur max"],
  [
    "items",
    "occurrences; max occurrences; multiplicity; repeats; max number; number of values; how many; " +
      "max values; anzahl; haufigkeit; wiederholungen; max anzahl; occurrence; nombre max; " +
      "nombre de valeurs; repeticiones; ocurrencias; numero de valores",
  ],
  ["decimals", "decimals; decimal places; precision; nachkommastellen; decimales"],
  ["unit", "unit; units; unit of measure; einheit; unite; unidad"],
  [
    "scope",
    "category; categories; applies to; scope; product type; for; kategorie; gilt fur; categorie; " +
      "s applique a; categoria; aplica a",
  ],
];

const byHeading = new Map(
  whole.flatMap(([what, list]) => list.split("; ").map((word) => [word, what] as const)),
);

const partly: readonly (readonly [RegExp, Explains])[] = [
  [
    /\b(?:permitted|accepted|allowed|valid|possible) (?:values|options|entries)\b|\berlaubte\b|\bzulassige\b|\bvaleurs\b|\bvalores\b/,
    "values",
  ],
  [/\b(?:example|beispiel|exemple|ejemplo)\b/, "example"],
  [
    /\b(?:max|maximum)\b.*\b(?:length|char\w*|zeichen|caracteres)\b|\b(?:length|lange|longueur|longitud)\b/,
    "length",
  ],
  [
    /\b(?:description|meaning|explanation|rules?|erklarung|beschreibung|regeln?|hinweise?|regles?|explicacion|reglas|instruc\w+|remarks?|notes?)\b/,
    "meaning",
  ],
  [/\b(?:data type|datentyp|format)\b/, "kind"],
  [/\b(?:column heading|heading|label|libelle|bezeichnung|etiqueta)\b/, "label"],
  [/\b(?:field|column|attribute|feld|spalte|champ|colonne|columna|campo|atributo)\b/, "code"],
];

/** What a heading says its column holds; undefined where it says nothing of the kind. */
export function explains(heading: string): Explains | undefined {
  const text = plainWords(heading);
  if (text === "" || heading.length > 45) return undefined;
  const known = byHeading.get(text);
  if (known !== undefined) return known;
  if (headsNeeds(heading)) return "need";
  return partly.find(([pattern]) => pattern.test(text))?.[1];
}

/** A name as columns are found by it: no case, accents, marks or punctuation. */
export const nameKey = (name: string): string =>
  fold(name.replace(/\*/g, "")).replace(/[^\p{L}\p{N}]+/gu, "");
