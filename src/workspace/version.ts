/** Which program this is: the package's version, and the one that was built. */
import { existsSync, readFileSync } from "node:fs";
import { fileURLToPath } from "node:url";

/** The package's version. */
export function version(): string {
  const { version: own } = JSON.parse(
    readFileSync(new URL("../../package.json", import.meta.url), "utf8"),
  ) as {
    version: string;
  };
  return own;
}

const built = fileURLToPath(new URL("../../dist/.built", import.meta.url));

/**
 * What tells a program from one that was built before, beside its version: that one may have kept what this one would not
 * find. It is what the build noted of all the files that it was made from. A program that was packed has no such note:
 * its version tells it.
 */
export const builtFrom = (note = built): string => (existsSync(note) ? readFileSync(note, "utf8") : "");
