/** How a command ends, the same for all. */
export type ExitCode = 0 | 1 | 2 | 3 | 130 | 141;

/**
 * What each says, for the manual.
 * @public
 */
export const exitCodes: readonly (readonly [code: ExitCode, says: string])[] = [
  [0, "What was asked for was done. What is held, rejected or not known is told."],
  [
    1,
    "The answer is no: check found errors, try could not be worked out, no product is meant, nothing of the work could be done, or --strict wants all of it.",
  ],
  [2, "The command line, a setting or a definition is wrong. Nothing was changed."],
  [3, "It could not finish: a file, the store, a disk, or a fault of the program."],
  [130, "A person broke it off (Ctrl+C). What they had answered before is kept."],
  [141, "The reader of the answer went away before it was told. The work itself is done."],
];
