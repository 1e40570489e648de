import { execFileSync } from "node:child_process";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { programMark } from "../../src/flow/kept/program-mark.js";
import { projectRoot, temporaryFolder, write } from "../kit/run.js";

describe("what tells a program from one that was built before", () => {
  it("when any of its files is compiled anew, then it is another program; else it is the same", () => {
    const folder = temporaryFolder();
    const options = {
      outDir: "dist",
      rootDir: "src",
      incremental: true,
      tsBuildInfoFile: "dist/.tsbuildinfo",
      noCheck: true,
    };
    write(
      folder,
      "tsconfig.json",
      JSON.stringify({ compilerOptions: { ...options, types: [] }, include: ["src"] }),
    );
    write(folder, "src/mark.ts", "export const mark = 1;\n");
    const built = (): number => {
      execFileSync(process.execPath, [join(projectRoot, "node_modules/typescript/bin/tsc"), "-p", folder]);
      return programMark(join(folder, "dist"));
    };
    expect(programMark(join(folder, "dist"))).toBe(0);
    write(folder, "src/fill.ts", "export const fill = 1;\n");
    const before = built();
    expect(before).toBeGreaterThan(0);
    write(folder, "src/fill.ts", "export const fill = 2;\n");
    const after = built();
    expect(after).toBeGreaterThan(before);
    expect(programMark(join(folder, "dist"))).toBe(after);
  });
});
