import { spawnSync } from "node:child_process";
import {
  chmodSync,
  cpSync,
  existsSync,
  mkdirSync,
  readdirSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from "node:fs";
import { dirname, join } from "node:path";
import { beforeAll, describe, expect, it } from "vitest";
import { projectRoot, read, temporaryFolder } from "../kit/run.js";

const run = (command: string, args: readonly string[], cwd: string) => {
  const { status, stdout, stderr } = spawnSync(command, [...args], {
    ...{ cwd, encoding: "utf8" as const },
    env: { ...process.env, LEXICANT_TODAY: "2026-11-25", COLUMNS: "100" },
  });
  return { exit: status, out: stdout, err: stderr };
};

interface Lock {
  readonly packages: Readonly<Record<string, Readonly<Record<string, unknown>>>>;
}

const folder = temporaryFolder();

/**
 * Installs the packed package into an empty folder as a user would: what package.json names and nothing else of the
 * project. The versions are those of the project's lock, so that what is installed already need not be fetched again.
 */
const install = (): void => {
  expect(
    run("npm", ["pack", "--ignore-scripts", "--silent", "--pack-destination", folder], projectRoot).exit,
  ).toBe(0);
  const [archive = ""] = readdirSync(folder);
  const own = JSON.parse(read(projectRoot, "package.json")) as Record<string, unknown>;
  const { packages } = JSON.parse(read(projectRoot, "package-lock.json")) as Lock;
  const dependencies = { lexicant: `file:${archive}` };
  const { version, bin, engines } = own;
  const used = Object.fromEntries(
    Object.entries(packages).filter(([path, one]) => path !== "" && one["dev"] !== true),
  );
  const lock = {
    name: "empty",
    lockfileVersion: 3,
    packages: {
      "": { name: "empty", dependencies },
      "node_modules/lexicant": {
        ...{ version, bin, engines, resolved: `file:${archive}` },
        dependencies: own["dependencies"],
      },
      ...used,
    },
  };
  writeFileSync(join(folder, "package.json"), JSON.stringify({ name: "empty", dependencies }));
  writeFileSync(join(folder, "package-lock.json"), JSON.stringify(lock));
  const flags = ["--ignore-scripts", "--prefer-offline", "--no-audit", "--no-fund", "--fetch-retries=0"];
  if (run("npm", ["ci", ...flags], folder).exit !== 0) {
    link(archive, Object.keys(used));
    return;
  }
  // Compiling the store's engine once more would take minutes; it is the same version.
  const engine = join("node_modules", "better-sqlite3", "build");
  cpSync(join(projectRoot, engine), join(folder, engine), { recursive: true });
};

/** Without a network and with nothing kept of before: the same packages, by links to where the project has them. */
const link = (archive: string, used: readonly string[]): void => {
  const own = join(folder, "node_modules", "lexicant");
  rmSync(join(folder, "node_modules"), { recursive: true, force: true });
  mkdirSync(join(folder, "node_modules", ".bin"), { recursive: true });
  mkdirSync(own);
  expect(run("tar", ["xzf", archive, "-C", own, "--strip-components", "1"], folder).exit).toBe(0);
  for (const path of used.filter((one) => one.lastIndexOf("node_modules") === 0)) {
    mkdirSync(dirname(join(folder, path)), { recursive: true });
    symlinkSync(join(projectRoot, path), join(folder, path));
  }
  chmodSync(join(own, "dist", "main.js"), 0o755);
  symlinkSync("../lexicant/dist/main.js", join(folder, "node_modules", ".bin", "lexicant"));
};

const lexicant = (args: readonly string[]) =>
  run(join(folder, "node_modules", ".bin", "lexicant"), args, folder);

describe("the package, installed into an empty folder", () => {
  beforeAll(install, 180_000);

  it("when its command is called, then it is the version that was packed", () => {
    expect(lexicant(["--version"]).out.trim()).toBe(
      (JSON.parse(read(projectRoot, "package.json")) as { version: string }).version,
    );
  });

  it("when the demo is begun and worked through, then every step does what it does here", () => {
    expect(lexicant(["demo", "shop", "--quiet"])).toMatchObject({
      exit: 0,
      err: expect.not.stringContaining("fault"),
    });
    expect(readdirSync(join(folder, "shop"))).toContain(".gitignore");
    for (const args of [
      ["show", "BC-1301-WHITE-M"],
      ["gaps", "merrowgate"],
      ["build"],
      ["sent", "merrowgate"],
      ["export", "all.xlsx"],
    ])
      expect([args, lexicant(["-C", "shop", ...args])]).toMatchObject([args, { exit: 0 }]);
    expect(lexicant(["-C", "shop", "check"]).exit).toBe(1);
  });

  it("when it is looked into, then it has what its pages show, and nothing that only makes it", () => {
    const inside = join(folder, "node_modules", "lexicant");
    for (const name of ["src", "test", "bench", "scripts"]) expect(readdirSync(inside)).not.toContain(name);
    const readme = read(inside, "README.md");
    const shown = [...readme.matchAll(/\]\(((?:docs|man)\/[^)#]+)/g)].map(([, path = ""]) => path);
    expect(shown.length).toBeGreaterThan(5);
    expect(shown.filter((path) => !existsSync(join(inside, path)))).toEqual([]);
    expect(existsSync(join(inside, "man", "lexicant.1"))).toBe(true);
  });
});
