import { spawnSync } from "node:child_process";
import { readdirSync, symlinkSync } from "node:fs";
import { join } from "node:path";
import { describe, expect, it } from "vitest";
import { projectRoot, read, temporaryFolder } from "../kit/run.js";

const run = (command: string, args: readonly string[], cwd: string) => {
  const { status, stdout, stderr } = spawnSync(command, [...args], { cwd, encoding: "utf8" });
  return { exit: status, out: stdout, err: stderr };
};

describe("the package", () => {
  it("when it is packed and unpacked elsewhere, then it runs with nothing else of the project", () => {
    const folder = temporaryFolder();
    const packed = run(
      "npm",
      ["pack", "--ignore-scripts", "--silent", "--pack-destination", folder],
      projectRoot,
    );
    expect(packed.exit).toBe(0);
    const [archive = ""] = readdirSync(folder);
    expect(run("tar", ["xzf", archive], folder).exit).toBe(0);
    // What the package depends on is what the project has installed; only the package itself is new.
    symlinkSync(join(projectRoot, "node_modules"), join(folder, "node_modules"));
    const main = join(folder, "package", "dist", "main.js");
    expect(run(process.execPath, [main, "--version"], folder).out.trim()).toBe(
      (JSON.parse(read(projectRoot, "package.json")) as { version: string }).version,
    );
    expect(run(process.execPath, [main, "demo", "shop", "--quiet"], folder)).toMatchObject({
      exit: 0,
      err: "",
    });
    expect(run(process.execPath, [main, "-C", "shop", "build"], folder)).toMatchObject({
      exit: 1,
      out: expect.stringContaining("listings written"),
    });
    const { bin } = JSON.parse(read(folder, "package/package.json")) as { bin: Record<string, string> };
    expect(bin).toEqual({ lexicant: "dist/main.js" });
    for (const name of ["src", "test", "bench"])
      expect(readdirSync(join(folder, "package"))).not.toContain(name);
  });
});
