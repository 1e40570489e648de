import { join } from "node:path";
import { copyOf, lexicant, temporaryFolder } from "./run.js";

let made: string | undefined;

/** A copy of the demo shop's workspace with all its files imported; made once for a test file. */
export const demoShop = (): string => {
  if (made === undefined) {
    const folder = temporaryFolder();
    const { exit, err } = lexicant(folder, ["demo", "shop", "--quiet"]);
    if (exit !== 0) throw new Error(`the demo shop could not be made: ${err}`);
    made = join(folder, "shop");
  }
  return copyOf(made);
};

/** A new workspace with no files and one channel, for tests that bring their own. */
export const emptyShop = (...options: readonly string[]): string => {
  const folder = temporaryFolder();
  const { exit, err } = lexicant(folder, ["init", "shop", "--shop", "Brindlecote", ...options]);
  if (exit !== 0) throw new Error(`the workspace could not be made: ${err}`);
  return join(folder, "shop");
};
