const words = new Map<string, boolean>([
  ...["yes", "y", "true", "1", "x", "on", "ja", "oui", "✓"].map((word) => [word, true] as const),
  ...["no", "n", "false", "0", "off", "nein", "non", "-"].map((word) => [word, false] as const),
]);

/** Reads the usual spellings of yes and no, in any case. */
export const readYesNo = (text: string): boolean | undefined => words.get(text.toLowerCase());
