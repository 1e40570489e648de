import { commands } from "../commands/commands.js";
import type { CommandEntry } from "../commands/command-file.js";

/** Where the command's name stands: options of the program may come before it. */
export function firstWord(argv: readonly string[]): number {
  for (let i = 0; i < argv.length; i++) {
    const word = argv[i] ?? "";
    if (word === "-C" || word === "--workspace" || word === "--color") i++;
    else if (!word.startsWith("-")) return i;
  }
  return -1;
}

/** The command that a line calls, so that no other command's file is loaded. */
export function calledCommand(argv: readonly string[]): CommandEntry | undefined {
  const word = argv[firstWord(argv)];
  return commands.find(({ name }) => name === word);
}
