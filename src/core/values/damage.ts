/** What a spreadsheet, a wrong encoding or a hurried hand did to a cell. */
export type Damage =
  "scientific" | "leading-zeros" | "decimal-point" | "date" | "encoding" | "quotes" | "spaces" | "formula";

// The characters that Windows-1252 has at 0x80 to 0x9f, in that order; a space where it has none.
const windows1252 = "€ ‚ƒ„…†‡ˆ‰Š‹Œ Ž  ‘’“”•–—˜™š›œ žŸ";

const byteOf = (character: string): number => {
  const code = character.charCodeAt(0);
  if (code <= 0xff) return code;
  const at = windows1252.indexOf(character);
  return at < 0 ? 0 : 0x80 + at;
};

// UTF-8 read as Windows-1252: a character of 0xc2 to 0xf4, then one to three of 0x80 to 0xbf.
const misread = /[\u00c2-\u00f4][\u0080-\u00bf€‚ƒ„…†‡ˆ‰Š‹ŒŽ‘’“”•–—˜™š›œžŸ]{1,3}/g;
const suspicious = /[\u00c2-\u00f4][\u0080-\u00bf€‚ƒ„…†‡ˆ‰Š‹ŒŽ‘’“”•–—˜™š›œžŸ]/;
const utf8 = new TextDecoder("utf-8", { fatal: true });

const decoded = (piece: string): string => {
  const lead = piece.charCodeAt(0);
  const length = lead >= 0xf0 ? 4 : lead >= 0xe0 ? 3 : 2;
  if (piece.length < length) return piece;
  try {
    return utf8.decode(Uint8Array.from(piece.slice(0, length), byteOf)) + piece.slice(length);
  } catch {
    return piece;
  }
};

/** Text that was written as UTF-8 and read as Windows-1252, put right; undefined when nothing of the kind is in it. */
export const repairEncoding = (text: string): string | undefined => {
  if (!suspicious.test(text)) return undefined;
  const repaired = text.replace(misread, decoded);
  return repaired === text ? undefined : repaired;
};

/** Letters that were lost when the text was saved: they cannot be guessed. */
export const hasLostLetters = (text: string): boolean => text.includes("\ufffd");

// English, German and French, in full and as spreadsheets shorten them; accents may be gone.
const monthNames = [
  "jan january januar jänner janvier janv",
  "feb february februar févr février fevrier",
  "mar march märz mrz mär maerz mars",
  "apr april avr avril",
  "may mai",
  "jun june juni juin",
  "jul july juli juil juillet",
  "aug august août aout",
  "sep sept september septembre",
  "oct october okt oktober octobre",
  "nov november novembre",
  "dec december dez dezember déc décembre decembre",
].map((names) => names.split(" "));
const months = new Map(monthNames.flatMap((names, index) => names.map((name) => [name, index + 1] as const)));
const dayMonth = /^(\d{1,2})[-. /]{1,2}(\p{L}{3,9})\.?$/u;
const monthDay = /^(\p{L}{3,9})\.?[-. /]{1,2}(\d{1,2})$/u;
const isoDay = /^\d{4}-(\d{2})-(\d{2})(?:[T ]00:00(?::00)?(?:\.0+)?Z?)?$/;

/**
 * What a cell can have held before a spreadsheet took it for a date: `10-Dec` was 10-12, 10/12, 12-10 or 12/10.
 * Empty when the text is no such date.
 */
export const beforeDate = (text: string): readonly string[] => {
  if (text.length > 25) return [];
  const [iso, first, second] = [isoDay.exec(text), dayMonth.exec(text), monthDay.exec(text)];
  const day = Number(iso?.[2] ?? first?.[1] ?? second?.[2] ?? 0);
  const month =
    iso === null ? (months.get((first?.[2] ?? second?.[1] ?? "").toLowerCase()) ?? 0) : Number(iso[1]);
  if (day === 0 || month === 0) return [];
  return ["-", "/"].flatMap((mark) => [`${day}${mark}${month}`, `${month}${mark}${day}`]);
};

const formulaFaults = new Set([
  "#N/A",
  "#REF!",
  "#VALUE!",
  "#NAME?",
  "#DIV/0!",
  "#NUM!",
  "#NULL!",
  "#NV",
  "#BEZUG!",
  "#WERT!",
]);

/** A cell whose formula failed: it shows the fault in the place of the value. */
export const isFormulaFault = (text: string): boolean =>
  text.startsWith("#") && formulaFaults.has(text.toUpperCase());
