import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import type { TestProject } from "vitest/node";
import { lexicantProcess } from "./process.js";

declare module "vitest" {
  interface ProvidedContext {
    /** The demo shop's workspace with all its files imported. Nobody writes to it: tests take copies. */
    readonly demoShop: string;
  }
}

/** Makes what all test files share, once. */
export default (project: TestProject): (() => void) => {
  const folder = mkdtempSync(join(tmpdir(), "lexicant-demo-"));
  const { exit, err } = lexicantProcess(folder, ["demo", "shop", "--quiet"]);
  if (exit !== 0) throw new Error(`the demo shop could not be made: ${err}`);
  project.provide("demoShop", join(folder, "shop"));
  return () => rmSync(folder, { recursive: true, force: true });
};
