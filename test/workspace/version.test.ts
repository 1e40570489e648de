import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { builtFrom, version } from "../../src/workspace/version.js";
import { projectRoot, read, temporaryFolder, write } from "../kit/run.js";

describe("which program this is", () => {
  it("when the program is built from other files, then it is another one; packed, its version alone tells it", () => {
    const folder = temporaryFolder();
    expect(builtFrom(join(folder, "noted"))).toBe("");
    write(folder, "noted", "one");
    expect(builtFrom(join(folder, "noted"))).toBe("one");
    write(folder, "noted", "two");
    expect(builtFrom(join(folder, "noted"))).toBe("two");
  });

  it("when nothing else is said, then it is what the build noted, and the package's version", () => {
    expect(builtFrom()).toBe(read(projectRoot, "dist/.built"));
    expect(builtFrom()).toMatch(/^[0-9a-f]{64}$/);
    expect(version()).toBe(
      (JSON.parse(read(projectRoot, "package.json")) as { readonly version: string }).version,
    );
  });
});
