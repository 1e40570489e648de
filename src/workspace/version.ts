import { readFileSync } from "node:fs";

/** The package's version. */
export const version = (): string => {
  const { version: own } = JSON.parse(
    readFileSync(new URL("../../package.json", import.meta.url), "utf8"),
  ) as {
    version: string;
  };
  return own;
};
