import { readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { projectRoot } from "./run.js";

const pathOf = (file: string): string => join(projectRoot, "test", "cases", file);

/** A whole example that lies in `test/cases`. */
export const caseText = (file: string): string => readFileSync(pathOf(file), "utf8");

/** Writes an example anew, only where that is asked for: UPDATE_CASES=1. What changed is read in the diff. */
export const updateCase = (file: string, text: () => string): void => {
  if (process.env["UPDATE_CASES"] === "1") writeFileSync(pathOf(file), text());
};
