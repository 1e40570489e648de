/** A name cut into words; `part` counts what commas, brackets and small words such as "with" divide. */
export interface NameToken {
  readonly word: string;
  readonly part: number;
  /** What stands before its part. */
  readonly joint: Joint;
}

/** `list`: a comma; `and`; `apart`: a bracket or dash; `use`: "for"; `trait`: "with", "in"; `of`. */
export type Joint = "begin" | "list" | "and" | "apart" | "use" | "trait" | "of";

const joints = new Map<string, Joint>([
  ...",;/".split("").map((sign) => [sign, "list"] as const),
  ..."&+".split("").map((sign) => [sign, "and"] as const),
  ..."()[]|:–—•*".split("").map((sign) => [sign, "apart"] as const),
  ..."and und et y e en oder or".split(" ").map((word) => [word, "and"] as const),
  ..."for fur pour para voor zum zur gegen".split(" ").map((word) => [word, "use"] as const),
  ..."of de du des del van".split(" ").map((word) => [word, "of"] as const),
  ..."with in from on without by mit aus von vom im ohne auf am avec sans au aux con sin met uit zonder"
    .split(" ")
    .map((word) => [word, "trait"] as const),
]);

const articles = new Set(
  "the a an to der die das den dem ein eine la le les un une el los las het de l d".split(" "),
);

// A sort's or a maker's name in quotes: "Bean 'Purple Queen'".
const quoted = /(^|[\s(])(?:'(?:[^']|'(?=\p{L}))+'|‘[^’]+’|"[^"]+"|“[^”]+”|„[^“”]+[“”])(?=$|[\s,.;)])/gu;
const possessive = /(\p{L})['’]s?(?![\p{L}\p{N}])/gu;
const pieces = /[\p{L}\p{N}]+|[,;&+/()[\]|:–—•*]/gu;

const folded = (text: string): string =>
  text
    .replace(quoted, "$1")
    .toLowerCase()
    .normalize("NFKD")
    .replace(/\p{M}/gu, "")
    .replaceAll("ß", "ss")
    .replace(possessive, "$1")
    // A dash between spaces divides; one within a word does not.
    .replace(/ - /g, " – ");

/** Longer names say no more of what a thing is. */
const LONGEST = 300;

/** The words of a name in order, without numbers, sizes and articles. */
export function tokensOf(text: string): readonly NameToken[] {
  const found: NameToken[] = [];
  let [part, joint]: [number, Joint] = [0, "begin"];
  let isOpen = false;
  for (const [piece] of folded(text.slice(0, LONGEST)).matchAll(pieces)) {
    const kind = joints.get(piece);
    if (kind !== undefined) {
      if (isOpen) part++;
      if (isOpen || joint === "begin") joint = found.length === 0 ? "begin" : kind;
      // "with a lid for jars": the nearest small word says how what follows belongs.
      else joint = kind;
      isOpen = false;
      continue;
    }
    if (/\d/.test(piece) || articles.has(piece)) continue;
    found.push({ word: piece, part, joint });
    isOpen = true;
  }
  return found;
}
