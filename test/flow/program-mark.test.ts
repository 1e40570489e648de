import { utimesSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { programMark } from "../../src/flow/kept/program-mark.js";
import { temporaryFolder, write } from "../kit/run.js";

describe("what tells a program from one that was built before", () => {
  it("when any of its files is written anew, comes or goes, then it is another program; else it is the same", () => {
    const folder = temporaryFolder();
    for (const file of ["main.ts", "core/fill.ts", "core/notes.md"]) {
      write(folder, file, "");
      utimesSync(join(folder, file), 1000, 1000);
    }
    const marks = [programMark(folder)];
    utimesSync(join(folder, "core", "notes.md"), 2000, 2000);
    expect(programMark(folder)).toBe(marks[0]);
    utimesSync(join(folder, "core", "fill.ts"), 2000, 2000);
    marks.push(programMark(folder));
    write(folder, "core/check.ts", "");
    marks.push(programMark(folder));
    expect(new Set(marks).size).toBe(3);
  });
});
