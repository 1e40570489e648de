import type { Io } from "../io/io.js";

/** What `--color` may be. */
export const COLOR_WORDS = ["auto", "always", "never"] as const;

function colorWord(argv: readonly string[]): string | undefined {
  const at = argv.findLastIndex((word) => word === "--color" || word.startsWith("--color="));
  const word = argv[at];
  return word?.includes("=") === true ? word.slice("--color=".length) : argv[at + (at < 0 ? 0 : 1)];
}

/** Whether a word is one of them; none at all is fine. */
export const isColor = (word: string | undefined): boolean =>
  word === undefined || COLOR_WORDS.some((known) => known === word);

/** The world as the command line wants it: with or without colours, questions, pages. */
export function wishedIo(argv: readonly string[], world: Io): Io {
  const color = argv.some((word) => word.startsWith("--color")) ? colorWord(argv) : undefined;
  const paint = (auto: boolean): boolean => (color === "always" ? true : color === "never" ? false : auto);
  return {
    ...world,
    colors: paint(world.colors),
    errorColors: paint(world.errorColors),
    isAttended: world.isAttended && !argv.includes("--no-input"),
    page: argv.includes("--no-pager") || argv.includes("--json") ? undefined : world.page,
  };
}
