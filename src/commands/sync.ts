import { command } from "./command.js";
import type { CommandFile } from "./command-file.js";
export const sync: CommandFile = command({
  args: [],
  options: {},
  examples: [],
  run: () => Promise.resolve(2),
});
