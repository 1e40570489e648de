/** Yes and no in the usual spellings. */
const words = new Map<string, boolean>([
  ...[
    "yes",
    "y",
    "true",
    "t",
    "1",
    "x",
    "on",
    "ja",
    "j",
    "wahr",
    "oui",
    "vrai",
    "sí",
    "si",
    "sì",
    "tak",
    "✓",
    "✔",
  ].map((word) => [word, true] as const),
  ...[
    "no",
    "n",
    "false",
    "f",
    "0",
    "off",
    "nein",
    "falsch",
    "non",
    "faux",
    "nee",
    "nie",
    "-",
    "–",
    "✗",
    "✘",
  ].map((word) => [word, false] as const),
]);

/** Reads the usual spellings of yes and no, in any case. */
export const readYesNo = (text: string): boolean | undefined => words.get(text.toLowerCase());
