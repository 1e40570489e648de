// English, German and French, in full and as spreadsheets shorten them; accents may be gone.
const names = [
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
].map((line) => line.split(" "));

const months = new Map(names.flatMap((all, index) => all.map((name) => [name, index + 1] as const)));

/** The number of a month, 1 to 12, by one of its names as a whole word; undefined for any other word. */
export const monthNamed = (word: string): number | undefined => months.get(word.toLowerCase());
