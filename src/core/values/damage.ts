/** Traces of what spreadsheets and encodings did to a cell, and what can be proved to have stood there. */
import { monthNamed } from "./months.js";

/** What a spreadsheet, a wrong encoding or a hurried hand did to a cell. */
export type Damage =
  | "scientific"
  | "leading-zeros"
  | "decimal-point"
  | "date"
  | "encoding"
  | "quotes"
  | "spaces"
  | "formula"
  | "text-formula"
  | "address"
  | "oversold"
  | "joined"
  | "markup"
  | "hidden"
  | "blanks"
  | "decimal-mark"
  | "binary-noise";

/** Letters that were lost when the text was saved: they cannot be guessed. */
export const hasLostLetters = (text: string): boolean => text.includes("\ufffd");

const dayMonth = /^(\d{1,2})[-. /]{1,2}(\p{L}{3,9})\.?$/u;
const monthDay = /^(\p{L}{3,9})\.?[-. /]{1,2}(\d{1,2})$/u;
const isoDay = /^\d{4}-(\d{2})-(\d{2})(?:[T ]00:00(?::00)?(?:\.0+)?Z?)?$/;

/**
 * What a cell can have held before a spreadsheet took it for a date: `10-Dec` was 10-12, 10/12, 12-10 or 12/10.
 * Empty when the text is no such date.
 */
export function beforeDate(text: string): readonly string[] {
  if (text.length > 25) return [];
  const [iso, first, second] = [isoDay.exec(text), dayMonth.exec(text), monthDay.exec(text)];
  const day = Number(iso?.[2] ?? first?.[1] ?? second?.[2] ?? 0);
  const month = iso === null ? (monthNamed(first?.[2] ?? second?.[1] ?? "") ?? 0) : Number(iso[1]);
  if (day === 0 || month === 0) return [];
  return ["-", "/"].flatMap((mark) => [`${day}${mark}${month}`, `${month}${mark}${day}`]);
}

// What spreadsheets show of a failed formula, in the languages of the shops: nothing there, a wrong kind, a place that is
// gone, an unknown name, a division by nothing, a number out of range, no overlap, no room, not worked out.
const formulaFaults = new Set(
  (
    "#n/a #n/v #nv #n/d #n/d! #n/disp #n/b #i/t #saknas! #puuttuu! #není_k_dispozici #hiányzik " +
    "#value! #wert! #valeur! #¡valor! #valor! #valore! #waarde! #arg! #värdefel! #værdi! #verdi! #arvo! #hodnota! #érték! " +
    "#ref! #bezug! #¡ref! #rif! #verw! #adr! #referens! #reference! #referanse! #viittaus! #odkaz! #hiv! " +
    "#name? #nom? #¿nombre? #nombre? #nome? #naam? #nazwa? #namn? #navn? #nimi? #název? #název #név? " +
    "#div/0! #¡div/0! #deel/0! #dziel/0! #division/0! #dele/0! #jako/0! #dělení_nulou! #zéróosztó! " +
    "#num! #zahl! #nombre! #¡num! #núm! #getal! #liczba! #ogiltigt! #tall! #luku! #číslo! #szám! " +
    "#null! #nul! #¡nulo! #nulo! #nullo! #leeg! #zero! #skärning! #tyhjä! #nulla! " +
    "#spill! #überlauf! #propagation! #¡desbordamiento! #espansione! #overloop! #despejar! #rozlanie! " +
    "#calc! #kalk! #calcul! #¡calc! #calcolo! #oblicz! #getting_data #daten_abrufen #field! #feld! #champ! #blocked! " +
    "#blockiert! #connect! #verbinden! #busy! #unknown! #unbekannt! #error! #fehler! #erreur! #python!"
  ).split(" "),
);
const numberedFault = /^(?:Err|Fehler|Erreur|Errore|Fout):\d{3}$/i;

/** A cell whose formula failed: it shows the fault in the place of the value. */
export const isFormulaFault = (text: string): boolean =>
  text.startsWith("#") ? formulaFaults.has(text.toLowerCase()) : numberedFault.test(text);
