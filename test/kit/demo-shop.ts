import { inject } from "vitest";
import { join } from "node:path";
import { copyOf, lexicant, temporaryFolder } from "./run.js";

/** A copy of the demo shop's workspace with all its files imported. */
export const demoShop = (): string => copyOf(inject("demoShop"));

/** A copy of the same shop with a tenth of its goods. */
export const smallShop = (): string => copyOf(inject("smallShop"));

/** A new workspace with no files and one channel, for tests that bring their own. */
export const emptyShop = (...options: readonly string[]): string => {
  const folder = temporaryFolder();
  const { exit, err } = lexicant(folder, ["init", "shop", "--shop", "Brindlecote", ...options]);
  if (exit !== 0) throw new Error(`the workspace could not be made: ${err}`);
  return join(folder, "shop");
};
